import {
  changeOf,
  updateRow,
  type Address,
  type Change,
  type Content,
  type Device,
  type Edit,
  type Network,
  type Show,
} from '../show/index.ts';
import { addressingFacts, type AddressingFacts, type NetworkFacts, type Planned } from './facts.ts';
import { followMove } from './follow-move.ts';
import { contains, formatIp, hostRange, overlaps, subnetOf, type Subnet } from './ipv4.ts';

/** Where one address goes when its network moves. */
export interface Renumbered {
  readonly address: Address;
  readonly device: Device;
  readonly from: string;
  /** Null where the new range has no such place: it waits to be placed. */
  readonly to: string | null;
}

export interface Renumbering {
  readonly change: Change | undefined;
  readonly moves: readonly Renumbered[];
  /** Units that must be keyed in again: those that move, and those that have the mask or gateway entered. */
  readonly keyIn: readonly Device[];
  /** Networks of the show that share addresses with the new range. */
  readonly overlaps: readonly Network[];
  /** What was left out because it does not fit: gateway, pool, blocks and grants by name. */
  readonly dropped: readonly string[];
}

/**
 * A network gets another range: everything in it keeps its place, counted from the name of the network, as long as
 * that is a host of the new one and no two fall together; what does not fit waits to be placed. Gateway, pool, blocks,
 * grants and every entry elsewhere that names a moved address follow.
 */
export function planRenumber(show: Show, networkId: string, to: Subnet): Renumbering | undefined {
  const facts = addressingFacts(show);
  const on = facts.byNetwork.get(networkId);
  if (!on) return undefined;
  const shift = shifter(on, subnetOf(to.network, to.prefix));
  const moves = movesOf(on, shift);
  const { patch, dropped } = networkPatch(on, shift);
  const blocks = blockEdits(on, shift);
  const edits = joined([
    updateRow('networks', on.network, patch),
    ...blocks.edits,
    ...moves.flatMap((move) => moveEdits(show, facts, move)),
  ]);
  const isOther = to.prefix !== on.network.prefix || patch.gateway !== on.network.gateway;
  const keyIn = on.planned.filter(({ address }) =>
    isOther ? true : moves.some((move) => move.address.id === address.id && move.from !== move.to),
  );
  return {
    change: changeOf(`Move ${on.network.name} to ${patch.network}/${patch.prefix}`, edits),
    moves,
    keyIn: [...new Map(keyIn.map(({ device }) => [device.id, device])).values()],
    overlaps: facts.networks
      .filter((other) => other !== on && overlaps(other.subnet, shift.to))
      .map(({ network }) => network),
    dropped: [...dropped, ...blocks.dropped],
  };
}

interface Shift {
  readonly to: Subnet;
  /** The same place in the new range; undefined outside the old one, or where the new one has no such host. */
  readonly of: (ip: number) => number | undefined;
}

function shifter({ subnet }: NetworkFacts, to: Subnet): Shift {
  const { first, last } = hostRange(to);
  const of = (ip: number) => {
    // from a narrow range into a wide one the whole place is kept, the other way round the last figure
    const place = ip - subnet.network;
    const kept = place < 2 ** (32 - to.prefix) ? place : to.prefix >= 24 ? ip % 256 : undefined;
    if (!contains(subnet, ip) || kept === undefined) return undefined;
    const moved = to.network + kept;
    return moved >= first && moved <= last ? moved : undefined;
  };
  return { to, of };
}

function movesOf({ planned }: NetworkFacts, shift: Shift): Renumbered[] {
  const taken = new Set<number>();
  return planned.flatMap(({ address, device, ip }): Renumbered[] => {
    if (ip === null) return [];
    const wished = shift.of(ip);
    const isFree = wished !== undefined && !taken.has(wished);
    if (isFree) taken.add(wished);
    return [{ address, device, from: formatIp(ip), to: isFree ? formatIp(wished) : null }];
  });
}

