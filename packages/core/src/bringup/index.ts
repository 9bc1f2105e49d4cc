export { actsFor, pendingOf, planKeyedIn } from './pending.ts';
export { plannedSettings } from './planned-settings.ts';
export { missingFor, settingsFile } from './settings-file.ts';
export type { Pending, PendingLine } from './pending.ts';
export type { Setting } from './planned-settings.ts';
export type { SettingsFile } from './settings-file.ts';
