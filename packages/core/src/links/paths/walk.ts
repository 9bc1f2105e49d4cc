import { broadcastOf, mustIp, subnetOf } from '../../addressing/index.ts';
import type { BroadcastDomains } from '../../cabling/index.ts';
import { within, type Held, type Machine, type Machines } from './held.ts';

/** Where a packet is sent: one address, or a range with the adapter that will have one of it. */
export interface Destination {
  readonly from: number;
  readonly to: number;
  readonly held: Held | undefined;
}

export const at = (ip: number): Destination => ({ from: ip, to: ip, held: undefined });
export const towards = (held: Held): Destination => ({ from: held.from, to: held.to, held });

/** The way of a packet from one machine to an address: where it ends, or why and where it is lost. */
export interface Walk {
  /** The machine that takes it, where one does. */
  readonly arrivedAt: string | undefined;
  /** The address that it leaves from; undefined where it never leaves the machine. */
  readonly source: Held | undefined;
  /** Routers on the way. */
  readonly routers: readonly string[];
  /** Every stretch of network that it crosses, from the address that sends it to the one that takes it. */
  readonly hops: readonly Hop[];
  /** It leaves by a gateway. */
  readonly byGateway: boolean;
  readonly lost: Lost | undefined;
  /** Which of several ways it takes depends on an address that nobody knows beforehand. */
  readonly chance: boolean;
}

export interface Hop {
  readonly from: Held;
  readonly to: Held;
}

export interface Lost {
  /**
   * `no_address`: the machine has none; `no_route`: nothing leads there; `silent`: nobody answers for the next hop;
   * `two_owners`: several do; `not_a_router`: whoever takes it passes nothing on; `to_everybody`: whoever has it takes it
   * for one to everybody in a subnet of its own; `circles`: routers send it round.
   */
  readonly why: 'no_address' | 'no_route' | 'silent' | 'two_owners' | 'not_a_router' | 'to_everybody' | 'circles';
  readonly machineId: string;
  /** The next hop that was asked for. */
  readonly next: number | undefined;
  readonly owners: readonly Held[];
}

const mostHops = 64;
const everybody = mustIp('255.255.255.255');

/** Follows a packet hop by hop as hosts and routers send it on (RFC 1122 section 3.3.1, RFC 1812 section 5.2.4). */
export function walk(
  { machines, domains }: { machines: Machines; domains: BroadcastDomains },
  start: Machine,
  destination: Destination,
  adapter: string | null,
): Walk {
  const routers: string[] = [];
  const hops: Hop[] = [];
  let [machine, chance, byGateway]: [Machine, boolean, boolean] = [start, false, false];
  let source: Held | undefined;
  const lost = (why: Lost['why'], next?: number, owners: readonly Held[] = []): Walk => ({
    arrivedAt: undefined,
    source,
    routers,
    hops,
    byGateway,
    lost: { why, machineId: machine.id, next, owners },
    // which of two answers a router first decides where the packet goes
    chance: chance || (why === 'two_owners' && (machine !== start || byGateway)),
  });
  for (let hop = 0; hop <= mostHops; hop += 1) {
    if (owns(machine, destination))
      return { arrivedAt: machine.id, source, routers, hops, byGateway, lost: undefined, chance };
    if (hop > 0 && machine.type.kind !== 'router') return lost('not_a_router');
    if (isToEverybody(machine, destination)) return lost('to_everybody');
    if (hop > 0) routers.push(machine.id);
    const usable = usableOf(machine, hop === 0 ? adapter : null);
    if (usable.length === 0) return lost('no_address');
    const way = routeTo(machine, usable, destination);
    if (!way) return lost('no_route');
    chance ||= way.chance;
    if (hop === 0) [source, byGateway] = [way.own, way.rank < 0];
    const { domain } = way.own;
    if (domain === undefined || domains.loopIn(domain)) return lost('silent', way.next);
    const owners = ownersOf(machines, domain, way, destination).filter(
      (other) => other.machineId !== machine.id || other.adapter !== way.own.adapter,
    );
    if (owners.some(({ machineId }) => machineId !== owners[0]?.machineId)) return lost('two_owners', way.next, owners);
    // who is given that address answers for it
    if (owners.length === 0 && way.next !== undefined) chance ||= machines.mayBeGiven(domain, way.next);
    const next = owners[0] && machines.of(owners[0].machineId);
    if (!owners[0] || !next || next.id === machine.id) return lost('silent', way.next);
    hops.push({ from: way.own, to: owners[0] });
    machine = next;
  }
  return lost('circles');
}

/** The way that a packet would leave by, whether it stays at home or not. */
export const firstRoute = (machine: Machine, destination: Destination, adapter: string | null): Route | undefined =>
  routeTo(machine, usableOf(machine, adapter), destination);

const usableOf = ({ held }: Machine, adapter: string | null): readonly Held[] =>
  adapter === null ? held : held.filter((own) => own.adapter === adapter);

const isLoopback = (ip: number): boolean => ip >>> 24 === 127;

/** Loopback and every address of its own stay on a machine, whichever adapter they arrive at. */
const owns = ({ id, held }: Machine, { from, to, held: known }: Destination): boolean =>
  known && from !== to
    ? known.machineId === id
    : isLoopback(from) || held.some((own) => own.from === from && own.to === from);

/** No host sends to everybody in one of its subnets as to one, and no router passes that on (RFC 1122 section 3.3.6, RFC 2644). */
const isToEverybody = ({ held }: Machine, { from, to }: Destination): boolean =>
  from === to &&
  held.some((own) => own.prefix < 31 && broadcastOf(subnetOf(own.from, own.prefix)) === from && own.from === own.to);

export interface Route {
  readonly own: Held;
  /** The next hop; undefined for a destination whose address is not known, on the own subnet. */
  readonly next: number | undefined;
  /** The length of the prefix that matches; below zero for a gateway. */
  readonly rank: number;
  readonly chance: boolean;
}

/**
 * The way with the longest matching prefix; a gateway counts as none at all. An adapter whose lamp is dark is used only
 * when no other leads there, since systems drop its routes. Else the order of adapters decides.
 */
function routeTo(machine: Machine, usable: readonly Held[], destination: Destination): Route | undefined {
  // everybody is reached by no route
  if (destination.from === everybody) return undefined;
  const ways: Route[] = [];
  for (const own of usable) {
    const inside = within(destination, own);
    if (inside !== false) ways.push({ own, next: nextTo(destination), rank: own.prefix, chance: inside === 'perhaps' });
  }
  for (const own of usable) {
    const { gateway } = own;
    if (gateway !== null && within(at(gateway), own) === true && !machine.held.some(({ from }) => from === gateway))
      ways.push({ own, next: gateway, rank: -1, chance: false });
  }
  const lit = ways.filter(({ own }) => own.lit);
  const among = lit.length > 0 ? lit : ways;
  const [first, ...others] = among;
  if (!first || others.length === 0) return first;
  const best = others.reduce((so, way) => (way.rank > so.rank ? way : so), first);
  return { ...best, chance: among.some(({ chance }) => chance) };
}

const nextTo = ({ from, to }: Destination): number | undefined => (from === to ? from : undefined);

/** Who takes a frame for the next hop: whoever has that address, or the adapter that is known to have one of a range. */
function ownersOf(machines: Machines, domain: string, { next }: Route, { held }: Destination): readonly Held[] {
  if (next !== undefined) return machines.owners(domain, next);
  return held && held.domain === domain ? [held] : [];
}
