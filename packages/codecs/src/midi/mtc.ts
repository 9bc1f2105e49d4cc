import type { MidiMessage } from './midi.ts';

/** A time of MIDI time code: `rate` is the number in the code, 0 for 24, 1 for 25, 2 for 29.97 drop and 3 for 30 frames. */
export interface MtcTime {
  readonly hours: number;
  readonly minutes: number;
  readonly seconds: number;
  readonly frames: number;
  readonly rate: 0 | 1 | 2 | 3;
}

/** One of the eight quarter frames that together tell a time (MIDI time code, F1 0nnndddd). */
export function quarterFrame(piece: number, { hours, minutes, seconds, frames, rate }: MtcTime): MidiMessage {
  const whole = [frames, frames >> 4, seconds, seconds >> 4, minutes, minutes >> 4, hours, (hours >> 4) | (rate << 1)];
  return [0xf1, (piece << 4) | ((whole[piece] ?? 0) & 15)];
}

/** The whole time in one message, sent where the code starts or jumps. */
export const fullFrame = ({ hours, minutes, seconds, frames, rate }: MtcTime): MidiMessage => [
  ...[0xf0, 0x7f, 0x7f, 0x01, 0x01],
  ...[(rate << 5) | hours, minutes, seconds, frames],
  0xf7,
];

/** A piece of time code by itself: which of the eight and its four bits, or a whole time. */
export type MtcPiece =
  | { readonly kind: 'quarter'; readonly piece: number; readonly value: number }
  | { readonly kind: 'full'; readonly time: MtcTime };

/** Reads one message of MIDI time code; undefined where it is none. */
export function readMtc(message: MidiMessage): MtcPiece | undefined {
  if (message[0] === 0xf1 && message.length === 2 && (message[1] ?? 0) < 0x80)
    return { kind: 'quarter', piece: (message[1] ?? 0) >> 4, value: (message[1] ?? 0) & 15 };
  const time = message[0] === 0xf0 ? readFullFrame(message) : undefined;
  return time && { kind: 'full', time };
}

/** Collects quarter frames and full frames; gives a time once all eight pieces came in order, forwards or backwards. */
export class MtcReader {
  private pieces: (number | undefined)[] = [];
  private last: number | undefined;

  push(message: MidiMessage): MtcTime | undefined {
    if (message[0] === 0xf0) {
      const time = readFullFrame(message);
      // the code jumped: what came before it belongs to another time
      if (time) this.forget();
      return time;
    }
    if (message[0] !== 0xf1) return undefined;
    const [piece, value] = [(message[1] ?? 0) >> 4, (message[1] ?? 0) & 15];
    const step = this.last === undefined ? 0 : (piece - this.last + 8) % 8;
    if (step !== 1 && step !== 7) this.pieces = [];
    this.last = piece;
    this.pieces[piece] = value;
    const ends = step === 7 ? 0 : 7;
    if (piece !== ends || [0, 1, 2, 3, 4, 5, 6, 7].some((n) => this.pieces[n] === undefined)) return undefined;
    const time = timeOf(this.pieces as number[]);
    this.pieces = [];
    return time;
  }

  private forget(): void {
    this.pieces = [];
    this.last = undefined;
  }
}

function timeOf(pieces: readonly number[]): MtcTime {
  const pair = (at: number, mask: number) => (((pieces[at + 1] ?? 0) << 4) | (pieces[at] ?? 0)) & mask;
  return {
    frames: pair(0, 31),
    seconds: pair(2, 63),
    minutes: pair(4, 63),
    hours: pair(6, 31),
    rate: (((pieces[7] ?? 0) >> 1) & 3) as MtcTime['rate'],
  };
}

function readFullFrame(message: MidiMessage): MtcTime | undefined {
  if (message.length !== 10 || message[1] !== 0x7f || message[3] !== 1 || message[4] !== 1) return undefined;
  const [lead = 0, minutes = 0, seconds = 0, frames = 0] = message.slice(5, 9);
  return { hours: lead & 31, minutes, seconds, frames, rate: ((lead >> 5) & 3) as MtcTime['rate'] };
}
