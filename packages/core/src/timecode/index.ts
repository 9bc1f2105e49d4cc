export {
  convert,
  frameAtSample,
  framesOf,
  isDropped,
  readTime,
  samplesOf,
  secondsOf,
  secondsToLoseFrame,
  timeAfter,
  timeWords,
} from './count.ts';
export { carriedRates, framesPerDay, framesPerSecond, rateKeys, rates } from './rates.ts';
export { breakWords, clockWords, codeWords, readingLines, userBitsWords } from './reading-words.ts';
export { MidiReader } from './midi-reading.ts';
export { ReadingBuilder, timesFrom } from './reading.ts';
export type { Break } from './breaks.ts';
export type { CodeTime, Converted, TypedTime } from './count.ts';
export type { Rate, RateKey } from './rates.ts';
export type { MidiReading } from './midi-reading.ts';
export type { Reading, Word } from './reading.ts';
