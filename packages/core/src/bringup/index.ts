export { actsFor, pendingOf, planKeyedIn } from './pending.ts';
export { plannedSettings } from './planned-settings.ts';
export { missingFor, settingsFile } from './settings-file.ts';
export type { Pending, PendingLine } from './pending.ts';
export type { Setting } from './planned-settings.ts';
export type { SettingsFile } from './settings-file.ts';
export { partnersIn } from './first-sync.ts';
export type { Partners } from './first-sync.ts';
export { repeatOf } from './repeats.ts';
export type { Repeat } from './repeats.ts';
export { stepNotes } from './step-notes.ts';
export { stepDeeds } from './step-deeds.ts';
export type { Deed } from './step-deeds.ts';
export { bringUp } from './bring-up.ts';
export type { BringUp, BringUpStep, ComputerStep, Station } from './bring-up.ts';
export { computersFor, techniciansComputer } from './computer.ts';
export {
  planAccept,
  planComputer,
  planLeaveStep,
  planLetGo,
  planReset,
  planShowsOther,
  planStartOver,
  planStepDone,
  planTakeStep,
  planTakeUp,
} from './record-step.ts';
export type { Said } from './record-step.ts';
export type { Blocked, Why } from './tasks.ts';
export type { Place, Standing } from './unit-now.ts';
export { isDoneOnBench } from './bench-says.ts';
export { doneLog, paceOf } from './pace.ts';
export type { LogLine } from './pace.ts';
export { aboutTime, blockedWords, figuresOf, standingWords, stepWords } from './step-words.ts';
export type { Figure, StepWords } from './step-words.ts';
