import type { AddressingFacts } from '../addressing/index.ts';
import { byName, groupBy, rowsOf, typeOf, type Device, type Show } from '../show/index.ts';
import { takesCable } from './plan-cables.ts';
import type { CablingFacts } from './segments.ts';

/** The sockets of one switch, router or access point (C41). */
export interface HubSockets {
  readonly hub: Device;
  readonly all: number;
  readonly used: number;
  /** Keys of free sockets that take a network cable. */
  readonly free: readonly string[];
}

/** What stands at a place: its switches, who waits for a cable there, and what is lacking. */
export interface PlaceSockets {
  readonly place: string;
  readonly hubs: readonly HubSockets[];
  readonly free: number;
  /** Units with an address and no cable. */
  readonly waiting: readonly Device[];
  /** How many of them find no socket there. */
  readonly short: number;
}

/** Free sockets by switch and place, and the places that are short of them (C41). */
export function socketTable(show: Show, cabling: CablingFacts, { planned }: AddressingFacts): PlaceSockets[] {
  const hubs = rowsOf(show, 'devices').flatMap((hub): HubSockets[] => {
    const type = typeOf(show, hub);
    if (!type?.forwards) return [];
    const open = cabling.freeSockets(hub.id);
    const free = open.filter((key) => takesCable(type, key, 'copper'));
    return [{ hub, all: type.sockets.length, used: type.sockets.length - open.length, free }];
  });
  const waiting = planned.flatMap(({ device, type, interface: row }) => {
    const isWired = type.sockets.some(({ key, adapter }) => adapter === row.adapter && takesCable(type, key, 'copper'));
    return isWired && !type.forwards && cabling.plugOf(row.id) === undefined ? [device] : [];
  });
  const [hubsAt, waitingAt] = [groupBy(hubs, ({ hub }) => hub.place), groupBy(waiting, ({ place }) => place)];
  const places = [...new Set([...hubsAt.keys(), ...waitingAt.keys()])].sort((a, b) => a.localeCompare(b));
  return places.map((place) => {
    const own = [...(hubsAt.get(place) ?? [])].sort((a, b) => byName(a.hub, b.hub));
    const free = own.reduce((sum, { free: open }) => sum + open.length, 0);
    const asking = [...new Set(waitingAt.get(place))].sort(byName);
    const lacking = (waitingAt.get(place) ?? []).length - free;
    return { place, hubs: own, free, waiting: asking, short: Math.max(0, lacking) };
  });
}
