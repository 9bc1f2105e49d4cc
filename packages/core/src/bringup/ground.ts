import type { AddressingFacts } from '../addressing/index.ts';
import type { CablingFacts } from '../cabling/index.ts';
import type { LinkFacts } from '../links/index.ts';
import type { Device, Show } from '../show/index.ts';
import type { ComputerAdapter } from './computer.ts';
import type { Landings } from './landings.ts';
import type { FoundAt } from './unit-now.ts';

/** What the order is worked out from. */
export interface Ground {
  readonly show: Show;
  readonly addressing: AddressingFacts;
  readonly cabling: CablingFacts;
  readonly links: LinkFacts;
  readonly computer: Device;
  readonly adapters: readonly ComputerAdapter[];
  readonly landings: Landings;
  readonly foundAt: FoundAt;
}
