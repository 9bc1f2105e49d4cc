export { notations, notationWords, readOsc, writtenOsc } from './osc-notation.ts';
export { aimedAt, bodyOf, commandOf, faultOf, lineOf, messageWords, oscOf, placesOf, triggering } from './messages.ts';
export { checkName, namesIn, knownNames } from './names.ts';
export { messageFor, planSeries, readList, seriesItems } from './series.ts';
export {
  cuesInOrder,
  freeNumbers,
  numberBetween,
  planAddCue,
  planCopyCue,
  planEditCue,
  planMoveCue,
  planRemoveCue,
  planRenumber,
} from './order.ts';
export { planProofs } from './proofs.ts';
export { planTakeNames, structureNews } from './structure.ts';
export { firstMessage, messageWith, targetsOf } from './targets.ts';
export { findInMessages, planReplace } from './replace.ts';
export {
  basisOfCue,
  circlesOf,
  cueCounts,
  loadOf,
  proofOf,
  startedBy,
  startKey,
  startWords,
  takesInput,
} from './triggers.ts';
export { cueRules, cueWords, findCues } from './find-cues.ts';
export type { Notation, NotationFault, OscText, OscValue } from './osc-notation.ts';
export type { CueTarget } from './targets.ts';
export type { Aimed } from './messages.ts';
export type { NameCheck, NamesOf } from './names.ts';
export type { SeriesItem } from './series.ts';
export type { Gone, StructureNews } from './structure.ts';
export type { Replaced, Wanted } from './replace.ts';
