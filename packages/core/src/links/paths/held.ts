import { contains, mustIp, subnetOf, type AddressingFacts, type Planned, type Subnet } from '../../addressing/index.ts';
import type { BroadcastDomains, CablingFacts } from '../../cabling/index.ts';
import {
  groupBy,
  macOf,
  rowsOf,
  typeOf,
  type Address,
  type Device,
  type DeviceType,
  type Network,
  type Show,
} from '../../show/index.ts';

/**
 * An address that an adapter will have once everything is as planned and running. Where a server or the unit itself
 * picks it, only the range is known: then `from` and `to` differ.
 */
export interface Held {
  /** The machine: never a program. */
  readonly machineId: string;
  readonly adapter: string;
  readonly from: number;
  readonly to: number;
  readonly prefix: number;
  readonly gateway: number | null;
  readonly tag: number | null;
  readonly domain: string | undefined;
  /** The row of the plan that it follows from. */
  readonly address: Address;
  /** The server that hands it out, where one does. */
  readonly leasedBy: string | undefined;
  /** Several servers answer, or the pool is too small: which address it gets, or whether it gets one, is up to chance. */
  readonly unsure: boolean;
}

export interface Machine {
  readonly id: string;
  readonly type: DeviceType;
  /** In the order of the type's adapters, and there in the order of the plan. */
  readonly held: readonly Held[];
}

export interface Machines {
  readonly of: (machineId: string) => Machine | undefined;
  /** Who answers for an address in a domain. */
  readonly owners: (domain: string, ip: number) => readonly Held[];
  /** Somebody may get this address from one of several servers, and may not. */
  readonly mayBeTaken: (domain: string, ip: number) => boolean;
}

const linkLocal: Subnet = { network: mustIp('169.254.0.0'), prefix: 16 };
/** RFC 3927 section 2.1: the first and last 256 addresses are kept free. */
const [selfFrom, selfTo] = [mustIp('169.254.1.0'), mustIp('169.254.254.255')];

export function machinesOf(show: Show, addressing: AddressingFacts, { domains }: CablingFacts): Machines {
  const wired = domains();
  const rows = groupBy(addressing.planned, ({ interface: its }) => `${its.deviceId} ${its.adapter}`);
  const adapters = rowsOf(show, 'devices').flatMap((device) => {
    const type = typeOf(show, device);
    return type && type.form === 'unit' ? [{ device, type }] : [];
  });
  const fixed = new Map<string, Held[]>();
  const asking: Asking[] = [];
  for (const { device, type } of adapters)
    for (const [at, { key }] of type.adapters.entries()) {
      const own = rows.get(`${device.id} ${key}`);
      if (!own) continue;
      const place = {
        device,
        type,
        adapter: key,
        at,
        domain: (tag: number | null) => wired.domainOf(device.id, key, tag),
      };
      fixed.set(
        `${device.id} ${key}`,
        own.flatMap((item) => fixedAddress(wired, place, item)),
      );
      const asks = own.find(({ address }) => address.method !== 'static');
      if (asks) asking.push({ ...place, row: asks });
    }
  const { answers: leased, open } = answersFor(show, addressing, wired, [...fixed.values()].flat(), asking);
  const held = new Map(
    adapters.map(({ device, type }) => [
      device.id,
      {
        id: device.id,
        type,
        held: type.adapters.flatMap(({ key }) => [
          ...(fixed.get(`${device.id} ${key}`) ?? []),
          ...(leased.get(`${device.id} ${key}`) ?? []),
        ]),
      },
    ]),
  );
  const owners = groupBy(
    [...held.values()].flatMap((machine) =>
      machine.held.filter(({ domain, from, to }) => domain !== undefined && from === to),
    ),
    ({ domain, from }) => `${domain} ${from}`,
  );
  return {
    of: (id) => held.get(id),
    owners: (domain, ip) => owners.get(`${domain} ${ip}`) ?? [],
    mayBeTaken: (domain, ip) => open.some((one) => one.domain === domain && ip >= one.from && ip <= one.to),
  };
}

interface Place {
  readonly device: Device;
  readonly type: DeviceType;
  readonly adapter: string;
  /** The adapter's place in its type. */
  readonly at: number;
  readonly domain: (tag: number | null) => string | undefined;
}
interface Asking extends Place {
  readonly row: Planned;
}

/** A unit refuses the name of its network and the address of everybody (RFC 1122 section 3.2.1.3). */
export function isHost(ip: number, prefix: number): boolean {
  const host = prefix === 0 ? ip : ip % 2 ** (32 - prefix);
  return prefix >= 31 || (host !== 0 && host !== 2 ** (32 - prefix) - 1);
}

function fixedAddress(wired: BroadcastDomains, place: Place, { address, network, ip, prefix }: Planned): Held[] {
  if (address.method !== 'static' || ip === null || !isHost(ip, prefix)) return [];
  const { device, adapter } = place;
  // the native VLAN crosses a trunk without a tag
  const tag = wired.takesTags(device.id, adapter) && network.vlan !== 1 ? network.vlan : null;
  return [
    {
      machineId: device.id,
      adapter,
      from: ip,
      to: ip,
      prefix,
      gateway: gatewayOf(address, network),
      tag,
      domain: place.domain(tag),
      address,
      leasedBy: undefined,
      unsure: false,
    },
  ];
}

