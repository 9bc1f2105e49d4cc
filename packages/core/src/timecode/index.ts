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
export { carriedRates, framesPerDay, framesPerSecond, rates } from './rates.ts';
export { breakWords, clockWords, codeWords, readingLines, userBitsWords } from './reading-words.ts';
export { MidiReader } from './midi-reading.ts';
export { ReadingBuilder, timesFrom } from './reading.ts';
export type { Break } from './breaks.ts';
export type { CodeTime, Converted, TypedTime } from './count.ts';
export type { Rate } from './rates.ts';
export type { MidiReading } from './midi-reading.ts';
export type { Reading, Word } from './reading.ts';
export { chainsOf, hopOf, nameBreak, saidName } from './chain.ts';
export { findTimecode, timecodeWords, timeRules } from './find-timecode.ts';
export { formatWords } from './rules/chains.ts';
export { midiServiceOf, planHop, planRate, planRemoveHop, sharedFormats } from './plan-hops.ts';
export { driverOf, sessionsOf } from './sessions.ts';
export { stationPlan } from './stations.ts';
export type { MidiDriver, Session } from './sessions.ts';
export type { StationPlan } from './stations.ts';
export type { Chain, Hop, HopFault, Station } from './chain.ts';
