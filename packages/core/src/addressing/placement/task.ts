import { byName } from '../../show/index.ts';
import type { AddressingFacts, NetworkFacts, Planned } from '../facts.ts';
import { blockFor, obstacleAt } from '../free-hosts.ts';
import { lowestHosts, rangesFor } from '../free-ranges.ts';

/** Gear that shares one set of allowed addresses: those of its block, or everything outside all blocks. */
export interface Domain {
  readonly key: string;
  /**
   * Allowed addresses, ascending: free of gateway, pool, reserved ranges, factory addresses and of what stays. Of a
   * wide network only as many as could ever be chosen: the lowest, the lowest of each last figure, and those wished for.
   */
  readonly hosts: readonly number[];
}

/** One interface that needs a place, with what each place would cost it. */
export interface Mover {
  readonly item: Planned;
  readonly domain: Domain;
  /** Where it is now, if it may stay there: one of several units that share an address. */
  readonly own: number | undefined;
  /** The address that its unit number asks for, if its domain has it. */
  readonly byUnit: number | undefined;
  /** Last figures that the unit has on other networks. */
  readonly figures: ReadonlySet<number>;
}

export interface PlacementTask {
  readonly on: NetworkFacts;
  readonly movers: readonly Mover[];
}

/** Which faulty addresses are moved besides placing the waiting ones. */
export type Scope = 'waiting' | 'faulty';

/**
 * What has to be placed on one network. Held and valid addresses stay where they are. With `faulty`, those that
 * cannot work move too: outside, named like the network or everybody, on the gateway, in the pool, on a reserved or
 * factory address. Of several on one address a held one keeps it, else whoever it costs most to move.
 */
export function placementTask(
  facts: AddressingFacts,
  on: NetworkFacts,
  scope: Scope,
  keeps: ReadonlySet<string> = new Set(),
): PlacementTask {
  const moving = on.planned.filter((item) => !keeps.has(item.address.id) && needsPlace(facts, on, item, scope));
  const ids = new Set(moving.map(({ address }) => address.id));
  const stays = (ip: number): boolean => (facts.takers.get(ip) ?? []).some((id) => !ids.has(id));
  const domains = new Map<string, Domain>();
  const domainOf = (item: Planned): Domain => {
    const block = blockFor(on, item.type.kind);
    const key = block ? block.block.id : 'outside';
    const known = domains.get(key);
    if (known) return known;
    const rivals = moving.filter((other) => blockFor(on, other.type.kind) === block);
    const made = { key, hosts: hostsFor(facts, on, { block, rivals, stays }) };
    domains.set(key, made);
    return made;
  };
  const movers = moving
    .sort((a, b) => byName(a.device, b.device) || (a.address.id < b.address.id ? -1 : 1))
    .map((item): Mover => {
      const domain = domainOf(item);
      const clashes = item.ip !== null && obstacleAt(facts, on, item.ip) === 'taken' && !stays(item.ip);
      return {
        item,
        domain,
        own: clashes ? (item.ip ?? undefined) : undefined,
        byUnit: unitHost(on, item),
        figures: figuresElsewhere(facts, on, item),
      };
    });
  return { on, movers };
}

function needsPlace(facts: AddressingFacts, on: NetworkFacts, item: Planned, scope: Scope): boolean {
  const { address, ip } = item;
  if (address.method === 'self' || (address.method === 'dhcp' && ip === null)) return false;
  if (ip === null) return true;
  if (scope === 'waiting' || address.held || item.type.kind === 'router') return false;
  const obstacle = obstacleAt(facts, on, ip);
  if (obstacle !== 'taken') return obstacle !== undefined && !(obstacle === 'pool' && address.method === 'dhcp');
  return (facts.takers.get(ip)?.length ?? 0) > 1;
}

interface Wanted {
  readonly block: ReturnType<typeof blockFor>;
  readonly rivals: readonly Planned[];
  readonly stays: (ip: number) => boolean;
}

/**
 * Free and clashing addresses of a block, or of everything outside all blocks. Whoever is placed anywhere else could be
 * placed on one of these at no higher cost, since no more than all rivals can be in its way.
 */
function hostsFor(facts: AddressingFacts, on: NetworkFacts, { block, rivals, stays }: Wanted): number[] {
  const ranges = rangesFor(on, block);
  const fits = (ip: number): boolean => !stays(ip) && !facts.factory.has(ip) && !facts.gateways.has(ip);
  const count = 2 * rivals.length + 1;
  const figures = new Map<number, number>();
  for (const rival of rivals)
    for (const figure of figuresElsewhere(facts, on, rival)) figures.set(figure, (figures.get(figure) ?? 0) + 1);
  const wishes = rivals.flatMap((rival) => [unitHost(on, rival) ?? [], rival.ip ?? []].flat());
  const hosts = [
    ...(rivals.length === 1 ? facts.lowestFree(on.network.id, block?.block.id) : lowestHosts(ranges, count, fits)),
    ...[...figures].flatMap(([figure, wanting]) => {
      const inTheWay = wishes.filter((ip) => ip % 256 === figure).length;
      return lowestHosts(ranges, wanting + inTheWay, fits, { step: 256, offset: figure });
    }),
    ...wishes.filter((ip) => fits(ip) && ranges.some(({ from, to }) => ip >= from && ip <= to)),
  ];
  return [...new Set(hosts)].sort((a, b) => a - b);
}

/** Unit 3 ends in 3: a block from .31 (or .30) gives unit 3 the .33. */
export function unitHost(on: NetworkFacts, { device, type }: Planned): number | undefined {
  const block = blockFor(on, type.kind);
  if (!block || device.unit === null || device.unit < 1) return undefined;
  const tens = block.from - ((block.from % 256) % 10 === 0 ? 0 : 1);
  const ip = tens + device.unit;
  return ip >= block.from && ip <= block.to ? ip : undefined;
}

/** Last figures of the unit's addresses on networks that come before this one, which are settled by then. */
function figuresElsewhere(facts: AddressingFacts, on: NetworkFacts, item: Planned): Set<number> {
  const others = (facts.byDevice.get(item.device.id) ?? []).filter(({ network }) => network.id !== on.network.id);
  return new Set(others.flatMap(({ ip }) => (ip === null ? [] : [ip % 256])));
}
