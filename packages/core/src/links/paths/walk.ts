import { mustIp } from '../../addressing/index.ts';
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
  /** It leaves by a gateway. */
  readonly byGateway: boolean;
  readonly lost: Lost | undefined;
  /** Which of several ways it takes depends on an address that nobody knows beforehand. */
  readonly chance: boolean;
}

export interface Lost {
  /**
   * `no_address`: the machine has none; `no_route`: nothing leads there; `silent`: nobody answers for the next hop;
   * `two_owners`: several do; `not_a_router`: whoever takes it passes nothing on; `circles`: routers send it round.
   */
  readonly why: 'no_address' | 'no_route' | 'silent' | 'two_owners' | 'not_a_router' | 'circles';
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
  let [machine, chance, byGateway]: [Machine, boolean, boolean] = [start, false, false];
  let source: Held | undefined;
  const lost = (why: Lost['why'], next?: number, owners: readonly Held[] = []): Walk => ({
    arrivedAt: undefined,
    source,
    routers,
    byGateway,
    lost: { why, machineId: machine.id, next, owners },
    // which of two answers a router first decides where the packet goes
    chance: chance || (why === 'two_owners' && (machine !== start || byGateway)),
  });
  for (let hop = 0; hop <= mostHops; hop += 1) {
    if (owns(machine, destination))
      return { arrivedAt: machine.id, source, routers, byGateway, lost: undefined, chance };
    if (hop > 0) {
      if (machine.type.kind !== 'router') return lost('not_a_router');
      routers.push(machine.id);
    }
    const told = hop === 0 ? adapter : null;
    const usable = machine.held.filter((own) => told === null || own.adapter === told);
    if (usable.length === 0) return lost('no_address');
    const way = wayTo(domains, machine, usable, destination);
    if (!way) return lost('no_route');
    chance ||= way.chance;
    if (hop === 0) [source, byGateway] = [way.own, way.rank < 0];
    const { domain } = way.own;
    if (domain === undefined || domains.loopIn(domain)) return lost('silent', way.next);
    const owners = ownersOf(machines, domain, way, destination).filter(
      (other) => other.machineId !== machine.id || other.adapter !== way.own.adapter,
    );
    if (new Set(owners.map(({ machineId }) => machineId)).size > 1) return lost('two_owners', way.next, owners);
    const next = owners[0] && machines.of(owners[0].machineId);
    if (!next || next.id === machine.id) return lost('silent', way.next);
    machine = next;
  }
  return lost('circles');
}

/** The way that a packet would leave by, whether it stays at home or not. */
export const firstWay = (
  { domains }: { domains: BroadcastDomains },
  machine: Machine,
  destination: Destination,
  adapter: string | null,
): Way | undefined =>
  wayTo(
    domains,
    machine,
    machine.held.filter((own) => adapter === null || own.adapter === adapter),
    destination,
  );

const isLoopback = (ip: number): boolean => ip >= mustIp('127.0.0.0') && ip <= mustIp('127.255.255.255');

/** Loopback and every address of its own stay on a machine, whichever adapter they arrive at. */
const owns = ({ id, held }: Machine, { from, to, held: known }: Destination): boolean =>
  known && from !== to
    ? known.machineId === id
    : isLoopback(from) || held.some((own) => own.from === from && own.to === from);

export interface Way {
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
function wayTo(
  domains: BroadcastDomains,
  machine: Machine,
  usable: readonly Held[],
  destination: Destination,
): Way | undefined {
  const direct = usable.flatMap((own) => {
    const inside = within(destination, own);
    return inside === false ? [] : [{ own, next: nextTo(destination), rank: own.prefix, chance: inside === 'perhaps' }];
  });
  const byGateway = usable.flatMap((own) =>
    own.gateway !== null &&
    within(at(own.gateway), own) === true &&
    !machine.held.some(({ from }) => from === own.gateway)
      ? [{ own, next: own.gateway, rank: -1, chance: false }]
      : [],
  );
  // everybody is reached by no route
  const ways = destination.from === everybody ? [] : [...direct, ...byGateway];
  const lit = ways.filter(({ own }) => domains.isLit(own.machineId, own.adapter));
  const among = lit.length > 0 ? lit : ways;
  const best = among.reduce<(typeof among)[number] | undefined>(
    (first, way) => (first === undefined || way.rank > first.rank ? way : first),
    undefined,
  );
  return best && { ...best, chance: among.some(({ chance }) => chance) };
}

const nextTo = ({ from, to }: Destination): number | undefined => (from === to ? from : undefined);

/** Who takes a frame for the next hop: whoever has that address, or the adapter that is known to have one of a range. */
function ownersOf(machines: Machines, domain: string, { next }: Way, { held }: Destination): readonly Held[] {
  if (next !== undefined) return machines.owners(domain, next);
  return held && held.domain === domain ? [held] : [];
}
