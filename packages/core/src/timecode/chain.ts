import { firstNameBreak, type NameBreak } from '../links/index.ts';
import {
  byName,
  groupBy,
  rowsBy,
  rowsOf,
  serviceTypeOf,
  typeOf,
  type Device,
  type Link,
  type RateKey,
  type Show,
  type TimeFormat,
  type TimeHop,
} from '../show/index.ts';
import { rates } from './rates.ts';

/** What is wrong with one hop, the first thing that stops it first. */
export type HopFault =
  | { readonly kind: 'cannot_give' | 'cannot_take'; readonly device: Device; readonly converters: readonly Device[] }
  | { readonly kind: 'name'; readonly at: NameBreak }
  | { readonly kind: 'rate'; readonly made: RateKey; readonly awaited: RateKey }
  | { readonly kind: 'no_link' };

/** One hop of a chain, from a unit to the next. */
export interface Hop {
  readonly row: TimeHop;
  readonly from: Device;
  readonly to: Device;
  /** Of network MIDI: the entry that opens the session between them. */
  readonly link: Link | undefined;
  /** The rate that arrives, where somewhere before it somebody said which. */
  readonly rate: RateKey | undefined;
  readonly faults: readonly HopFault[];
}

/** A unit of a chain, and how many hops it is from its source. */
export interface Station {
  readonly device: Device;
  readonly depth: number;
  readonly rate: RateKey | undefined;
  readonly role: 'source' | 'passes_on' | 'receives';
  /** The hop that it hears. */
  readonly heard: Hop | undefined;
}

/** Everything that hears one source, as stairs: a unit comes after whoever it hears, its branches one after the other. */
export interface Chain {
  readonly source: Device;
  readonly stations: readonly Station[];
  /** All of them, also those that lead to somebody who hears another one. */
  readonly hops: readonly Hop[];
}

export const hopsTo = (show: Show, id: string): readonly TimeHop[] => rowsBy(show, 'timeHops', 'toId').get(id) ?? [];
export const hopsFrom = (show: Show, id: string): readonly TimeHop[] =>
  rowsBy(show, 'timeHops', 'fromId').get(id) ?? [];

/** The name that the giving end of a hop goes by. */
export const saidName = (show: Show, { says, fromId }: TimeHop): string => says || (show.devices[fromId]?.name ?? '');

/** Sources first that lead, then by name. Units in a circle that nobody feeds are in none. */
export function chainsOf(show: Show): Chain[] {
  const sources = rowsOf(show, 'devices').filter(
    ({ id }) => hopsFrom(show, id).length > 0 && hopsTo(show, id).length === 0,
  );
  return sources
    .sort((a, b) => Number(b.leads) - Number(a.leads) || byName(a, b))
    .map((source) => {
      const { heard, hops } = reached(show, source);
      return { source, hops, stations: inStairs(show, source, heard) };
    });
}

interface Reached {
  /** By the unit, the hop that it hears: of several the one on the way with the fewest faults, then with the fewest hops. */
  readonly heard: ReadonlyMap<string, Hop>;
  /** All hops that begin at whoever is reached, those included that nobody needs. */
  readonly hops: readonly Hop[];
}

/** The ways from a source to everybody, the soundest first (Dijkstra 1959, faults before hops). */
function reached(show: Show, source: Device): Reached {
  const heard = new Map<string, Hop>();
  const hops: Hop[] = [];
  const done = new Set<string>();
  const open: Open[] = [{ device: source, hop: undefined, faults: 0, depth: 0 }];
  for (let at = nearest(open); at; at = nearest(open)) {
    const { device, hop, faults, depth } = at;
    if (done.has(device.id)) continue;
    done.add(device.id);
    if (hop) heard.set(device.id, hop);
    const rate = hop ? hop.rate : (source.rate ?? undefined);
    for (const row of hopsFrom(show, device.id)) {
      const onwards = hopOf(show, row, rate);
      if (!onwards) continue;
      hops.push(onwards);
      open.push({ device: onwards.to, hop: onwards, faults: faults + onwards.faults.length, depth: depth + 1 });
    }
  }
  return { heard, hops };
}

interface Open {
  readonly device: Device;
  readonly hop: Hop | undefined;
  readonly faults: number;
  readonly depth: number;
}

