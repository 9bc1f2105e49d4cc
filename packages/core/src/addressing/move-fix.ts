import { fixWith, type Fix } from '../findings/index.ts';
import { changeOf, updateRow, type Edit, type Show } from '../show/index.ts';
import type { AddressingFacts, Planned } from './facts.ts';
import { followMove } from './follow-move.ts';
import { isPlaceable } from './free-hosts.ts';
import { formatIp } from './ipv4.ts';
import { lowestFreeOf } from './lowest-free.ts';
import { suggestHost } from './plan-placement.ts';

/** The button that moves one unit to the next place that the numbering rule finds; undefined when there is none. */
export function moveFix(show: Show, facts: AddressingFacts, item: Planned): Fix | undefined {
  return moveAllFix(show, facts, [item]);
}

/** The next step for a unit that has to move. */
export const moveWords = (fixable: boolean): string =>
  fixable ? 'Move it to the place shown, or type another.' : 'Type a free address.';

/** One button that moves several units, each to a place of its own; undefined when one of them finds none. */
export function moveAllFix(show: Show, facts: AddressingFacts, items: readonly Planned[]): Fix | undefined {
  const [first] = items;
  // a router is where it is: its address stands in everybody's gateway field
  const places = items.some(({ type }) => type.kind === 'router') ? undefined : placesFor(facts, items);
  if (!first || !places) return undefined;
  const label =
    items.length === 1
      ? `Move ${first.device.name} to ${formatIp(places[0] ?? 0)}`
      : `Move ${items.length} units to places of their own`;
  return fixWith(label, changeOf(label, joined(items.flatMap((item, at) => moveEdits(show, item, places[at] ?? 0)))));
}

function moveEdits(show: Show, item: Planned, ip: number): Edit[] {
  const to = formatIp(ip);
  const old = item.address.ip;
  return [
    updateRow('addresses', item.address, { ip: to, held: false }),
    ...(old === null ? [] : followMove(show, item, old, to)),
  ];
}

/** One edit a row: the first one that was asked for. */
const joined = (edits: readonly Edit[]): Edit[] =>
  edits.filter((edit, at) => edits.findIndex(({ table, id }) => table === edit.table && id === edit.id) === at);

/** Fixed addresses for units that get theirs by themselves: what is planned where that is free, else the next place. */
export function fixAddresses(facts: AddressingFacts, items: readonly Planned[], label: string): Fix | undefined {
  const homeless = items.filter((item) => !isPlaceable(facts, item));
  const places = placesFor(facts, homeless);
  if (!places) return undefined;
  const edits = items.map((item) => {
    const place = places[homeless.indexOf(item)];
    return updateRow('addresses', item.address, {
      method: 'static',
      ...(place === undefined ? {} : { ip: formatIp(place) }),
    });
  });
  return fixWith(label, changeOf(label, edits));
}

/** The next places for several units, nobody twice. */
function placesFor(facts: AddressingFacts, items: readonly Planned[]): number[] | undefined {
  const places = new Map<number, readonly Planned[]>();
  for (const item of items) {
    const ip = suggestHost(withPlaces(facts, places), item);
    if (ip === undefined) return undefined;
    places.set(ip, [item]);
  }
  return [...places.keys()];
}

/** The same facts with some addresses taken already. */
function withPlaces(facts: AddressingFacts, places: ReadonlyMap<number, readonly Planned[]>): AddressingFacts {
  if (places.size === 0) return facts;
  const takers: AddressingFacts['takers'] = {
    has: (ip) => places.has(ip) || facts.takers.has(ip),
    get: (ip) => places.get(ip)?.map(({ address }) => address.id) ?? facts.takers.get(ip),
  };
  // what else is in the facts is read where somebody asks for it only
  const more: AddressingFacts = Object.create(facts, { takers: { value: takers } }) as AddressingFacts;
  return Object.defineProperty(more, 'lowestFree', { value: lowestFreeOf(() => more) });
}

/** Ends a clash: whoever has most right to the address keeps it, everybody else moves, held or not: one has to. */
export function apartFix(show: Show, facts: AddressingFacts, items: readonly Planned[]): Fix | undefined {
  const [keeper] = [...items].sort(byRightToStay);
  return moveAllFix(
    show,
    facts,
    items.filter(({ device }) => device.id !== keeper?.device.id),
  );
}

/** A held address before others, a router before others, then the one that was there first. */
export const byRightToStay = (a: Planned, b: Planned): number =>
  Number(b.address.held) - Number(a.address.held) ||
  Number(b.type.kind === 'router') - Number(a.type.kind === 'router') ||
  a.address.rev - b.address.rev ||
  (a.device.id < b.device.id ? -1 : 1);
