export { downOf, growth, placesOf, scans, wallSize } from './size.ts';
export { causesOf } from './causes.ts';
export {
  equalParts,
  fewestParts,
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
export { apart, cableOf, drawnOn, corners, patterns, snake, stringCounts } from './strings.ts';
export {
  colourMap,
  dark,
  enteredModule,
  enteredState,
  isAsSent,
  moduleMap,
  moduleSize,
  receiversOf,
  seen,
  sourceMap,
  wallState,
} from './pixels.ts';
export { testPicture, testPictures } from './test-pictures.ts';
export { answersTo, contradicting, left, nextTest, told, traceOf, traceTests } from './trace.ts';
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
export type { Module, Picture, Receiver, Rect, WallState } from './pixels.ts';
export type { TestPicture } from './test-pictures.ts';
export type { Answered, Guess, Traced, TraceTest, Tracing } from './trace.ts';
