export { compareVersions } from './compare-versions.ts';
export { deviceEdits, planAddDevice, planEditDevice, planRemoveDevices } from './plan-devices.ts';
export { planSwap } from './plan-swap.ts';
export type { Spare } from './plan-swap.ts';
export { findRig, rigWords } from './find-rig.ts';
export { gearFields } from './gear-headings.ts';
export { typeMatcher } from './match-type.ts';
export type { TypeMatcher } from './match-type.ts';
export { gearWords } from './gear-words.ts';

export {
  accountTexts,
  actWords,
  commitWords,
  feedTexts,
  roleTexts,
  settingTexts,
  systemTexts,
  waysWords,
  wayWords,
} from './type-words.ts';
export { readGearList } from './read-gear-list.ts';
export { readMac } from './read-mac.ts';
export type { DeviceIntent, DevicePatch } from './plan-devices.ts';
export type { GearColumns } from './gear-columns.ts';
export type { GearField } from './gear-headings.ts';
export type { GearList, GearProblem, GearRow, ReadAddress } from './read-gear-list.ts';
export { beforeSite, planTick, powerItem } from './before-site.ts';
export { cellFields, cellText, planCells } from './plan-cells.ts';
export { isFormable, isHidden, readTypeFile, typeIssues, writeTypeFile } from './type-file.ts';
export {
  librariesInOrder,
  ownLibraryId,
  planMoveLibrary,
  planOwn,
  planRemoveLibrary,
  planRemoveType,
  planSaveType,
  planTakeInTypes,
} from './plan-types.ts';
export { versionsMatch } from './rules/partner-versions.ts';
export { isCopyGood } from './copy-age.ts';
export { canSynchronise, keepStep, lossesOf } from './losses.ts';
export { platformFit } from './platform.ts';
export type { Cell, CellFault, CellField } from './plan-cells.ts';
export type { LossReport, RiskyAct } from './losses.ts';
export type { SiteItem, SiteSection } from './before-site.ts';
export type { TypeFileFault } from './type-file.ts';
export { powerOrder } from './power-order.ts';
export type { PowerStage, PowerStep } from './power-order.ts';
export { cheapestSet } from './cheapest-set.ts';
