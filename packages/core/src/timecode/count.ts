import { framesPerDay, type Rate } from './rates.ts';

/** A time as the code writes it. */
export interface CodeTime {
  readonly hours: number;
  readonly minutes: number;
  readonly seconds: number;
  readonly frames: number;
}

/** Numbers that drop-frame leaves out (ST 12-1 section 5.2.2): the first ones of each minute but every tenth. */
export const isDropped = ({ minutes, seconds, frames }: CodeTime, { drops }: Rate): boolean =>
  frames < drops && seconds === 0 && minutes % 10 !== 0;

/** Frames from 00:00:00:00 to this time. One that is left out counts as the first that follows it. */
export function framesOf(time: CodeTime, rate: Rate): number {
  const { hours, minutes, seconds } = time;
  const frames = isDropped(time, rate) ? rate.drops : time.frames;
  const whole = hours * 60 + minutes;
  const left = rate.drops * (whole - Math.floor(whole / 10));
  return (whole * 60 + seconds) * rate.counts + frames - left;
}

/** The time so many frames after 00:00:00:00, over midnight either way. */
export function timeAfter(frames: number, rate: Rate): CodeTime {
  const { counts, drops } = rate;
  const day = framesPerDay(rate);
  const within = ((frames % day) + day) % day;
  const perMinute = counts * 60 - drops;
  const perTen = counts * 600 - drops * 9;
  const tens = Math.floor(within / perTen);
  const rest = within % perTen;
  // the first minute of ten has all its numbers
  const minute = rest < counts * 60 ? 0 : 1 + Math.floor((rest - counts * 60) / perMinute);
  const number = within + drops * (tens * 9 + minute);
  const seconds = Math.floor(number / counts);
  return {
    hours: Math.floor(seconds / 3600),
    minutes: Math.floor(seconds / 60) % 60,
    seconds: seconds % 60,
    frames: number % counts,
  };
}

/** Seconds that pass in so many frames. */
export const secondsOf = (frames: number, { over, under }: Rate): number => (frames * under) / over;

/** The sample at which a frame begins: the first whole one at or after it. */
export const samplesOf = (frames: number, { over, under }: Rate, sampleRate: number): number =>
  Math.ceil((frames * under * sampleRate) / over);

/** The frame that this sample falls into. */
export const frameAtSample = (sample: number, { over, under }: Rate, sampleRate: number): number =>
  Math.floor((sample * over) / (under * sampleRate));

const two = (value: number): string => String(value).padStart(2, '0');

/** As it is written: the last sign is ; where numbers are left out (ST 12-1 section 5.2.2 and common use). */
export const timeWords = ({ hours, minutes, seconds, frames }: CodeTime, { drops }: Pick<Rate, 'drops'>): string =>
  `${two(hours)}:${two(minutes)}:${two(seconds)}${drops > 0 ? ';' : ':'}${two(frames)}`;

/** A time as it was typed, or what is wrong with it. */
export type TypedTime = { readonly time: CodeTime; readonly moved: boolean } | { readonly fault: string };

/**
 * Reads what somebody typed: parts with : ; . or blanks between them, or digits alone. Fewer than four parts are the last
 * ones. A number that drop-frame leaves out becomes the next one, and `moved` says so.
 */
export function readTime(text: string, rate: Rate): TypedTime {
  const trimmed = text.trim();
  const parts = /^\d{1,8}$/.test(trimmed) ? digitsInPairs(trimmed) : trimmed.split(/[:;.,\s]+/);
  if (trimmed === '' || parts.length > 4 || !parts.every((part) => /^\d{1,2}$/.test(part)))
    return { fault: 'Type hours, minutes, seconds and frames, such as 10:04:31:08.' };
  const [frames = 0, seconds = 0, minutes = 0, hours = 0] = parts.map(Number).reverse();
  if (hours > 23) return { fault: `Hours end at 23, and this has ${hours}.` };
  if (minutes > 59) return { fault: `Minutes end at 59, and this has ${minutes}.` };
  if (seconds > 59) return { fault: `Seconds end at 59, and this has ${seconds}.` };
  if (frames >= rate.counts)
    return { fault: `At ${rate.label} frames end at ${rate.counts - 1}, and this has ${frames}.` };
  const time = { hours, minutes, seconds, frames };
  return isDropped(time, rate) ? { time: { ...time, frames: rate.drops }, moved: true } : { time, moved: false };
}

function digitsInPairs(digits: string): string[] {
  const even = digits.length % 2 === 0 ? digits : `0${digits}`;
  return even.match(/../g) ?? [];
}

/** The same moment in another rate: its frame there, and how much of a second the two are apart. */
export interface Converted {
  readonly frames: number;
  readonly time: CodeTime;
  /** Seconds by which it begins earlier than asked for: what cannot be said in that rate. */
  readonly lost: number;
  /** Frames of the first rate that share this frame with others, or frames of the other one that none of the first begins. */
  readonly gearing: 'equal' | 'several' | 'gaps';
}

/** Converts by true time, from the same zero: what happens at a moment, happens in that frame of the other rate. */
export function convert(frames: number, from: Rate, to: Rate): Converted {
  // in whole numbers, so that a frame which begins at the same moment is the same
  const there = Math.floor((frames * from.under * to.over) / (from.over * to.under));
  const ratio = (from.over * to.under) / (to.over * from.under);
  return {
    frames: there,
    time: timeAfter(there, to),
    lost: secondsOf(frames, from) - secondsOf(there, to),
    gearing: ratio === 1 ? 'equal' : ratio > 1 ? 'several' : 'gaps',
  };
}

/** Seconds until two clocks that are so many parts per million apart have lost a frame against each other. */
export const secondsToLoseFrame = (partsPerMillion: number, rate: Rate): number =>
  partsPerMillion === 0 ? Infinity : secondsOf(1, rate) / (Math.abs(partsPerMillion) / 1e6);
