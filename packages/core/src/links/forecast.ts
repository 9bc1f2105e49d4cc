import { groupBy, layerNames, memo, rowsOf, type Link, type Show } from '../show/index.ts';
import { planPlacement, type AddressingFacts, type Placement } from '../addressing/index.ts';
import { cablingFacts } from '../cabling/index.ts';
import { endsOf, type LinkFacts } from './ends.ts';
import { listenersOf } from './listeners.ts';
import { machinesOf } from './paths/held.ts';
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
  placement: (networkId: string) => Pick<Placement, 'change'> = (networkId) =>
    planPlacement(show, { networkId, facts: addressing }),
): LinkFacts {
  const cabling = cablingFacts(show);
  return {
    addressing,
    cabling,
    machines: machinesOf(show, addressing, cabling),
    listeners: listenersOf(show, addressing),
    services: groupBy(rowsOf(show, 'services'), (row) => row.deviceId),
    interfaces: new Map(rowsOf(show, 'interfaces').map((row) => [`${row.deviceId} ${row.adapter}`, row])),
    placement: memo((networkId) => placement(networkId).change),
  };
}

/** Forecasts one link from the top down; below the first failing layer everything waits. */
export function forecast(show: Show, facts: LinkFacts, link: Link): Sounding {
  const ends = endsOf(show, facts, link);
  const results: LayerResult[] = [];
  for (const layer of layerNames) {
    const stopped = results.some(({ state }) => state === 'fail' || state === 'waits');
    if (stopped) results.push({ layer, state: 'waits', code: 'not_reached', facts: {}, fixes: [] });
    else if (!ends) results.push({ layer, state: 'fail', code: 'no_service', facts: {}, fixes: [] });
    else results.push({ layer, ...layers[layer].forecast(ends) });
  }
  const depth = results.filter(({ state }) => state === 'pass' || state === 'risky').length;
  return {
    link,
    layers: results,
    depth,
    stopsAt: results.find(({ state }) => state === 'fail'),
    risks: results.filter(({ state }) => state === 'risky'),
    chance: ends?.chance ?? false,
  };
}

export const forecastAll = (show: Show, facts: LinkFacts): Sounding[] =>
  rowsOf(show, 'links').map((link) => forecast(show, facts, link));
