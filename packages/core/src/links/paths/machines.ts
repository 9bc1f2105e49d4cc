import { mustIp, type AddressingFacts, type Planned } from '../../addressing/index.ts';
import type { BroadcastDomains, CablingFacts } from '../../cabling/index.ts';
import {
  gathered,
  lazily,
  memo,
  once,
  typeOf,
  type Address,
  type Device,
  type DeviceType,
  type Network,
  type Show,
} from '../../show/index.ts';
import { isHost, type Asking, type Held, type Machine, type Machines, type Place } from './held.ts';
import { answersFor, placeKey } from './leases.ts';

/**
 * Every machine with the addresses that it will hold. Each is worked out when somebody asks for it, so that of a standing
 * show who asks for a machine or an owner follows that one only.
 */
export function machinesOf(show: Show, addressing: AddressingFacts, { domains }: CablingFacts): Machines {
  const wired = domains();
  const places = memo((id) => {
    const device = show.devices[id];
    const type = typeOf(show, device);
    return device && type?.form === 'unit' ? { type, own: placesOf(addressing, device, type) } : undefined;
  });
  const everywhere = <Item>(itemsAt: (place: Place) => readonly Item[]) =>
    gathered(show, 'devices', ({ id }) =>
      (places(id)?.own ?? []).flatMap((place) => itemsAt(place).map((item) => ['all', item] as const)),
    );
  // nobody needs all of them where nobody asks for an address
  const fixed = lazily(() => everywhere((place) => fixedAt(wired, place)));
  const asking = everywhere((place) => askingAt(wired, place));
  const leases = once(() => {
    const all = asking.get('all') ?? [];
    return all.length === 0 ? undefined : answersFor(show, addressing, wired, fixed().get('all') ?? [], all);
  }, Object.is);
  const answersAt = memo((place) => leases()?.answers.get(place) ?? []);
  const machine = memo((id): Machine | undefined => {
    const known = places(id);
    const held = known?.own.flatMap((place) => [...fixedAt(wired, place), ...answersAt(placeKey(place))]) ?? [];
    return known && { id, type: known.type, held };
  });
  const owners = gathered(show, 'devices', ({ id }) =>
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

const fixedAt = (wired: BroadcastDomains, place: Place): Held[] =>
  place.planned.flatMap((item) => fixedAddress(wired, place, item));

function askingAt(wired: BroadcastDomains, place: Place): Asking[] {
  const row = place.planned.find(({ address }) => address.method !== 'static');
  return row ? [{ place, row, ...standsIn(wired, place, null) }] : [];
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
