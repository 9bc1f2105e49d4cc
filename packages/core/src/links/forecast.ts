import { layerNames, memoOf, rowsBy, rowsOf, type Link, type Show } from '../show/index.ts';
import { planPlacement, type AddressingFacts, type Placement } from '../addressing/index.ts';
import { cablingFacts, type CablingFacts } from '../cabling/index.ts';
import { endsOf, type LinkFacts } from './ends.ts';
import { listenersOf } from './listeners.ts';
import { sidesOf, type Sides } from './sides.ts';
import { machinesOf } from './paths/machines.ts';
import type { Layer, LayerResult } from './layer.ts';
import { access } from './layers/access.ts';
import { address } from './layers/address.ts';
import { cable } from './layers/cable.ts';
import { message } from './layers/message.ts';
import { port } from './layers/port.ts';
import { reply } from './layers/reply.ts';
import { segment } from './layers/segment.ts';
import { service } from './layers/service.ts';

/** The layered test of one link as the plan lets expect it. `depth` counts the layers passed before the first failing one. */
export interface Sounding {
  readonly link: Link;
  readonly layers: readonly LayerResult[];
  readonly depth: number;
  readonly stopsAt: LayerResult | undefined;
  readonly risks: readonly LayerResult[];
  /** Where it stops depends on an address that somebody else picks. */
  readonly chance: boolean;
}

/** Every layer with its forecast and its words. */
export const layers: Readonly<Record<(typeof layerNames)[number], Layer>> = {
  cable,
  segment,
  address,
  port,
  service,
  access,
  message,
  reply,
};

export function linkFacts(
  show: Show,
  addressing: AddressingFacts,
  placement: (networkIds: readonly string[]) => Pick<Placement, 'change'> = memoOf((networkIds) =>
    planPlacement(show, { networkIds, facts: addressing }),
  ),
  cabling: CablingFacts = cablingFacts(show),
  planned?: Sides,
): LinkFacts {
  const sides = sidesOf(show, addressing, cabling);
  return {
    addressing,
    cabling,
    machines: machinesOf(show, addressing, cabling),
    listeners: listenersOf(show, addressing),
    services: rowsBy(show, 'services', 'deviceId'),
    sides,
    planned: planned ?? sides,
    placement: (networkIds) => placement(networkIds).change,
  };
}

/** Forecasts one link from the top down; below the first failing layer everything waits. */
export function forecast(show: Show, facts: LinkFacts, link: Link): Sounding {
  const ends = endsOf(show, facts, link);
  const results: LayerResult[] = [];
  for (const layer of layerNames) {
    const before = results.at(-1)?.state;
    if (before === 'fail' || before === 'waits')
      results.push({ layer, state: 'waits', code: 'not_reached', facts: {}, fixes: [] });
    else if (!ends) results.push({ layer, state: 'fail', code: 'no_service', facts: {}, fixes: [] });
    else {
      const { state, code, facts: said, fixes } = layers[layer].forecast(ends);
      results.push({ layer, state, code, facts: said, fixes });
    }
  }
  const depth = results.filter(({ state }) => state === 'pass' || state === 'risky').length;
  return { link, layers: results, depth, ...outcomeOf(results), chance: ends?.chance ?? false };
}

/** Where a link stops, and what may stop it yet. */
export const outcomeOf = (results: readonly LayerResult[]): Pick<Sounding, 'stopsAt' | 'risks'> => ({
  stopsAt: results.find(({ state }) => state === 'fail'),
  risks: results.filter(({ state }) => state === 'risky'),
});

export const forecastAll = (show: Show, facts: LinkFacts): Sounding[] =>
  rowsOf(show, 'links').map((link) => forecast(show, facts, link));
