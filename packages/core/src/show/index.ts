// who works with a show finds what its rows may hold here too; whoever checks nothing does not load the schemas
export {
  accountUses,
  blockSchema,
  changeSchema,
  commitActs,
  connectors,
  daySchema,
  deviceKinds,
  deviceSchema,
  filledRow,
  hostNamePattern,
  idSchema,
  ipSchema,
  lampColours,
  licenceScopes,
  limits,
  linkSchema,
  connectionRoles,
  loginMethods,
  loginSchema,
  modernised,
  networkPurposes,
  networkSchema,
  portSchema,
  powerFeeds,
  prefixSchema,
  protocols,
  rateKeys,
  replyRules,
  revisionSchema,
  schemas,
  serviceSchema,
  settingKinds,
  settingWays,
  shortText,
  socketRoles,
  systems,
  colourOrders,
  dataSides,
  viewpoints,
  testPictures,
  wallCorners,
  wallSenders,
  playerOutputs,
  managements,
  outputForms,
  timeFormats,
  typeFaults,
  typeFileJsonSchema,
  typeFileSchema,
  showFileJsonSchema,
  showFileSchema,
  typeJsonSchema,
  typeSchema,
  typeShape,
} from '../schemas/index.ts';
export { readShowFile, templateOf, writeShowFile } from './show-file.ts';
export type { ShowFileFault } from './show-file.ts';
export type { ShowFile } from '../schemas/index.ts';
export { contentWith, tableNames } from './entities.ts';
export { applyChange, conflictsOf, contentOf, inverseOf, untrueEdits, written } from './change.ts';
export { changeOf, insertRow, removeRow, updateRow } from './edits.ts';
export { danglingReferences, planRemove } from './references.ts';
export { structureFaults } from './structure-faults.ts';
export { fieldChoices, settled } from './merge.ts';
export { isEqual } from './is-equal.ts';
export { lazily, memo, memoFor, memoOf, once } from './memo.ts';
export { macOf } from './made-up-mac.ts';
export {
  asksForLogin,
  byAdapter,
  byName,
  definitionsOf,
  devicesByName,
  hostOf,
  interfacesOf,
  isCabled,
  isComputer,
  isConnection,
  kindWords,
  loginOf,
  roleOf,
  serviceTypeOf,
  socketAt,
  socketLabel,
  socketOf,
  socketsOf,
  typeOf,
} from './lookups.ts';
export { firstSteps } from './first-steps.ts';
export type { StepKey } from './first-steps.ts';
export { groupBy } from './group-by.ts';
export { emptyShow, gathered, indexBy, indexOver, rowsBy, rowsOf } from './show.ts';
export { isAlike } from './is-alike.ts';
export { Cell, Source, looking, read } from './standing/cells.ts';
export { buildOn } from './standing/building.ts';
export { Standing, standingOf } from './standing/standing-show.ts';
export { StandingIndex } from './standing/standing-index.ts';
export { FirstOfEach } from './standing/map-views.ts';
export { layerNames } from './layers.ts';
export { nothingSeen } from './seen.ts';
export { faultKinds, faults, faultsFor } from './faults.ts';
export type { FaultKind } from './faults.ts';
export type { Applied, Conflict } from './change.ts';
export type { Change, Edit } from './entities.ts';
export type {
  Address,
  Assignment,
  Bank,
  Block,
  Cable,
  Command,
  Contact,
  Content,
  Control,
  Cue,
  CueMessage,
  Clip,
  CueStart,
  InputRule,
  RateKey,
  OutputForm,
  Socket,
  TimeFormat,
  TimeHop,
  Device,
  CommitAct,
  DeviceKind,
  DeviceType,
  Document,
  Feedback,
  Interface,
  Progress,
  KeyedIn,
  LampMeaning,
  Library,
  Licence,
  Link,
  ConnectionRole,
  LoginMethod,
  Network,
  Row,
  Service,
  SettingKind,
  ServiceType,
  TableName,
  Transfer,
  RealWall,
  TestPicture,
  Wall,
  TypeControl,
} from './entities.ts';
export type { FieldChoice } from './merge.ts';
export type { LayerName, LayerState } from './layers.ts';
export type {
  BackSounding,
  FoundHost,
  FoundSource,
  SweptSubnet,
  MeasuredLayer,
  MeasuredSounding,
  Seen,
} from './seen.ts';
export type { Show, Table } from './show.ts';
export type { TypeFile } from '../schemas/index.ts';
