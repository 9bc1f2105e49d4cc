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

/** The message that words of this form stand for; undefined when a word or a number does not fit. */
export function midiFromWords(text: string): MidiMessage | undefined {
  const [word = '', ...numbers] = text.trim().split(/\s+/);
  const found = Object.entries(channelWords).find(([, name]) => name === word);
  const [channel = 0, ...values] = numbers.map(Number);
  if (!found || !Number.isInteger(channel) || channel < 1 || channel > 16) return undefined;
  const status = Number(found[0]);
  const data = status === 0xe0 && values.length === 1 ? bend(values[0] ?? 0) : values;
  const fits = data.length === dataBytes(status) && data.every((n) => Number.isInteger(n) && n >= 0 && n < 128);
  return fits ? [status | (channel - 1), ...data] : undefined;
}

const bend = (value: number): number[] => [(value + 8192) & 127, (value + 8192) >> 7];
const hex = (bytes: readonly number[]): string => bytes.map((byte) => byte.toString(16).padStart(2, '0')).join(' ');
