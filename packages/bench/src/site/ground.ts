import type { Scheduler } from '../ether/scheduler.ts';
import type { Tap } from '../tap/tap.ts';
import type { Memory } from '../units/memory.ts';
import type { Standin } from '../units/standin.ts';
import type { Surroundings } from '../units/surroundings.ts';
import type { Wiring } from './wiring.ts';

/** What the parts of a site share. */
export interface Ground extends Surroundings {
  readonly standins: Map<string, Standin>;
  readonly wiring: Wiring;
  readonly scheduler: Scheduler;
  readonly tap: Tap;
  /** Milliseconds since 1970, as every clock on the site shows them. */
  readonly clock: () => number;
  readonly startUps: 'skipped' | 'real';
  /** What units remember, whatever becomes of the plan. */
  readonly memories: Map<string, Memory>;
  /** Whose a MAC address is. */
  readonly byMac: Map<string, Standin>;
  /** Not before this simulated time is everything settled. */
  readonly settleBy: (at: number) => void;
}