function networkPatch({ network, gateway, pool, granted }: NetworkFacts, shift: Shift) {
  const follow = (ip: number | null) => (ip === null ? undefined : shift.of(ip));
  const [newGateway, from, to] = [follow(gateway), follow(pool?.from ?? null), follow(pool?.to ?? null)];
  const hasPool = from !== undefined && to !== undefined && from <= to;
  const grants = granted.flatMap((range) => {
    const [first, last] = [shift.of(range.from), shift.of(range.to)];
    return first !== undefined && last !== undefined && first <= last
      ? [{ first: formatIp(first), last: formatIp(last) }]
      : [];
  });
  const patch = {
    network: formatIp(shift.to.network),
    prefix: shift.to.prefix,
    gateway: newGateway === undefined ? null : formatIp(newGateway),
    poolFrom: hasPool ? formatIp(from) : null,
    poolTo: hasPool ? formatIp(to) : null,
    granted: grants,
  } satisfies Partial<Content<'networks'>>;
  const dropped = [
    ...(gateway !== null && newGateway === undefined ? [`the gateway ${network.gateway}`] : []),
    ...(pool && !hasPool ? [`the pool ${network.poolFrom} to ${network.poolTo}`] : []),
    ...(grants.length < granted.length ? ['what the house granted'] : []),
  ];
  return { patch, dropped };
}

function blockEdits({ blocks }: NetworkFacts, shift: Shift): { edits: Edit[]; dropped: string[] } {
  const moved = blocks.map(({ block, from, to }) => ({ block, first: shift.of(from), last: shift.of(to) }));
  const fits = moved.flatMap(({ block, first, last }) =>
    first !== undefined && last !== undefined && first <= last ? [{ block, first, last }] : [],
  );
  const kept = new Set(fits.map(({ block }) => block.id));
  return {
    edits: fits.map(({ block, first, last }) =>
      updateRow('blocks', block, { first: formatIp(first), last: formatIp(last) }),
    ),
    dropped: moved.flatMap(({ block }) => (kept.has(block.id) ? [] : [`the block ${block.label}`])),
  };
}

function moveEdits(show: Show, facts: AddressingFacts, { address, from, to }: Renumbered): Edit[] {
  const item = facts.planned.find((planned) => planned.address.id === address.id);
  const own = updateRow('addresses', address, { ip: to, ...(to === null ? { held: false } : {}), prefix: null });
  return [own, ...(to === null || !item ? [] : followMove(show, item, from, to))];
}

/** One edit a row: a service that tells two units that move follows both. */
function joined(edits: readonly Edit[]): Edit[] {
  const byRow = new Map<string, Edit>();
  for (const edit of edits) {
    const key = `${edit.table} ${edit.id}`;
    const before = byRow.get(key);
    byRow.set(key, before ? merged(before, edit) : edit);
  }
  return [...byRow.values()];
}

/** Both edits start from one row: of each field the one that was altered counts. */
function merged(one: Edit, other: Edit): Edit {
  const [base, left, right] = [one.before, one.after, other.after] as (Record<string, unknown> | null)[];
  if (!base || !left || !right) return one;
  const fields = Object.keys(base).map((key) => [key, right[key] === base[key] ? left[key] : right[key]]);
  const after: unknown = Object.fromEntries(fields);
  return { ...one, after } as Edit;
}

/** Moves addresses to another network: the same last figures where they are free, else they wait. One change. */
export function planChangeNetwork(show: Show, items: readonly Planned[], networkId: string): Change | undefined {
  const facts = addressingFacts(show);
  const on = facts.byNetwork.get(networkId);
  if (!on) return undefined;
  const taken = new Set(on.planned.flatMap(({ ip }) => ip ?? []));
  const edits = items
    .filter(({ network }) => network.id !== networkId)
    .flatMap((item): Edit[] => {
      const wished = item.ip === null ? undefined : sameFigure(on, item.ip, taken);
      if (wished !== undefined) taken.add(wished);
      const to = wished === undefined ? null : formatIp(wished);
      const own = updateRow('addresses', item.address, {
        networkId,
        ip: to,
        prefix: null,
        gateway: null,
        held: to !== null && item.address.held,
      });
      return [own, ...(to === null || item.address.ip === null ? [] : followMove(show, item, item.address.ip, to))];
    });
  const [first] = items;
  const name = items.length === 1 ? (first?.device.name ?? 'a unit') : `${items.length} addresses`;
  return changeOf(`Move ${name} to ${on.network.name}`, joined(edits));
}

/** The host of a network that ends on the same figure, if nobody has it. */
function sameFigure({ subnet, first, last, gateway, pool }: NetworkFacts, ip: number, taken: ReadonlySet<number>) {
  const place = subnet.prefix >= 24 ? ip % 256 : ip % 2 ** (32 - subnet.prefix);
  const wished = subnet.network + place;
  const isHost = contains(subnet, wished) && wished >= first && wished <= last;
  const isTaken = taken.has(wished) || wished === gateway || (pool && wished >= pool.from && wished <= pool.to);
  return isHost && !isTaken ? wished : undefined;
}
