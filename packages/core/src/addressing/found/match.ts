import { compareVersions } from '../../rig/index.ts';
import { rowsOf, typeOf, type Device, type FoundHost, type Interface, type Seen, type Show } from '../../show/index.ts';
import type { AddressingFacts, Planned } from '../facts.ts';
import { contains, mustIp, parseIp } from '../ipv4.ts';

/** How the plan and what was found compare for one planned address (C19). */
export type FoundState =
  | 'not_looked'
  | 'present'
  | 'missing'
  | 'wrong_address'
  | 'two_owners'
  | 'as_delivered'
  | 'self_assigned'
  | 'no_address';

export interface FoundItem {
  readonly planned: Planned;
  readonly state: FoundState;
  /** By what it was recognised. */
  readonly by: 'mac' | 'name' | 'address' | null;
  readonly host: FoundHost | undefined;
  /** Where it really is. */
  readonly ip: string | null;
  /** Hosts that share the planned address with it, with the unit that each was recognised as. */
  readonly rivals: readonly Rival[];
  readonly wrongMask: number | null;
  readonly wrongVersion: string | null;
  /** The host was recognised otherwise, and nobody wrote its MAC down yet. */
  readonly newMac: string | null;
}

export interface Rival {
  readonly host: FoundHost;
  readonly device: Device | undefined;
}

export interface AsFound {
  readonly looked: boolean;
  readonly at: number | null;
  readonly items: ReadonlyMap<string, FoundItem>;
  /** Hosts that the plan does not know, with what they may be. */
  readonly unexpected: readonly { readonly host: FoundHost; readonly maybe: readonly Device[] }[];
}

const nothing: AsFound = { looked: false, at: null, items: new Map(), unexpected: [] };

/**
 * Compares the plan with the hosts that were found. A host is recognised by its MAC, then by its name, then by the
 * planned address that it has. A network counts as looked at once anything of it was found.
 */
export function matchFound(show: Show, facts: AddressingFacts, seen: Seen['found']): AsFound {
  const hosts = Object.values(seen);
  if (hosts.length === 0) return nothing;
  const recognised = recognise(show, facts, hosts);
  const owners = ownersByIp(hosts);
  const looked = lookedAt(facts, hosts);
  const items = new Map(
    facts.planned.map((planned) => {
      const matches = recognised.ofInterface.get(planned.interface.id) ?? [];
      const rivals = (owners.get(planned.address.ip ?? '') ?? [])
        .filter((host) => !matches.some((match) => match.host.id === host.id))
        .map((host) => ({ host, device: show.devices[recognised.known.get(host.id) ?? ''] }));
      return [planned.address.id, compare(show, facts, planned, matchFor(planned, matches), rivals, looked)] as const;
    }),
  );
  const strangers = hosts.filter(({ id }) => !recognised.known.has(id));
  return {
    looked: true,
    at: Math.max(...hosts.map(({ at }) => at)),
    items,
    unexpected: strangers.map((host) => ({ host, maybe: maybeOf(show, items, host) })),
  };
}

interface Match {
  readonly host: FoundHost;
  readonly by: 'mac' | 'name' | 'address';
}

function recognise(show: Show, facts: AddressingFacts, hosts: readonly FoundHost[]) {
  const byMac = new Map(rowsOf(show, 'interfaces').flatMap((row) => (row.mac ? [[row.mac, row] as const] : [])));
  const byName = new Map<string, Device | null>();
  for (const device of rowsOf(show, 'devices')) {
    // a name that two units share recognises neither
    for (const key of new Set([plain(device.name), plain(device.hostName)]))
      if (key !== '') byName.set(key, byName.has(key) ? null : device);
  }
  const ofInterface = new Map<string, Match[]>();
  const known = new Map<string, string>();
  const take = (row: Interface | undefined, host: FoundHost, by: Match['by']): void => {
    const others = row ? (ofInterface.get(row.id) ?? []) : [];
    if (!row || !others.every((other) => maybeOne(other, host))) return;
    ofInterface.set(row.id, [...others, { host, by }]);
    known.set(host.id, row.deviceId);
  };
  for (const host of hosts) if (host.mac) take(byMac.get(host.mac), host, 'mac');
  for (const host of hosts) {
    if (known.has(host.id)) continue;
    const named = host.names.map((name) => byName.get(plain(name))).find((device) => device != null);
    if (named) take(freeInterface(show, facts, named, host), host, 'name');
  }
  for (const host of hosts) {
    if (known.has(host.id)) continue;
    const there = host.ips.flatMap(({ ip }) => facts.byIp.get(parseIp(ip) ?? -1) ?? []);
    const fits = there.find(({ interface: row }) => row.mac === null || host.mac === null);
    take(fits?.interface, host, 'address');
  }
  return { ofInterface, known };
}

/** An adapter with several addresses may stand several times in a list that tells no MAC addresses. */
const maybeOne = (other: Match, host: FoundHost): boolean =>
  other.by !== 'mac' && (other.host.mac === null || host.mac === null || other.host.mac === host.mac);

/** Of the hosts that an adapter was recognised as, the one that has the planned address, else the first. */
const matchFor = ({ address }: Planned, matches: readonly Match[]): Match | undefined =>
  matches.find(({ host }) => host.ips.some(({ ip }) => ip === address.ip)) ?? matches[0];

