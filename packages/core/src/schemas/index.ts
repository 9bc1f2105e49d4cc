export {
  accountUses,
  commitActs,
  connectors,
  deviceKinds,
  lampColours,
  lampMeanings,
  licenceScopes,
  connectionRoles,
  loginMethods,
  machineActs,
  networkPurposes,
  powerFeeds,
  protocols,
  rateKeys,
  replyRules,
  settingKinds,
  settingWays,
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
} from './words.ts';
export { hostNamePattern, limits } from './limits.ts';
export {
  daySchema,
  idSchema,
  ipSchema,
  loginSchema,
  nameSchema,
  portSchema,
  prefixSchema,
  revisionSchema,
  shortText,
  vlanSchema,
} from './scalars.ts';
export { typeFaults, typeSchema as typeShape } from './device-type.ts';
export {
  blockSchema,
  deviceSchema,
  filledRow,
  linkSchema,
  networkSchema,
  schemas,
  serviceSchema,
  typeSchema,
} from './rows.ts';
export type { Content, Given, Row, TableName } from './rows.ts';
export { changeSchema, modernised } from './change.ts';
export type { Change, Edit } from './change.ts';
export { realWallSchema } from './wall.ts';
export type { RealWall } from './wall.ts';
export { typeFileJsonSchema, typeFileSchema, typeJsonSchema } from './type-file.ts';
export type { TypeFile } from './type-file.ts';
export { showFileJsonSchema, showFileSchema } from './show-file.ts';
export type { ShowFile } from './show-file.ts';
