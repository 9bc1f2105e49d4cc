import {
  byAdapter,
  groupBy,
  hostOf,
  layerNames,
  memo,
  once,
  rowsOf,
  type Interface,
  type Link,
  type Show,
} from '../show/index.ts';
import { planPlacement, type AddressingFacts, type Placement } from '../addressing/index.ts';
import { cablingFacts } from '../cabling/index.ts';
import { endsOf, type LinkFacts } from './ends.ts';
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
}

const layers: Readonly<Record<(typeof layerNames)[number], Layer>> = {
  cable,
  segment,
  address,
  port,
  service,
  access,
  message,
  reply,
};

export const linkFacts = (
  show: Show,
  addressing: AddressingFacts,
  placement = (networkId: string): Placement => planPlacement(show, { networkId, facts: addressing }),
): LinkFacts => ({
  addressing,
  cabling: cablingFacts(show),
  services: groupBy(rowsOf(show, 'services'), (row) => row.deviceId),
  servicesOn: groupBy(rowsOf(show, 'services'), (row) => machineOf(show, row.deviceId)),
  interfaces: inOrder(show),
  routers: once(() => addressing.planned.filter(({ type }) => type.kind === 'router')),
  placement: memo((networkId) => placement(networkId).change),
});

/** Interfaces by unit, in the order of its type; most units have one, and sorting all of them would cost the most. */
function inOrder(show: Show): Map<string, Interface[]> {
  const groups = groupBy(rowsOf(show, 'interfaces'), (row) => row.deviceId);
  for (const own of groups.values()) if (own.length > 1) own.sort(byAdapter(show));
  return groups;
}

const machineOf = (show: Show, deviceId: string): string => {
  const device = show.devices[deviceId];
  return device ? hostOf(show, device).id : deviceId;
};

/** Forecasts one link from the top down; below the first failing layer everything waits. */
export function forecast(show: Show, facts: LinkFacts, link: Link): Sounding {
  const ends = endsOf(show, facts, link);
  const results: LayerResult[] = [];
  for (const layer of layerNames) {
    const stopped = results.some(({ state }) => state === 'fail' || state === 'waits');
    if (stopped) results.push({ layer, state: 'waits', code: 'not_reached', facts: {}, fixes: [] });
    else if (!ends) results.push({ layer, state: 'fail', code: 'no_service', facts: {}, fixes: [] });
    else results.push({ layer, ...layers[layer](ends) });
  }
  const depth = results.filter(({ state }) => state === 'pass' || state === 'risky').length;
  return {
    link,
    layers: results,
    depth,
    stopsAt: results.find(({ state }) => state === 'fail'),
    risks: results.filter(({ state }) => state === 'risky'),
  };
}

export const forecastAll = (show: Show, facts: LinkFacts): Sounding[] =>
  rowsOf(show, 'links').map((link) => forecast(show, facts, link));
