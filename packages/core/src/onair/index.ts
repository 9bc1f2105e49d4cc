export {
  airInputs,
  airInputsOf,
  callerNames,
  callerOn,
  callersOf,
  isPlayer,
  linkOf,
  listsOf,
  offeredList,
  planDeclare,
  planForgetRule,
  planRule,
  ruleOf,
  usualRule,
  switchersOf,
} from './inputs.ts';
export { framesFor } from '../links/index.ts';
export { expectedMoves, settingOf, spreadOf, takeDelay } from './take-delay.ts';
export { firstDifference, inMoments, pictureRate, readDeeds, whatHappens } from './what-happens.ts';
export { actionFaults, folderNews, planFollowFolder, planMoveClip, unplayable } from './lists.ts';
export { linkedGroups, openItems, outputsOf, outputWords, planOutput } from './linked.ts';
export { measuredTakes, takeBasis } from './measured.ts';
export { airRules, airWords, findOnAir } from './find-on-air.ts';
export { kindWords } from './rules/inputs.ts';
export { secondsWords } from './rules/clips.ts';
export type { AirInput } from './inputs.ts';
export type { Setting, Spread, Take, TakeDelay } from './take-delay.ts';
export type { Deed, Happening } from './what-happens.ts';
export type { ActionFault, FolderFile, FolderNews } from './lists.ts';
export type { LinkedGroup, LinkedMember, LinkedOutput } from './linked.ts';
