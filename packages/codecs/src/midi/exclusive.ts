import type { MidiMessage } from './midi.ts';

const [begin, end] = [0xf0, 0xf7];
/** A message that grows beyond this is given up. */
const mostBytes = 65_536;

/**
 * Joins a system exclusive message that came in segments (RFC 6295 section 3.2): the first ends with F0, those between
 * begin with F7 and end with F0, the last ends with F7, or with F4 where the sender gave it up. Real-time messages may
 * stand between segments and pass at once.
 */
export class ExclusiveJoiner {
  private parts: number[] | undefined;

  /** The whole message, once it is; undefined for a segment. Anything that is not one passes as it is. */
  push(message: MidiMessage): MidiMessage | undefined {
    const [lead = 0] = message;
    if (lead !== begin && lead !== end) {
      if (lead < 0xf8) this.parts = undefined;
      return message;
    }
    const last = message.at(-1);
    if (lead === begin) {
      this.parts = undefined;
      if (last === end) return message;
      this.parts = message.slice(0, -1);
      return undefined;
    }
    // what continues a message of which the start was lost
    if (!this.parts) return undefined;
    const parts = [...this.parts, ...message.slice(1, -1)];
    this.parts = last === begin && parts.length <= mostBytes ? parts : undefined;
    return last === end ? [...parts, end] : undefined;
  }
}

/** A long message in segments of at most `most` bytes each, marks included. */
export function segments(message: MidiMessage, most: number): MidiMessage[] {
  if (message[0] !== begin || message.length <= most) return [message];
  const data = message.slice(1, -1);
  const each = most - 2;
  const count = Math.ceil(data.length / each);
  return Array.from({ length: count }, (_, n) => [
    n === 0 ? begin : end,
    ...data.slice(n * each, (n + 1) * each),
    n === count - 1 ? end : begin,
  ]);
}
