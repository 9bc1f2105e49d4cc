import { mustIp, subnetOf, type AddressingFacts, type NetworkFacts } from '../../addressing/index.ts';
import type { BroadcastDomains } from '../../cabling/index.ts';
import { groupBy, macOf, memoFor, typeOf, type Show } from '../../show/index.ts';
import type { Asking, Held, Machines, Place } from './held.ts';

/** RFC 3927 section 2.1: the first and last 256 addresses of 169.254/16 are kept free. */
const [selfFrom, selfTo] = [mustIp('169.254.1.0'), mustIp('169.254.254.255')];

export const placeKey = ({ device, adapter }: Place): string => `${device.id} ${adapter}`;

interface Answers extends Pick<Machines, 'mayBeTaken' | 'mayBeGiven'> {
  /** By `device adapter`. */
  readonly answers: ReadonlyMap<string, readonly Held[]>;
}

/** What those get who ask a server or help themselves. One client an adapter. */
export function answersFor(
  show: Show,
  addressing: AddressingFacts,
  wired: BroadcastDomains,
  fixed: readonly Held[],
  asking: readonly Asking[],
): Answers {
  const routers = fixed.filter(({ machineId }) => typeOf(show, show.devices[machineId])?.kind === 'router');
  const servers = groupBy(routers, ({ domain }) => domain ?? '');
  const fixedBy = groupBy(fixed, ({ domain }) => domain ?? '');
  const clients = groupBy(
    asking.filter(({ row }) => row.address.method === 'dhcp'),
    ({ domain }) => domain ?? '',
  );
  const poolOf = memoFor((server: Held) => servedBy(show, addressing, server, fixedBy.get(server.domain ?? '') ?? []));
  /** Whoever asks for the same pool of a machine, in whichever of its domains. */
  const askersOf = memoFor((server: Held) => {
    const legs = routers.filter((leg) => leg.machineId === server.machineId && poolOf(leg)?.on === poolOf(server)?.on);
    const domains = new Set(legs.map(({ domain }) => domain ?? ''));
    return [...domains].reduce((sum, domain) => sum + (clients.get(domain)?.length ?? 0), 0);
  });
  const selfAssigned = selfAssigner(fixedBy, asking);
  const answers = new Map<string, Held[]>();
  const open: Range[] = [];
  for (const { place, row, domain, lit } of asking) {
    const { device, adapter } = place;
    const reached = domain === undefined || wired.loopIn(domain) ? [] : (servers.get(domain) ?? []);
    const mac = macOf(show, device.id, adapter, place.at);
    const offers =
      row.address.method === 'dhcp'
        ? reached
            .filter(({ machineId }) => machineId !== device.id)
            .flatMap((server) => {
              const others = (fixedBy.get(domain ?? '') ?? []).filter(({ machineId }) => machineId !== device.id);
              return offerOf(poolOf(server), server, { mac, others, askers: askersOf(server) }) ?? [];
            })
        : [];
    const [offer] = offers;
    const answering = new Set(offers.map(({ leasedBy }) => leasedBy));
    const unsure = answering.size > 1 || (offer?.isShort ?? false);
    if (unsure) open.push(...offers.map(({ from, to }) => ({ domain, from, to })));
    const base = { machineId: device.id, adapter, tag: null, domain, lit, address: row.address, unsure };
    answers.set(placeKey(place), [
      { ...base, ...(offer ?? { ...selfAssigned({ row, domain }), leasedBy: undefined }) },
    ]);
  }
  const among = (ranges: readonly Range[]) => (domain: string, ip: number) =>
    ranges.some((one) => one.domain === domain && ip >= one.from && ip <= one.to);
  const given = [...answers.values()].flat().filter(({ from, to }) => from !== to);
  return { answers, mayBeTaken: among(open), mayBeGiven: among(given) };
}

type Range = Pick<Held, 'domain' | 'from' | 'to'>;
type Offer = Pick<Held, 'from' | 'to' | 'prefix' | 'gateway' | 'leasedBy'> & {
  /** More ask than there is room for. */
  readonly isShort: boolean;
};

/** What a router serves in its domain: a range, how much of it nobody has, and who gets what by reservation. */
interface Pool {
  readonly on: NetworkFacts;
  readonly from: number;
  readonly to: number;
  readonly room: number;
  readonly reservedFor: ReadonlyMap<string, number>;
  /** Reserved for more than one: whoever asks later finds it taken, and declines it. */
  readonly contested: ReadonlySet<number>;
}

