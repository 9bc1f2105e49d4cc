import { applyChange, changeOf, updateRow, type Change, type Edit, type Show } from '../show/index.ts';
import { addressingFacts, type AddressingFacts, type NetworkFacts, type Planned } from './facts.ts';
import { blockFor, obstacleAt } from './free-hosts.ts';
import { formatIp } from './ipv4.ts';
import { assign, totalCost, type Cost } from './placement/assign.ts';
import { keptTogether } from './placement/keep-together.ts';
import { placementTask, unitHost, type Mover, type PlacementTask, type Scope } from './placement/task.ts';

export interface Placed {
  readonly item: Planned;
  readonly ip: number;
  /** Its unit number asks for it, another network has the same last figure, or it is the next free one. */
  readonly because: 'unit' | 'figure' | 'next';
}

/** Everybody who competes for the addresses of one block or network in which there is no room for one more. */
export interface Crowd {
  readonly networkId: string;
  readonly blockId: string | undefined;
  readonly items: readonly Planned[];
}

export interface Placement {
  readonly change: Change | undefined;
  readonly placed: readonly Placed[];
  /** Addresses for which there is no room in their block or network. */
  readonly noRoom: readonly Planned[];
  readonly crowds: readonly Crowd[];
  readonly cost: Cost;
}

/** Findings of this room that placing with the wider scope mends, unless the address is held. */
export const mendable: ReadonlySet<string> = new Set([
  'duplicate_ip',
  'network_address',
  'broadcast_address',
  'outside_subnet',
  'on_gateway',
  'in_pool',
  'on_reserved',
  'not_granted',
  'on_factory',
]);

export interface PlacementOptions {
  /** Some networks, of which a later one keeps away from what the earlier ones took; all of them without it. */
  readonly networkIds?: readonly string[] | undefined;
  /** Move addresses that cannot work too, or place only what waits. */
  readonly scope?: Scope;
  readonly onProgress?: (done: number, total: number) => void;
  /** Of the same show, where somebody has them already. */
  readonly facts?: AddressingFacts;
}

/**
 * Gives every waiting address a place. The objective, in this order: place as many as possible; move as few as
 * possible (held and valid ones never); unit numbers in the last figure; the same last figure on every network of a
 * unit, networks being settled from the lowest up; the lowest free address, so that what is left stays in one piece
 * for growth. Deterministic, and optimal for each network by `assign`.
 */
export function planPlacement(show: Show, options: PlacementOptions = {}): Placement {
  const { networkIds, scope = 'waiting', onProgress, facts: first = addressingFacts(show) } = options;
  const networks = first.networks.filter(({ network }) => networkIds?.includes(network.id) ?? true);
  const total = networks.reduce((sum, on) => sum + on.planned.length, 0);
  const sum = { placed: [] as Placed[], noRoom: [] as Planned[], crowds: [] as Crowd[] };
  let cost: Cost = { unplaced: 0, moved: 0, offNumber: 0, offFigure: 0 };
  let [facts, done] = [first, 0];
  for (const { network } of networks) {
    const on = facts.byNetwork.get(network.id);
    if (!on) continue;
    const { task, ips, crowds } = assigned(facts, on, scope, (at) => onProgress?.(done + at, total));
    done += on.planned.length;
    cost = added(cost, totalCost(task.movers, ips));
    const placed = task.movers.flatMap((mover, at) => {
      const ip = ips[at];
      return ip === undefined ? [] : [{ item: mover.item, ip, because: reasonFor(mover, ip) }];
    });
    sum.placed.push(...placed);
    sum.noRoom.push(...task.movers.flatMap(({ item }, at) => (ips[at] === undefined ? [item] : [])));
    for (const rivals of crowds) {
      const items = rivals.flatMap((at) => task.movers[at]?.item ?? []);
      const left = rivals.find((at) => ips[at] === undefined);
      const kind = left === undefined ? undefined : task.movers[left]?.item.type.kind;
      sum.crowds.push({ networkId: network.id, blockId: kind && blockFor(on, kind)?.block.id, items });
    }
    if (networks.length > 1 && placed.length > 0) facts = addressingFacts(withPlaced(show, sum.placed));
  }
  onProgress?.(total, total);
  const moves = sum.placed.filter(({ item, ip }) => item.ip !== ip);
  return { ...sum, placed: moves, cost, change: changeOf(labelOf(moves), editsOf(moves)) };
}

