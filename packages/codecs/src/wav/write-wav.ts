/** The head of a WAV file with one channel of whole numbers (RIFF, format tag 1); `samples` is how many follow. */
export function wavHead(sampleRate: number, bits: 16 | 24, samples: number): Uint8Array<ArrayBuffer> {
  const width = bits / 8;
  const size = samples * width;
  const head = new Uint8Array(44);
  const view = new DataView(head.buffer);
  const text = (at: number, words: string) => Array.from(words, (sign, n) => view.setUint8(at + n, sign.charCodeAt(0)));
  text(0, 'RIFF');
  view.setUint32(4, 36 + size + (size % 2), true);
  text(8, 'WAVEfmt ');
  view.setUint32(16, 16, true);
  view.setUint16(20, 1, true);
  view.setUint16(22, 1, true);
  view.setUint32(24, sampleRate, true);
  view.setUint32(28, sampleRate * width, true);
  view.setUint16(32, width, true);
  view.setUint16(34, bits, true);
  text(36, 'data');
  view.setUint32(40, size, true);
  return head;
}

/** Samples as whole numbers, the low byte first; what is beyond full scale is clipped. */
export function pcmOf(samples: Float32Array, bits: 16 | 24): Uint8Array<ArrayBuffer> {
  const width = bits / 8;
  const most = 2 ** (bits - 1) - 1;
  const out = new Uint8Array(samples.length * width);
  samples.forEach((sample, n) => {
    const value = Math.round(Math.min(1, Math.max(-1, sample)) * most);
    for (let byte = 0; byte < width; byte += 1) out[n * width + byte] = (value >> (8 * byte)) & 255;
  });
  return out;
}