function servedBy(
  show: Show,
  { networks }: AddressingFacts,
  server: Held,
  heldThere: readonly Held[],
): Pool | undefined {
  // that of the subnet in which its own address is (RFC 2131 section 4.3.1)
  const { network, prefix } = subnetOf(server.from, server.prefix);
  const on = networks
    .filter(({ pool, subnet }) => pool !== null && subnet.network === network && subnet.prefix === prefix)
    .sort((a, b) => (a.network.id < b.network.id ? -1 : 1))[0];
  if (!on?.pool) return undefined;
  // it hands out what is a host of the network and nobody answers for (RFC 2131 section 3.1); a range that ends before
  // it starts holds nothing
  const [from, to] = [Math.max(on.pool.from, on.first), Math.min(on.pool.to, on.last)];
  const leased = on.planned.filter(({ address }) => address.method === 'dhcp');
  const taken = new Set([...heldThere, ...leased].map((one) => ('from' in one ? one.from : one.ip)));
  const inPool = [...taken].filter((ip) => ip !== null && ip >= from && ip <= to);
  // what is taken at its ends nobody is given: of two addresses (RFC 3021) one may be the router's own
  const [lowest, highest] = [freeFrom(taken, from, 1), freeFrom(taken, to, -1)];
  const reservedFor = new Map<string, number>();
  for (const { ip, interface: its, type } of leased) {
    if (ip === null || ip < on.first || ip > on.last) continue;
    const at = type.adapters.findIndex(({ key }) => key === its.adapter);
    reservedFor.set(macOf(show, its.deviceId, its.adapter, at), ip);
  }
  const contested = new Set([...reservedFor.values()].filter((ip, at, all) => all.indexOf(ip) !== at));
  return { on, from: lowest, to: highest, room: to - from + 1 - inPool.length, reservedFor, contested };
}

function freeFrom(taken: ReadonlySet<number | null>, first: number, step: 1 | -1): number {
  let ip = first;
  while (taken.has(ip)) ip += step;
  return ip;
}

interface Client {
  readonly mac: string;
  /** Who else is in its domain with an address that was keyed in. */
  readonly others: readonly Held[];
  readonly askers: number;
}

/**
 * What a router hands to a client: what is reserved for its MAC address, else something from the pool (RFC 2131). A
 * client that finds its reserved address taken declines it, and is given another one (section 3.1.5).
 */
function offerOf(pool: Pool | undefined, server: Held, { mac, others, askers }: Client): Offer | undefined {
  if (!pool) return undefined;
  const { on, room } = pool;
  const reserved = pool.reservedFor.get(mac);
  const isTaken = others.some(({ from, to, lit }) => lit && from === reserved && to === reserved);
  const kept = isTaken ? undefined : reserved;
  if (kept === undefined && room < 1) return undefined;
  return {
    from: kept ?? pool.from,
    to: kept ?? pool.to,
    prefix: on.subnet.prefix,
    gateway: on.gateway,
    leasedBy: server.machineId,
    isShort: kept === undefined ? room < askers : pool.contested.has(kept),
  };
}

type Self = Pick<Asking, 'row' | 'domain'>;

/** A host that remembers an address of 169.254/16 takes it again unless somebody has it (RFC 3927 section 2.1). */
function selfAssigner(fixedBy: ReadonlyMap<string, readonly Held[]>, asking: readonly Asking[]) {
  const nameOf = ({ row, domain }: Self) => `${domain ?? ''} ${row.ip}`;
  const remembering = groupBy(
    asking.filter(({ row }) => row.address.method === 'self' && row.ip !== null),
    nameOf,
  );
  return (own: Self): Pick<Held, 'from' | 'to' | 'prefix' | 'gateway'> => {
    const { ip, address } = own.row;
    const remembered = address.method === 'self' && ip !== null && ip >= selfFrom && ip <= selfTo;
    const isTaken =
      remembered &&
      ((fixedBy.get(own.domain ?? '') ?? []).some(({ from }) => from === ip) ||
        (remembering.get(nameOf(own)) ?? []).length > 1);
    const known = remembered && !isTaken;
    return { from: known ? ip : selfFrom, to: known ? ip : selfTo, prefix: 16, gateway: null };
  };
}
