/** How many values follow the channel of each channel message (MIDI 1.0, table 2). */
const values: Readonly<Record<string, number>> = {
  'note-off': 2,
  'note-on': 2,
  'key-pressure': 2,
  'control-change': 2,
  'program-change': 1,
  'channel-pressure': 1,
  'pitch-bend': 1,
};

/** Do words such as “control-change 1 7 90” stand for a MIDI message? A bend is one number from -8192 to 8191. */
export function isMidiMessage(text: string): boolean {
  const [kind = '', channel = '', ...data] = text.split(' ');
  const [low, high] = kind === 'pitch-bend' ? [-8192, 8191] : [0, 127];
  return values[kind] === data.length && isWhole(channel, 1, 16) && data.every((value) => isWhole(value, low, high));
}

const isWhole = (text: string, low: number, high: number): boolean =>
  /^[+-]?\d+(\.0+)?$/.test(text) && Number(text) >= low && Number(text) <= high;