/** Takes out whoever is reached with the fewest faults, then with the fewest hops, then came first. */
function nearest(open: Open[]): Open | undefined {
  let best = 0;
  open.forEach((each, at) => {
    const [a, b] = [each, open[best]];
    if (b && (a.faults - b.faults || a.depth - b.depth) < 0) best = at;
  });
  return open.splice(best, 1)[0];
}

/** A unit after whoever it hears, with everything that hears it before the next branch. */
function inStairs(show: Show, source: Device, heard: ReadonlyMap<string, Hop>): Station[] {
  const onwards = groupBy(heard.values(), ({ from }) => from.id);
  const stations: Station[] = [];
  const put = (device: Device, hop: Hop | undefined, depth: number): void => {
    const next = onwards.get(device.id) ?? [];
    const role = depth === 0 ? 'source' : hopsFrom(show, device.id).length > 0 ? 'passes_on' : 'receives';
    stations.push({ device, depth, role, heard: hop, rate: hop ? hop.rate : (source.rate ?? undefined) });
    for (const each of next) put(each.to, each, depth + 1);
  };
  put(source, undefined, 0);
  return stations;
}

/** A hop with what is wrong with it; `rate` is what its giving end has. */
export function hopOf(show: Show, row: TimeHop, rate: RateKey | undefined): Hop | undefined {
  const [from, to] = [show.devices[row.fromId], show.devices[row.toId]];
  if (!from || !to) return undefined;
  const link = row.format === 'network_midi' ? linkOf(show, row) : undefined;
  return { row, from, to, link, rate, faults: faultsOf(show, { row, from, to, link, rate }) };
}

function faultsOf(show: Show, { row, from, to, link, rate }: Omit<Hop, 'faults'>): HopFault[] {
  const [gives, takes] = [typeOf(show, from)?.timecode?.gives, typeOf(show, to)?.timecode?.takes];
  const [couldGive, couldTake] = [gives?.includes(row.format), takes?.includes(row.format)];
  const faults: HopFault[] = [];
  if (couldGive !== true)
    faults.push({ kind: 'cannot_give', device: from, converters: convertersOf(show, gives ?? [], [row.format]) });
  if (couldTake !== true)
    faults.push({ kind: 'cannot_take', device: to, converters: convertersOf(show, [row.format], takes ?? []) });
  const broken = nameBreak(show, row);
  if (broken) faults.push({ kind: 'name', at: broken });
  if (row.format === 'network_midi' && !link) faults.push({ kind: 'no_link' });
  if (rate !== undefined && to.rate !== null && !isSameCount(rate, to.rate))
    faults.push({ kind: 'rate', made: rate, awaited: to.rate });
  return faults;
}

/** MIDI time code knows 29.97 drop-frame only by that name; the others have one rate each (MIDI 1.0, MTC). */
const isSameCount = (a: RateKey, b: RateKey): boolean =>
  a === b ||
  (rates[a].counts === rates[b].counts &&
    rates[a].drops === rates[b].drops &&
    rates[a].over / rates[a].under === rates[b].over / rates[b].under);

/** Where the names along a hop stop being equal (need 11.3, C34); a receiver that chose nothing takes whatever comes. */
export function nameBreak(show: Show, row: TimeHop): NameBreak | undefined {
  if (row.hears === '' || row.format === 'linear') return undefined;
  return firstNameBreak([
    { where: show.devices[row.fromId]?.name ?? '', name: saidName(show, row) },
    { where: show.devices[row.toId]?.name ?? '', name: row.hears },
  ]);
}

/** Units of the show that take one of these formats and give one of those. */
export function convertersOf(show: Show, takes: readonly TimeFormat[], gives: readonly TimeFormat[]): Device[] {
  return rowsOf(show, 'devices')
    .filter((device) => {
      const own = typeOf(show, device)?.timecode;
      return own?.takes.some((format) => takes.includes(format)) && own.gives.some((format) => gives.includes(format));
    })
    .sort(byName);
}

/** The entry by which the giving end opens a session of network MIDI at the receiving one, or the other way round. */
function linkOf(show: Show, { fromId, toId }: TimeHop): Link | undefined {
  const between = (controllerId: string, targetId: string) =>
    (rowsBy(show, 'links', 'controllerId').get(controllerId) ?? []).find(
      (link) =>
        link.targetId === targetId && serviceTypeOf(show, show.devices[targetId], link.serviceKey)?.protocol === 'midi',
    );
  return between(fromId, toId) ?? between(toId, fromId);
}