/** The adapter of a named unit that is planned where the host is, else its first; one with another MAC is not it. */
function freeInterface(show: Show, facts: AddressingFacts, device: Device, host: FoundHost): Interface | undefined {
  const own = facts.byDevice.get(device.id) ?? [];
  const fits = own.filter(({ interface: row }) => row.mac === null || host.mac === null || row.mac === host.mac);
  const near = fits.find(({ network }) => host.ips.some(({ ip }) => contains(subnetOfRow(network), parseIp(ip) ?? -1)));
  const first = rowsOf(show, 'interfaces').find(
    (row) => row.deviceId === device.id && (row.mac === null || host.mac === null || row.mac === host.mac),
  );
  return near?.interface ?? fits[0]?.interface ?? first;
}

const subnetOfRow = (network: { network: string; prefix: number }) => ({
  network: mustIp(network.network),
  prefix: network.prefix,
});
const plain = (name: string): string =>
  name
    .toLowerCase()
    .normalize('NFD')
    .replace(/\.local\.?$/, '')
    .replace(/[^\p{L}\p{N}]/gu, '');

function ownersByIp(hosts: readonly FoundHost[]): Map<string, FoundHost[]> {
  const owners = new Map<string, FoundHost[]>();
  for (const host of hosts) for (const { ip } of host.ips) owners.set(ip, [...(owners.get(ip) ?? []), host]);
  return owners;
}

/** Networks of which anything was found: by an address inside, or a MAC that the plan puts there. */
function lookedAt(facts: AddressingFacts, hosts: readonly FoundHost[]): Set<string> {
  const macs = new Set(hosts.flatMap(({ mac }) => mac ?? []));
  const ips = hosts.flatMap((host) => host.ips.map(({ ip }) => parseIp(ip) ?? -1));
  const near = facts.networks.filter(
    (on) =>
      ips.some((ip) => contains(on.subnet, ip)) ||
      on.planned.some(({ interface: row }) => row.mac !== null && macs.has(row.mac)),
  );
  return new Set(near.map(({ network }) => network.id));
}

function compare(
  show: Show,
  facts: AddressingFacts,
  planned: Planned,
  match: Match | undefined,
  rivals: readonly Rival[],
  looked: ReadonlySet<string>,
): FoundItem {
  const host = match?.host;
  const ip = host ? whereIs(planned, host, othersOf(facts, planned)) : null;
  const prefix = host?.ips.find((entry) => entry.ip === planned.address.ip)?.prefix ?? null;
  const { mac } = planned.interface;
  const firmware = planned.device.firmware;
  return {
    planned,
    host,
    ip: ip ?? null,
    rivals,
    by: match?.by ?? null,
    state: stateOf(show, planned, host, ip, rivals, looked),
    wrongMask: prefix !== null && prefix !== planned.prefix ? prefix : null,
    wrongVersion: host?.version && firmware && !isSameVersion(host.version, firmware) ? host.version : null,
    newMac: host?.mac && mac === null ? host.mac : null,
  };
}

/** The other addresses that a unit is planned to have: found there, it has not moved from this one. */
const othersOf = (facts: AddressingFacts, { address, device }: Planned): ReadonlySet<string | null> =>
  new Set(
    (facts.byDevice.get(device.id) ?? []).flatMap((other) =>
      other.address.id === address.id ? [] : [other.address.ip],
    ),
  );

/**
 * The address to compare: the planned one if the host has it, else one in the network, else any; undefined where all
 * that was seen of it stands at its other planned addresses, which says nothing of this one.
 */
function whereIs(planned: Planned, { ips }: FoundHost, others: ReadonlySet<string | null>): string | null | undefined {
  const own = ips.find(({ ip }) => ip === planned.address.ip);
  if (own || ips.length === 0) return own?.ip ?? null;
  const left = ips.filter(({ ip }) => !others.has(ip));
  const inside = left.find(({ ip }) => contains(subnetOfRow(planned.network), parseIp(ip) ?? -1));
  return (inside ?? left[0])?.ip;
}

const isSameVersion = (found: string, written: string): boolean =>
  found === written || compareVersions(found, written) === 0;

function stateOf(
  show: Show,
  planned: Planned,
  host: FoundHost | undefined,
  ip: string | null | undefined,
  rivals: readonly Rival[],
  looked: ReadonlySet<string>,
): FoundState {
  if (!host) return looked.has(planned.network.id) && planned.ip !== null ? 'missing' : 'not_looked';
  if (ip === undefined) return 'not_looked';
  if (ip === null) return 'no_address';
  if (ip === planned.address.ip) return rivals.length > 0 ? 'two_owners' : 'present';
  const leased = planned.address.method === 'dhcp' && planned.ip === null;
  if (leased && contains(subnetOfRow(planned.network), parseIp(ip) ?? -1)) return 'present';
  if (ip === typeOf(show, planned.device)?.factory.ip) return 'as_delivered';
  if (ip.startsWith('169.254.')) return planned.address.method === 'self' ? 'present' : 'self_assigned';
  return 'wrong_address';
}

/** Units that are missing and leave the factory where the stranger is. */
function maybeOf(show: Show, items: ReadonlyMap<string, FoundItem>, host: FoundHost): Device[] {
  const there = new Set(host.ips.map(({ ip }) => ip));
  const lost = [...items.values()].filter(({ state, host: own }) => own === undefined && state !== 'present');
  const fits = lost.filter(({ planned }) => there.has(typeOf(show, planned.device)?.factory.ip ?? ''));
  return [...new Set(fits.map(({ planned }) => planned.device))].slice(0, 5);
}
