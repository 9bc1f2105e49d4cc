import type { Break } from './breaks.ts';
import { secondsToLoseFrame, timeWords, type CodeTime } from './count.ts';
import { rates, type Rate } from './rates.ts';
import type { Reading } from './reading.ts';

const frames = (count: number): string => (count === 1 ? '1 frame' : `${count} frames`);

/** One break in a few words, as it stands beside its place. */
export function breakWords({ kind, frames: count, before, after, lasts }: Break, rate: Rate): string {
  const said = (time: CodeTime | undefined) => (time ? timeWords(time, rate) : 'nothing');
  switch (kind) {
    case 'missing':
      return `${frames(count)} missing`;
    case 'pause':
      return `silent for ${lasts.toFixed(2)} s, and goes on where it stopped`;
    case 'jump':
      return `jumps on by ${spanWords(count, rate)}, to ${said(after)}`;
    case 'jump_back':
      return `jumps back by ${spanWords(count, rate)}, to ${said(after)}`;
    case 'repeated':
      return `${said(before)} is said again, ${count === 1 ? 'once' : `${count} times`}`;
    case 'wrong':
      return `one word says something else, after ${said(before)}`;
    case 'damaged':
      return `${count === 1 ? '1 word' : `${count} words`} with digits that are no time`;
    case 'turns':
      return 'the direction changes';
  }
}

/** A number of frames as seconds and frames where that is shorter to say. */
function spanWords(count: number, { counts }: Rate): string {
  const seconds = Math.floor(count / counts);
  const rest = count % counts;
  if (seconds === 0) return frames(count);
  return rest === 0 ? `${seconds} s` : `${seconds} s and ${frames(rest)}`;
}

/** How exact its clock is, and what that means. */
export function clockWords({ clock, rate }: Reading): string {
  if (!clock) return 'not at its usual speed: its clock says nothing';
  const { ppm, error } = clock;
  if (Math.abs(ppm) <= Math.max(1, 2 * error)) return `exact to ${Math.max(1, 2 * error).toFixed(0)} ppm`;
  const minutes = secondsToLoseFrame(ppm, rates[rate]) / 60;
  const lasts = minutes < 2 ? `${(minutes * 60).toFixed(0)} s` : `${minutes.toFixed(0)} min`;
  return `${Math.abs(ppm).toFixed(0)} ppm ${ppm > 0 ? 'fast' : 'slow'}: one frame in ${lasts}`;
}

/** The speed as people say it. */
export function speedWords({ speed }: Reading): string {
  if (Math.abs(speed.mean - 1) < 0.002) return 'at its usual speed';
  const steady = speed.greatest / speed.least < 1.05;
  return steady
    ? `at ${speed.mean.toPrecision(3)} times its speed`
    : `from ${speed.least.toPrecision(2)} to ${speed.greatest.toPrecision(2)} times its speed`;
}

/** What the code is, in one line. */
export function codeWords(reading: Reading): string {
  const rate = rates[reading.rate];
  const name = reading.isSure || rate.counts !== 30 ? rate.label : '30 or 29.97';
  const drop = { yes: '', no: rate.counts === 30 ? ', not drop-frame' : '', changes: ', drop-frame for a part only' };
  const way = { forwards: 'forwards', backwards: 'backwards', both: 'forwards and backwards' }[reading.direction];
  return `linear time code at ${name}${drop[reading.dropFrame]} · ${way}, ${speedWords(reading)}`;
}

/** The whole reading as lines of text. */
export function readingLines(reading: Reading): string[] {
  const rate = rates[reading.rate];
  return [
    codeWords(reading),
    `first ${timeWords(reading.first, rate)}`,
    `last ${timeWords(reading.last, rate)}`,
    `words ${reading.words} of ${reading.expected}`,
    `user bits ${userBitsWords(reading.userBits.first)}${reading.userBits.changes > 0 ? `, changing ${reading.userBits.changes} times` : ''}`,
    `level ${reading.level.mean.toFixed(1)} dB of full scale`,
    `clock ${clockWords(reading)}`,
    ...(reading.impossible > 0 ? [`${frames(reading.impossible)} that drop-frame leaves out`] : []),
    ...reading.breaks.map((found) => `at ${found.at.toFixed(3)} s: ${breakWords(found, rate)}`),
    ...(reading.moreBreaks > 0 ? [`and ${reading.moreBreaks} more breaks`] : []),
  ];
}

/** Eight digits in pairs. */
export const userBitsWords = (bits: readonly number[]): string =>
  bits
    .map((group) => group.toString(16))
    .join('')
    .replace(/(..)(?=.)/g, '$1 ');
