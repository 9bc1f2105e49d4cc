/** Hands on what the microphone hears, in blocks of the size that the browser has. */
declare class AudioWorkletProcessor {
  readonly port: MessagePort;
}
declare function registerProcessor(name: string, processor: new () => AudioWorkletProcessor): void;

registerProcessor(
  'ears',
  class extends AudioWorkletProcessor {
    private held: Float32Array[] = [];

    process([input]: Float32Array[][]): boolean {
      const [channel] = input ?? [];
      if (channel) this.held.push(channel.slice());
      // blocks are 128 samples: a message for each would be four hundred a second
      if (this.held.length >= 16) {
        const all = new Float32Array(this.held.reduce((sum, block) => sum + block.length, 0));
        let at = 0;
        for (const block of this.held) {
          all.set(block, at);
          at += block.length;
        }
        this.port.postMessage(all, [all.buffer]);
        this.held = [];
      }
      return true;
    }
  },
);
