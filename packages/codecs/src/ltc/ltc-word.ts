/** What one frame of linear time code says. `userBits` are eight digits of 0–15, the first binary group first. */
export interface LtcTime {
  readonly hours: number;
  readonly minutes: number;
  readonly seconds: number;
  readonly frames: number;
  readonly dropFrame: boolean;
  readonly userBits: readonly number[];
}

/** The sync word that ends a code word, its first bit highest (SMPTE ST 12-1 section 9.2.4). */
export const syncForwards = 0x3ffd;
/** The same as it is heard while the sound plays backwards. */
export const syncBackwards = 0xbffc;

/** Where the digits of the time stand in the code word: first bit, and how many (SMPTE ST 12-1 table 3). */
const places = {
  frames: [0, 4, 8, 2],
  seconds: [16, 4, 24, 3],
  minutes: [32, 4, 40, 3],
  hours: [48, 4, 56, 2],
} as const;
const dropFrameBit = 10;
/** The polarity correction bit; at 25 frames a second it has another place (ST 12-1 table 3). */
const polarityBit = (isAt25: boolean): number => (isAt25 ? 59 : 27);

/**
 * The 80 bits of a code word, in the order in which they are sent. The polarity correction bit makes the number of
 * zeros even, so that every word begins with the same polarity (ST 12-1 section 9.2.3).
 */
export function wordOf(time: LtcTime, isAt25: boolean): Uint8Array {
  const bits = new Uint8Array(80);
  const put = (at: number, count: number, value: number) => {
    for (let bit = 0; bit < count; bit += 1) bits[at + bit] = (value >> bit) & 1;
  };
  for (const [part, [units, unitBits, tens, tenBits]] of Object.entries(places)) {
    const value = time[part as keyof typeof places];
    put(units, unitBits, value % 10);
    put(tens, tenBits, Math.floor(value / 10));
  }
  bits[dropFrameBit] = time.dropFrame ? 1 : 0;
  for (let group = 0; group < 8; group += 1) put(4 + group * 8, 4, time.userBits[group] ?? 0);
  for (let bit = 0; bit < 16; bit += 1) bits[64 + bit] = (syncForwards >> (15 - bit)) & 1;
  const zeros = bits.reduce((sum, bit) => sum + 1 - bit, 0);
  if (zeros % 2 === 1) bits[polarityBit(isAt25)] = 1;
  return bits;
}

/** Reads a code word; undefined where its digits are no time, as when a bit was lost. */
export function timeOfWord(bits: Uint8Array): LtcTime | undefined {
  const get = (at: number, count: number) => {
    let value = 0;
    for (let bit = 0; bit < count; bit += 1) value |= (bits[at + bit] ?? 0) << bit;
    return value;
  };
  const of = ([units, unitBits, tens, tenBits]: (typeof places)[keyof typeof places]) => {
    const unit = get(units, unitBits);
    return unit > 9 ? NaN : get(tens, tenBits) * 10 + unit;
  };
  const [frames, seconds, minutes, hours] = [
    of(places.frames),
    of(places.seconds),
    of(places.minutes),
    of(places.hours),
  ];
  // NaN is not below anything
  if (!(frames < 30 && seconds < 60 && minutes < 60 && hours < 24)) return undefined;
  const userBits = Array.from({ length: 8 }, (_, group) => get(4 + group * 8, 4));
  return { hours, minutes, seconds, frames, dropFrame: bits[dropFrameBit] === 1, userBits };
}
