import { byName } from '../show/index.ts';
import { blockFor, obstacleAt, type Obstacle } from './free-hosts.ts';
import { freeRuns, sizeOfRanges, usableRanges, type Range } from './free-ranges.ts';
import { formatIp, sizeOf } from './ipv4.ts';
import type { AddressingFacts, NetworkFacts, Planned } from './facts.ts';

/** The geometry of one network's ruler in host numbers from the network address; the view only scales it. */
export interface Ruler {
  readonly size: number;
  readonly blocks: readonly {
    readonly id: string;
    readonly label: string;
    readonly from: number;
    readonly to: number;
    readonly keptFree: boolean;
  }[];
  readonly pool: { readonly from: number; readonly to: number } | null;
  readonly units: readonly {
    readonly at: number;
    readonly ip: string;
    readonly names: readonly string[];
    readonly addressId: string;
  }[];
  readonly factory: readonly { readonly at: number; readonly ip: string; readonly name: string }[];
  readonly gateway: number | null;
  /** Ranges that the house granted; empty where all of it is ours. */
  readonly granted: readonly { readonly from: number; readonly to: number }[];
  readonly free: number;
  readonly widest: { readonly from: number; readonly to: number } | null;
}

export function rulerOf(facts: AddressingFacts, on: NetworkFacts): Ruler {
  const at = (ip: number) => ip - on.subnet.network;
  const inside = (ip: number) => ip >= on.subnet.network && ip <= on.broadcast;
  const spots = new Map<number, NetworkFacts['planned'][number][]>();
  for (const item of on.planned) {
    if (item.ip === null || !inside(item.ip)) continue;
    spots.set(item.ip, [...(spots.get(item.ip) ?? []), item]);
  }
  return {
    size: sizeOf(on.subnet),
    blocks: on.blocks.map(({ block, from, to }) => ({
      id: block.id,
      label: block.label,
      from: at(from),
      to: at(to),
      keptFree: block.use === 'keep_free',
    })),
    granted: on.granted.map(({ from, to }) => ({ from: at(from), to: at(to) })),
    pool: on.pool && { from: at(on.pool.from), to: at(on.pool.to) },
    units: [...spots].map(([ip, items]) => ({
      at: at(ip),
      ip: formatIp(ip),
      names: items.map((item) => item.device.name),
      addressId: items[0]?.address.id ?? '',
    })),
    factory: [...facts.factory]
      .filter(([ip]) => inside(ip))
      .map(([ip, device]) => ({ at: at(ip), ip: formatIp(ip), name: device.name })),
    gateway: on.gateway !== null && inside(on.gateway) ? at(on.gateway) : null,
    ...gapsOf(facts, on),
  };
}

/** How many hosts are free, and the widest run of them. */
function gapsOf(facts: AddressingFacts, on: NetworkFacts): Pick<Ruler, 'free' | 'widest'> {
  const runs = freeRuns(facts, usableRanges(on, { from: on.first, to: on.last }));
  const widest = runs.reduce<Range | null>(
    (first, run) => (first === null || run.to - run.from > first.to - first.from ? run : first),
    null,
  );
  const at = (ip: number) => ip - on.subnet.network;
  return { free: sizeOfRanges(runs), widest: widest && { from: at(widest.from), to: at(widest.to) } };
}

/** Who would be placed next at an address, and why not if nobody can: for a click or a key on the ruler. */
export interface Spot {
  readonly ip: string;
  readonly block: string | null;
  readonly obstacle: Obstacle | undefined;
  readonly next: Planned | undefined;
}

/** The first waiting unit whose block an address lies in, by unit number, then name; outside all blocks one without a block. */
export function spotAt(facts: AddressingFacts, on: NetworkFacts, host: number): Spot {
  const ip = on.subnet.network + host;
  const range = on.blocks.find(({ from, to }) => ip >= from && ip <= to);
  const waiting = on.planned
    .filter((item) => item.ip === null && item.address.method === 'static')
    .filter((item) => blockFor(on, item.type.kind)?.block.id === range?.block.id)
    .sort((a, b) => (a.device.unit ?? Infinity) - (b.device.unit ?? Infinity) || byName(a.device, b.device));
  return { ip: formatIp(ip), block: range?.block.label ?? null, obstacle: obstacleAt(facts, on, ip), next: waiting[0] };
}

/** The room in which one edge of a block may move: up to its neighbours, the pool and its own other edge. */
export function edgeRange(on: NetworkFacts, blockId: string, edge: 'first' | 'last'): { from: number; to: number } {
  const own = on.blocks.find(({ block }) => block.id === blockId);
  const others = on.blocks.filter(({ block }) => block.id !== blockId);
  const [start, end] = [own?.from ?? on.first, own?.to ?? on.last];
  const below = Math.max(on.first, ...others.filter(({ to }) => to < start).map(({ to }) => to + 1));
  const above = Math.min(on.last, ...others.filter(({ from }) => from > end).map(({ from }) => from - 1));
  const at = (ip: number) => ip - on.subnet.network;
  return edge === 'first' ? { from: at(below), to: at(end) } : { from: at(start), to: at(above) };
}
