import { groups, nameList, oneOr } from '../../findings/index.ts';
import { definitionsOf, indexOver, type DeviceType, type Show } from '../../show/index.ts';
import { namesOf, subjectsOf, unitsById, type Typed } from '../facts.ts';
import { rigRule } from '../rig-rule.ts';

type Through = NonNullable<DeviceType['through']>;

// a type that was saved before it could say so says nothing
const throughOf = ({ type }: Typed): Through | null => (type as Partial<DeviceType>).through ?? null;

/** Older products by the model that brings them onto the network. */
const older = indexOver(unitsById, (item): [string, Typed][] => {
  const through = throughOf(item);
  return through ? [[through.model, item]] : [];
});

/** Older products reach the network through units that serve a few each (need 3.12): how many more it takes. */
export const gatewaysShort = rigRule<{
  gateways_short: { names: readonly string[]; gateway: string; needed: number; there: number; short: number };
}>(
  {
    gateways_short: (f) => [
      `${nameList(f.names)} ${oneOr(f.names.length, 'reaches', 'reach')} the network only through ${f.gateway}: ${f.needed} needed, ${f.there} in the rig.`,
      'Without one an older product is on no network, however its cables run.',
      `Add ${f.short} to the rig, or leave older products at home.`,
    ],
  },
  groups(
    (show, _facts) => older(show),
    (found, own, show, { byModel }) => {
      const [first] = own;
      const model = first && throughOf(first)?.model;
      if (!first || model === undefined) return [];
      const there = byModel.get(model)?.length ?? 0;
      const needed = unitsFor(own);
      if (needed <= there) return [];
      const details = {
        names: namesOf(own),
        gateway: nameOf(show, model),
        ...{ needed, there, short: needed - there },
      };
      return [found('gateways_short', 'risky', subjectsOf(own), details)];
    },
  ),
);

/** Products of one model share what serves them; two models may be served by the same one, each counted for itself. */
function unitsFor(own: readonly Typed[]): number {
  const counts = new Map<string, { units: number; serves: number }>();
  for (const item of own) {
    const { model } = item.type;
    const serves = throughOf(item)?.serves ?? 1;
    counts.set(model, { units: (counts.get(model)?.units ?? 0) + 1, serves });
  }
  return [...counts.values()].reduce((sum, { units, serves }) => sum + Math.ceil(units / serves), 0);
}

const nameOf = (show: Show, model: string): string => definitionsOf(show).get(model)?.name ?? model;

/** Stations by the computer and the model. */
const stations = indexOver(unitsById, (item): [string, Typed][] => {
  const { device, type } = item;
  const isStation = (type as Partial<DeviceType>).ownComputer === true && device.runsOn !== null;
  return isStation ? [[`${device.runsOn} ${type.model}`, item]] : [];
});

/** Two stations on one computer: each needs one of its own (need 3.12). */
export const stationsShare = rigRule<{
  stations_share: { names: readonly string[]; computer: string; more: number };
}>(
  {
    stations_share: (f) => [
      `${nameList(f.names)} run on one computer, ${f.computer}.`,
      'Each is a station of its own: two on one machine take each other’s ports, keys and sound.',
      `Plan ${f.more} more ${oneOr(f.more, 'computer', 'computers')}, of a system that it runs on.`,
    ],
  },
  groups(
    (show) => stations(show),
    (found, own, show) => {
      const computer = show.devices[own[0]?.device.runsOn ?? '']?.name ?? '';
      const details = { names: namesOf(own), computer, more: own.length - 1 };
      return [found('stations_share', 'risky', subjectsOf(own), details)];
    },
    2,
  ),
);
