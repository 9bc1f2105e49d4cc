import { mustIp, type AddressingFacts, type Planned } from '../../addressing/index.ts';
import type { BroadcastDomains, CablingFacts } from '../../cabling/index.ts';
import {
  lazily,
  memo,
  once,
  rowsOf,
  standingOf,
  typeOf,
  type Standing,
  type Address,
  type Device,
  type DeviceType,
  type Network,
  type Show,
} from '../../show/index.ts';
import { isHost, type Asking, type Held, type Machine, type Machines, type Place } from './held.ts';
import { answersFor, placeKey } from './leases.ts';

/** Every machine with the addresses that it will hold. */
export function machinesOf(show: Show, addressing: AddressingFacts, { domains }: CablingFacts): Machines {
  return standingOf(show) ? standingMachines(show, addressing, domains()) : allMachines(show, addressing, domains());
}

function allMachines(show: Show, addressing: AddressingFacts, wired: BroadcastDomains): Machines {
  const units = rowsOf(show, 'devices').flatMap((device) => {
    const type = typeOf(show, device);
    return type?.form === 'unit' ? [{ device, type, places: placesOf(addressing, device, type) }] : [];
  });
  const places = units.flatMap(({ places: own }) => own);
  const fixed = new Map(places.map((place) => [place, fixedAt(wired, place)]));
  const asking = places.flatMap((place) => askingAt(wired, place));
  const { answers, mayBeTaken, mayBeGiven } = answersFor(show, addressing, wired, [...fixed.values()].flat(), asking);
  const machines = new Map(
    units.map(({ device: { id }, type, places: own }): [string, Machine] => [
      id,
      {
        id,
        type,
        held: own.flatMap((place) => [...(fixed.get(place) ?? []), ...(answers.get(placeKey(place)) ?? [])]),
      },
    ]),
  );
  const owners = ownersIn([...machines.values()]);
  return {
    of: (id) => machines.get(id),
    owners: (domain, ip) => owners.get(domain)?.get(ip) ?? [],
    mayBeTaken,
    mayBeGiven,
  };
}

/** The same of a standing show: who asks for a machine or an owner follows that one only. */
function standingMachines(show: Show, addressing: AddressingFacts, wired: BroadcastDomains): Machines {
  const places = memo((id) => {
    const device = show.devices[id];
    const type = typeOf(show, device);
    return device && type?.form === 'unit' ? { type, own: placesOf(addressing, device, type) } : undefined;
  });
  const standing = mustStand(show);
  const index = <Item>(itemsOf: (id: string) => readonly (readonly [string, Item])[]) =>
    standing.index(itemsOf, 'devices', ({ id }) => itemsOf(id));
  // nobody needs all of them where nobody asks for an address
  const fixed = lazily(() =>
    index((id) => places(id)?.own.flatMap((p) => fixedAt(wired, p).map((held) => ['all', held] as const)) ?? []),
  );
  const asking = index(
    (id) => places(id)?.own.flatMap((p) => askingAt(wired, p).map((one) => ['all', one] as const)) ?? [],
  );
  const leases = once(() => {
    const all = asking.get('all') ?? [];
    // where nobody asks, whoever has a fixed address decides nothing
    return all.length === 0 ? undefined : answersFor(show, addressing, wired, fixed().get('all') ?? [], all);
  }, Object.is);
  const answersAt = memo((place) => leases()?.answers.get(place) ?? []);
  const machine = memo((id): Machine | undefined => {
    const known = places(id);
    const held = known?.own.flatMap((place) => [...fixedAt(wired, place), ...answersAt(placeKey(place))]) ?? [];
    return known && { id, type: known.type, held };
  });
  const owners = index((id) =>
    (machine(id)?.held ?? []).flatMap((own) =>
      own.domain === undefined || own.from !== own.to ? [] : [[`${own.domain} ${own.from}`, own] as const],
    ),
  );
  const taken = memo((key) => leases()?.mayBeTaken(...spotOf(key)) ?? false);
  const given = memo((key) => leases()?.mayBeGiven(...spotOf(key)) ?? false);
  return {
    of: machine,
    owners: (domain, ip) => owners.get(`${domain} ${ip}`) ?? [],
    mayBeTaken: (domain, ip) => taken(`${ip} ${domain}`),
    mayBeGiven: (domain, ip) => given(`${ip} ${domain}`),
  };
}

function spotOf(key: string): [domain: string, ip: number] {
  const at = key.indexOf(' ');
  return [key.slice(at + 1), Number(key.slice(0, at))];
}

function mustStand(show: Show): Standing {
  const standing = standingOf(show);
  if (!standing) throw new Error('not a standing show');
  return standing;
}

const fixedAt = (wired: BroadcastDomains, place: Place): Held[] =>
  place.planned.flatMap((item) => fixedAddress(wired, place, item));

function askingAt(wired: BroadcastDomains, place: Place): Asking[] {
  const row = place.planned.find(({ address }) => address.method !== 'static');
  return row ? [{ place, row, ...standsIn(wired, place, null) }] : [];
}

/** Who answers for an address, by domain and address. */
function ownersIn(machines: readonly Machine[]): Map<string, Map<number, Held[]>> {
  const owners = new Map<string, Map<number, Held[]>>();
  for (const { held } of machines)
    for (const own of held) {
      if (own.domain === undefined || own.from !== own.to) continue;
      const there = owners.get(own.domain) ?? new Map<number, Held[]>();
      owners.set(own.domain, there);
      const before = there.get(own.from);
      if (before) before.push(own);
      else there.set(own.from, [own]);
    }
  return owners;
}

/** The adapters for which anything is planned, in the order of the type. */
function placesOf({ byDevice }: AddressingFacts, device: Device, { adapters }: DeviceType): Place[] {
  const own = byDevice.get(device.id);
  if (!own) return [];
  return adapters.flatMap(({ key }, at) => {
    const planned = own.filter(({ interface: its }) => its.adapter === key);
    return planned.length > 0 ? [{ device, adapter: key, at, planned }] : [];
  });
}

const standsIn = (wired: BroadcastDomains, { device, adapter }: Place, tag: number | null) => ({
  domain: wired.domainOf(device.id, adapter, tag),
  lit: wired.isLit(device.id, adapter),
});

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
      ...standsIn(wired, place, tag),
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
