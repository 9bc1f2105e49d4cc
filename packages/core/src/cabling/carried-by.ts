import type { AddressingFacts } from '../addressing/index.ts';
import { byName, groupBy, rowsOf, socketOf, typeOf, type Network, type Show } from '../show/index.ts';
import type { CablingFacts } from './segments.ts';

/** The networks that a run carries: of the adapter that it ends at, between two switches all that are in their segment. */
export function carriedBy(
  show: Show,
  cabling: CablingFacts,
  addressing: AddressingFacts,
): ReadonlyMap<string, readonly Network[]> {
  const all = [...addressing.byDevice.values()].flat();
  const bySegment = groupBy(all, (row) => cabling.segmentOf(row.interface.id) ?? '');
  const named = (rows: readonly { readonly network: Network }[]): Network[] =>
    [...new Map(rows.map(({ network }) => [network.id, network])).values()].sort(byName);
  return new Map(
    rowsOf(show, 'cables').map((cable) => {
      const ends = [
        { id: cable.fromDevice, socket: cable.fromSocket },
        { id: cable.toDevice, socket: cable.toSocket },
      ].map(({ id, socket }) => {
        const device = show.devices[id];
        const type = typeOf(show, device);
        return { id, forwards: type?.forwards === true, at: type && socketOf(type, device?.variant ?? null, socket) };
      });
      const edge = ends.find(({ forwards }) => !forwards);
      if (edge) {
        const own = addressing.byDevice.get(edge.id) ?? [];
        return [cable.id, named(own.filter((row) => row.interface.adapter === edge.at?.adapter))];
      }
      const segment = cabling.segmentOfHub(cable.fromDevice);
      return [cable.id, segment === undefined ? [] : named(bySegment.get(segment) ?? [])];
    }),
  );
}
