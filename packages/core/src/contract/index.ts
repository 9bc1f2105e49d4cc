export { actSchema } from './acts.ts';
export type { BenchAct, KeyedChange } from './acts.ts';
export { benchDifference, withDifference } from './bench-difference.ts';
export type { BenchDifference } from './bench-difference.ts';
export { confirmKeys, lookingKeys } from './bench-state.ts';
export type {
  BenchState,
  ConfirmCheck,
  ConfirmingState,
  CopiedState,
  HeardAddress,
  FrameAnatomy,
  HeardMessage,
  PartnersState,
  PendingSetting,
  PulledRun,
  PullingState,
  JackState,
  LinkChange,
  LinkLamp,
  LookingCheck,
  LookingKey,
  LookingState,
  RehearsalState,
  ScanState,
  ScriptState,
  ScriptStepState,
  SetFault,
  StandinSettings,
  StandinState,
  TapNews,
  TrialState,
  WayNow,
  WallDark,
  WallOnBench,
  WatchState,
} from './bench-state.ts';
export { sentMovesSchema } from './acts.ts';
export type { Moves } from './acts.ts';
export type {
  ControlState,
  CueDone,
  CueRunState,
  Delivery,
  PanelState,
  SteppedState,
  TeachingState,
} from './panel-state.ts';
export type { LiveMessage } from './live.ts';
export { rehearsalScriptSchema } from './rehearsal-script.ts';
export type { RehearsalScript, ScriptStep } from './rehearsal-script.ts';
export { unitCopySchema } from './unit-copy.ts';
export type { UnitCopy } from './unit-copy.ts';
export type { ShowLine } from './show-line.ts';
