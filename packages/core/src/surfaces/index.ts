export { freeLinkId } from './free-link-id.ts';
export { controlAt, controlsOf, gridOf, layersOf, regionAt, surfacesOf } from './controls.ts';
export { endToEnd, forArgument, neutralOf, positionFor, reached, takesOver, transferred } from './transfer.ts';
export { fitOf, isOn, lossOf } from './fits.ts';
export { crowdingOf, rulersOf, stripsOf } from './banks.ts';
export { assignmentsOn, clashing, meaningOf, meaningsOf, offerOf } from './meanings.ts';
export { countsOf, messagesTo, missingOf, usesOf } from './completeness.ts';
export { destinationName } from './destination-name.ts';
export { lampFor } from './lamps.ts';
export { offersTyped } from './offers-typed.ts';
export { offersFor } from './offers.ts';
export { controlWords, machineQuestion, meaningWords } from './surface-words.ts';
export {
  argsWithName,
  controlFrom,
  planAssign,
  planAssignSeveral,
  planBanks,
  planClear,
  planControl,
  planDeed,
  planEditAssignment,
  planEditBank,
  planEditControl,
  planRemoveControl,
  planScale,
  regionFor,
} from './plan-assign.ts';
export { findSurfaces, surfaceRules, surfaceWords } from './find-surfaces.ts';
export type { SurfaceControl } from './controls.ts';
export type { Reached, Travel } from './transfer.ts';
export type { Fit } from './fits.ts';
export type { BankSpan, Ruler } from './banks.ts';
export type { Meaning, Offer } from './meanings.ts';
export type { Missing } from './completeness.ts';
