import { mustIp, type AddressingFacts, type Planned } from '../../addressing/index.ts';
import type { BroadcastDomains, CablingFacts } from '../../cabling/index.ts';
import {
  rowsOf,
  typeOf,
  type Address,
  type Device,
  type DeviceType,
  type Network,
  type Show,
} from '../../show/index.ts';
import { isHost, type Asking, type Held, type Machine, type Machines, type Place } from './held.ts';
import { answersFor } from './leases.ts';

/** Every machine with the addresses that it will hold. */
export function machinesOf(show: Show, addressing: AddressingFacts, { domains }: CablingFacts): Machines {
  const wired = domains();
  const units = rowsOf(show, 'devices').flatMap((device) => {
    const type = typeOf(show, device);
    return type?.form === 'unit' ? [{ device, type, places: placesOf(addressing, device, type) }] : [];
  });
  const fixed = new Map<Place, readonly Held[]>();
  const asking: Asking[] = [];
  for (const { places } of units)
    for (const place of places) {
      fixed.set(
        place,
        place.planned.flatMap((item) => fixedAddress(wired, place, item)),
      );
      const row = place.planned.find(({ address }) => address.method !== 'static');
      if (row) asking.push({ place, row, ...standing(wired, place, null) });
    }
  const { answers, mayBeTaken, mayBeGiven } = answersFor(show, addressing, wired, [...fixed.values()].flat(), asking);
  const machines = new Map(
    units.map(({ device: { id }, type, places }): [string, Machine] => [
      id,
      { id, type, held: places.flatMap((place) => [...(fixed.get(place) ?? []), ...(answers.get(place) ?? [])]) },
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

const standing = (wired: BroadcastDomains, { device, adapter }: Place, tag: number | null) => ({
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
      ...standing(wired, place, tag),
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
