export { downOf, growth, placesOf, scans, wallSize } from './size.ts';
export { causesOf, mendOf, planMend, smaller } from './causes.ts';
export {
  asEntered,
  builtAs,
  enteredState,
  hung,
  realState,
  realWalls,
  runningState,
  wrongCount,
  wrongsOf,
} from './real.ts';
export { cablePlan, cardsToReceivers, playerReaches, processorsOf } from './feeding.ts';
export { forecastLook, pictureLook, readOff, senderOf, told, tracePicture, traceTests } from './looking.ts';
export {
  equalParts,
  fewestParts,
  inPlace,
  isIn,
  mirrored,
  panelsIn,
  partFaults,
  partsOf,
  renumbered,
  surfacesOf,
} from './parts.ts';
export { wallLoad } from './load.ts';
export { shareOf } from './share.ts';
export {
  captureFit,
  channelsMeet,
  channelsOfUniverse,
  compared,
  comparedFields,
  lastChannel,
  loadProfile,
  truthOf,
} from './settings.ts';
export { cheapestStrings, leastCable, triedWhole } from './cheapest-strings.ts';
export { apart, cableOf, drawnOn, patterns, snake, stringCounts } from './strings.ts';
export {
  colourMap,
  dark,
  emptyPicture,
  coloured,
  enteredModule,
  isAsSent,
  knownWays,
  moduleMap,
  moduleSize,
  receiversOf,
  seen,
  sourceMap,
  spreader,
  wallState,
  wordsOf,
} from './pixels.ts';
export { linePixels, moveLine, testPicture } from './test-pictures.ts';
export { answersTo, bitsOf, contradicting, guessesOf, left, nextTest, wordsFor } from './trace.ts';
export { capacityOf, knownWall, knownWalls, panelModels } from './known-wall.ts';
export { findWalls, wallRules, wallWords } from './find-walls.ts';
export { layerLines, wallLayers } from './layers.ts';
export { planNewWall, planRemoveWall, planWall } from './plan-wall.ts';
export { placeWords, stringOf } from './rules/parts.ts';
export { fieldWords } from './rules/settings.ts';
export type { KnownWall } from './known-wall.ts';
export type { LayerLine, WallLayer } from './layers.ts';
export type { Panel, Place, WallSize } from './size.ts';
export type { Cause } from './causes.ts';
export type { Part, PartFaults } from './parts.ts';
export type { OutputLoad, WallLoad } from './load.ts';
export type { Capacity } from './share.ts';
export type { CaptureFit, ChannelPlace, Compared, ComparedField, WallSet } from './settings.ts';
export type { Corner, DrawnString, Feed, Path, Pattern, StringCount } from './strings.ts';
export type { StringPlan } from './cheapest-strings.ts';
export type { Module, Picture, Receiver, Rect, Size, WallState } from './pixels.ts';
export type { Answered, Guess } from './trace.ts';
export type { Look, TraceTest } from './looking.ts';
export type { Running, Sender, Wrong } from './real.ts';
export type { CablePlan, DataRun, ManagedProcessor } from './feeding.ts';
