/** One MIDI message as its bytes, status first (MIDI 1.0). */
export type MidiMessage = readonly number[];

const channelWords = {
  0x80: 'note-off',
  0x90: 'note-on',
  0xa0: 'key-pressure',
  0xb0: 'control-change',
  0xc0: 'program-change',
  0xd0: 'channel-pressure',
  0xe0: 'pitch-bend',
} as const;
const oneByte: ReadonlySet<number> = new Set([0xc0, 0xd0]);

/** How many data bytes follow a status; undefined for the start of a system exclusive message. */
export function dataBytes(status: number): number | undefined {
  if (status < 0xf0) return oneByte.has(status & 0xf0) ? 1 : 2;
  if (status === 0xf0) return undefined;
  return status === 0xf2 ? 2 : status === 0xf1 || status === 0xf3 ? 1 : 0;
}

/** A message in words: kind, channel from 1, then its values; a bend as one number from -8192 to 8191. */
export function midiWords(message: MidiMessage): string {
  const [status = 0, first = 0, second = 0] = message;
  if (status < 0x80) return `not a message: ${hex(message)}`;
  if (status < 0xf0) {
    const word = channelWords[(status & 0xf0) as keyof typeof channelWords];
    const channel = (status & 15) + 1;
    if ((status & 0xf0) === 0xe0) return `${word} ${channel} ${first + second * 128 - 8192}`;
    return [word, channel, ...message.slice(1)].join(' ');
  }
  if (status === 0xf1) return `quarter-frame ${first >> 4} ${first & 15}`;
  if (status === 0xf0) return `system-exclusive ${hex(message)}`;
  return `system ${hex(message)}`;
}

/** What moved, in words without the value, and where it stands now: a note that is let go stands at 0. */
export interface MidiControl {
  readonly address: string;
  readonly value: number;
}

/** The control that a message of a channel moves; undefined for any other message. */
export function midiControl(message: MidiMessage): MidiControl | undefined {
  const [status = 0] = message;
  if (status < 0x80 || status >= 0xf0) return undefined;
  const isLetGo = (status & 0xf0) === 0x80;
  const words = midiWords(isLetGo ? [status | 0x10, message[1] ?? 0, 0] : message).split(' ');
  return { address: words.slice(0, -1).join(' '), value: Number(words.at(-1)) };
}

/** The message that words of this form stand for; undefined when a word or a number does not fit. */
export function midiFromWords(text: string): MidiMessage | undefined {
  const [word = '', ...numbers] = text.trim().split(/\s+/);
  const found = Object.entries(channelWords).find(([, name]) => name === word);
  const [channel = 0, ...values] = numbers.map((number) => (/^[+-]?\d+(\.0+)?$/.test(number) ? Number(number) : NaN));
  if (!found || !isWithin(channel, 1, 16)) return undefined;
  const status = Number(found[0]);
  const bends = status === 0xe0;
  const fits = bends
    ? values.length === 1 && values.every((n) => isWithin(n, -8192, 8191))
    : values.length === dataBytes(status) && values.every((n) => isWithin(n, 0, 127));
  if (!fits) return undefined;
  return [status | (channel - 1), ...(bends ? bend(values[0] ?? 0) : values)];
}

const isWithin = (n: number, low: number, high: number): boolean => Number.isInteger(n) && n >= low && n <= high;
const bend = (value: number): number[] => [(value + 8192) & 127, (value + 8192) >> 7];
const hex = (bytes: readonly number[]): string => bytes.map((byte) => byte.toString(16).padStart(2, '0')).join(' ');
