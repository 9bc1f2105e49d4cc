import { CaptureReader, readDatagram, readMtc, readRtpMidi, type CaptureSummary } from '@deep-patch/codecs';
import { timecode } from '@deep-patch/core';

/** Time code of one stream in a capture. */
export interface MidiStream {
  readonly from: string;
  readonly to: string;
  readonly reading: timecode.MidiReading;
}
export type MidiAnswer =
  | { readonly say: 'progress'; readonly share: number }
  | {
      readonly say: 'done';
      readonly streams: readonly MidiStream[];
      readonly frames: number;
      readonly fault: CaptureSummary['fault'];
    };

const answer = (message: MidiAnswer) => self.postMessage(message);
const mostStreams = 50;
const ticksPerSecond = 10_000;

/** Finds MIDI time code in a packet capture: every stream of RTP-MIDI (RFC 6295) by who sends it to whom. */
self.onmessage = ({ data }: MessageEvent<Blob>) => void read(data);

async function read(file: Blob): Promise<void> {
  const streams = new Map<string, { from: string; to: string; reader: timecode.MidiReader }>();
  const capture = new CaptureReader((frame) => {
    const datagram = readDatagram(frame);
    if (!datagram) return;
    const heard = readRtpMidi(datagram.bytes);
    if (!heard.ok || heard.packet.kind !== 'midi') return;
    const { packet } = heard;
    const key = `${datagram.source}:${datagram.sourcePort} ${datagram.destination}:${datagram.destinationPort} ${packet.ssrc}`;
    let delta = 0;
    const total = packet.messages.reduce((sum, message) => sum + message.delta, 0);
    for (const message of packet.messages) {
      delta += message.delta;
      const piece = readMtc(message.bytes);
      if (!piece) continue;
      const stream = streams.get(key) ?? {
        from: datagram.source,
        to: datagram.destination,
        reader: new timecode.MidiReader(),
      };
      if (!streams.has(key) && streams.size >= mostStreams) return;
      streams.set(key, stream);
      // the last message of a packet is of the moment in which it was sent
      const at = (frame.atMs ?? 0) / 1000 - (total - delta) / ticksPerSecond;
      if (piece.kind === 'quarter') stream.reader.quarter(at, piece.piece, piece.value);
      else stream.reader.full(at, piece.time.rate, piece.time);
    }
  });
  const source = file.stream().getReader();
  let [done, told] = [0, performance.now()];
  for (;;) {
    const { done: isOver, value } = await source.read();
    if (isOver) break;
    capture.push(value);
    done += value.length;
    if (performance.now() - told < 100) continue;
    told = performance.now();
    answer({ say: 'progress', share: done / file.size });
  }
  const summary = capture.end();
  const found = [...streams.values()].map(({ from, to, reader }) => ({ from, to, reading: reader.reading() }));
  answer({
    say: 'done',
    streams: found.sort((a, b) => b.reading.quarters - a.reading.quarters),
    frames: summary.frames,
    fault: summary.fault,
  });
}