const gatewayOf = (address: Address, network: Network): number | null => {
  const text = address.gateway ?? network.gateway;
  return text === null ? null : mustIp(text);
};

/** What those get who ask a server or help themselves, by `device adapter`. One client an adapter. */
function answersFor(
  show: Show,
  addressing: AddressingFacts,
  wired: BroadcastDomains,
  fixed: readonly Held[],
  asking: readonly Asking[],
): { readonly answers: Map<string, Held[]>; readonly open: readonly Open[] } {
  const servers = groupBy(
    fixed.filter(({ machineId }) => typeOf(show, show.devices[machineId])?.kind === 'router'),
    ({ domain }) => domain ?? '',
  );
  const answers = new Map<string, Held[]>();
  const open: Open[] = [];
  for (const place of asking) {
    const domain = place.domain(null);
    const reached = domain === undefined || wired.loopIn(domain) ? [] : (servers.get(domain) ?? []);
    const isServed = place.row.address.method === 'dhcp';
    const offers = isServed
      ? reached
          .filter(({ machineId }) => machineId !== place.device.id)
          .flatMap((server) => offerOf(show, addressing, server, place, fixed) ?? [])
      : [];
    const [offer] = offers;
    const answering = new Set(offers.map(({ leasedBy }) => leasedBy));
    const asked = asking.filter((other) => other.row.address.method === 'dhcp' && other.domain(null) === domain);
    const isShort = offer !== undefined && !offer.reserved && offer.room < asked.length;
    const unsure = answering.size > 1 || isShort;
    if (unsure) open.push(...offers.map(({ from, to }) => ({ domain, from, to })));
    const base = { machineId: place.device.id, adapter: place.adapter, tag: null, domain, address: place.row.address };
    answers.set(`${place.device.id} ${place.adapter}`, [
      { ...base, unsure, ...(offer ?? { ...selfAssigned(fixed, asking, place), leasedBy: undefined }) },
    ]);
  }
  return { answers, open };
}

type Offer = Pick<Held, 'from' | 'to' | 'prefix' | 'gateway' | 'leasedBy'> & {
  readonly reserved: boolean;
  readonly room: number;
};
type Open = Pick<Held, 'domain' | 'from' | 'to'>;

/** What a router hands to a client: what is reserved for its MAC address, else something from the pool (RFC 2131). */
function offerOf(
  show: Show,
  addressing: AddressingFacts,
  server: Held,
  { device, adapter, at }: Asking,
  fixed: readonly Held[],
): Offer | undefined {
  const on = addressing.networks
    .filter(({ pool, subnet }) => pool !== null && contains(subnet, server.from))
    .sort((a, b) => b.subnet.prefix - a.subnet.prefix || (a.network.id < b.network.id ? -1 : 1))[0];
  if (!on?.pool) return undefined;
  const mac = macOf(show, device.id, adapter, at);
  const reserved = on.planned.filter(
    ({ address, ip, interface: its, type }) =>
      address.method === 'dhcp' &&
      ip !== null &&
      mac ===
        macOf(
          show,
          its.deviceId,
          its.adapter,
          type.adapters.findIndex(({ key }) => key === its.adapter),
        ),
  );
  const kept = reserved.at(-1)?.ip;
  // it hands out what nobody answers for (RFC 2131 section 3.1); a range that ends before it starts holds nothing
  const { from, to } = on.pool;
  const inPool = (ip: number | null): ip is number => ip !== null && ip >= from && ip <= to;
  const taken = new Set([
    ...fixed.filter((own) => own.domain === server.domain).map((own) => own.from),
    ...on.planned.filter(({ address }) => address.method === 'dhcp').map(({ ip }) => ip),
  ]);
  const room = to - from + 1 - [...taken].filter(inPool).length;
  if (kept == null && room < 1) return undefined;
  return {
    from: kept ?? on.pool.from,
    to: kept ?? on.pool.to,
    prefix: on.subnet.prefix,
    gateway: on.gateway,
    leasedBy: server.machineId,
    reserved: kept != null,
    room,
  };
}

/** A host that remembers an address of 169.254/16 takes it again unless somebody has it (RFC 3927 section 2.1). */
function selfAssigned(
  fixed: readonly Held[],
  asking: readonly Asking[],
  place: Asking,
): Omit<Offer, 'leasedBy' | 'reserved' | 'room'> {
  const { ip, address } = place.row;
  const domain = place.domain(null);
  const remembered = address.method === 'self' && ip !== null && ip >= selfFrom && ip <= selfTo;
  const isTaken =
    remembered &&
    (fixed.some((other) => other.from === ip && other.domain === domain) ||
      asking.some(
        (other) =>
          other !== place &&
          other.row.address.method === 'self' &&
          other.row.ip === ip &&
          other.domain(null) === domain,
      ));
  const known = remembered && !isTaken;
  return { from: known ? ip : selfFrom, to: known ? ip : selfTo, prefix: linkLocal.prefix, gateway: null };
}

/** Is the whole range of an address in a subnet, nothing of it, or some? */
export function within(
  { from, to }: Pick<Held, 'from' | 'to'>,
  own: Pick<Held, 'from' | 'prefix'>,
): boolean | 'perhaps' {
  const subnet = subnetOf(own.from, own.prefix);
  const [first, last] = [contains(subnet, from), contains(subnet, to)];
  if (first && last) return true;
  return first || last || (from < subnet.network && to >= subnet.network) ? 'perhaps' : false;
}
