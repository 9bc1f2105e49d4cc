import type { AirLog } from './air-log.ts';
import type { Scheduler } from '../ether/scheduler.ts';
import type { BenchPlan } from './plan.ts';
import type { Standin } from './standin.ts';

/** What stands around a unit, for what it does by itself. */
export interface Surroundings {
  readonly plan: BenchPlan;
  readonly scheduler: Scheduler;
  readonly standins: ReadonlyMap<string, Standin>;
  /** Until switches know their ways, and units that ask for an address have one. */
  readonly settled: () => Promise<void>;
  readonly random: () => number;
  /** What goes on air. */
  readonly air: AirLog;
}