/**
 * Somebody for whom there is no room keeps the address that he has, however wrong it is: nobody else is put on it, as
 * that would only make one clash of another.
 */
function assigned(facts: AddressingFacts, on: NetworkFacts, scope: Scope, onProgress: (done: number) => void) {
  const keeps = new Set<string>();
  for (;;) {
    const task = placementTask(facts, on, scope, keeps);
    const found = assign(task, onProgress);
    const result = { task, ...found, ips: keptTogether(facts, task, found.ips) };
    const given = new Set(result.ips.filter((ip, at) => ip !== undefined && ip !== task.movers[at]?.item.ip));
    const robbed = task.movers.filter(
      ({ item }, at) => result.ips[at] === undefined && item.ip !== null && given.has(item.ip),
    );
    if (robbed.length === 0) return keeps.size === 0 ? result : withKept(result, on, keeps);
    for (const { item } of robbed) keeps.add(item.address.id);
  }
}

type Assigned = ReturnType<typeof assign> & { readonly task: PlacementTask };

/** Those who keep a wrong address are still among those for whom there was no room. */
function withKept({ task, ips, crowds }: Assigned, on: NetworkFacts, keeps: ReadonlySet<string>): Assigned {
  const domain = { key: 'kept', hosts: [] };
  const kept = on.planned
    .filter(({ address }) => keeps.has(address.id))
    .map((item) => ({ item, domain, own: undefined, byUnit: undefined, figures: new Set<number>() }));
  const at = kept.map((_, n) => task.movers.length + n);
  return {
    task: { ...task, movers: [...task.movers, ...kept] },
    ips: [...ips, ...kept.map(() => undefined)],
    crowds: crowds.length > 0 ? crowds.map((crowd, n) => (n === 0 ? [...crowd, ...at] : crowd)) : [at],
  };
}

const reasonFor = ({ byUnit, figures }: Mover, ip: number): Placed['because'] =>
  ip === byUnit ? 'unit' : figures.has(ip % 256) ? 'figure' : 'next';

const editsOf = (placed: readonly Placed[]): Edit[] =>
  placed.map(({ item, ip }) => updateRow('addresses', item.address, { ip: formatIp(ip) }));

function labelOf(placed: readonly Placed[]): string {
  const verb = placed.every(({ item }) => item.ip === null) ? 'Place' : 'Place and move';
  return placed.length === 1 ? `${verb} ${placed[0]?.item.device.name}` : `${verb} ${placed.length} addresses`;
}

function withPlaced(show: Show, placed: readonly Placed[]): Show {
  const applied = applyChange(show, { label: '', edits: editsOf(placed) });
  return applied.ok ? applied.show : show;
}

const added = (a: Cost, b: Cost): Cost => ({
  unplaced: a.unplaced + b.unplaced,
  moved: a.moved + b.moved,
  offNumber: a.offNumber + b.offNumber,
  offFigure: a.offFigure + b.offFigure,
});

/** The address that one unit would get now, for a fix; undefined when nothing is free. */
export function suggestHost(facts: AddressingFacts, item: Planned): number | undefined {
  const on = facts.byNetwork.get(item.network.id);
  if (!on) return undefined;
  const isFree = (ip: number | undefined): ip is number => ip !== undefined && obstacleAt(facts, on, ip) === undefined;
  const wished = unitHost(on, item);
  if (isFree(wished)) return wished;
  const alone = { ...item, ip: null, address: { ...item.address, ip: null, held: false, method: 'static' as const } };
  const task = placementTask(facts, { ...on, planned: [alone] }, 'waiting');
  const free = task.movers.map((mover) => ({
    ...mover,
    domain: { ...mover.domain, hosts: mover.domain.hosts.filter(isFree) },
  }));
  return assign({ movers: free }).ips[0];
}
