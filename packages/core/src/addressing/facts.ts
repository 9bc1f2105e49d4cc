import { groupBy, rowsBy, rowsOf, standingOf, typeOf, type Device, type Show } from '../show/index.ts';
import { mustIp } from './ipv4.ts';
import { lowestFreeOf } from './lowest-free.ts';
import { networkFacts, plannedOf, type AddressingFacts, type Planned } from './planned.ts';
import { standingAddressing } from './standing-facts.ts';

export type { AddressingFacts, NetworkFacts, Planned } from './planned.ts';

export function addressingFacts(show: Show): AddressingFacts {
  if (standingOf(show)) return standingAddressing(show);
  const planned = rowsOf(show, 'addresses').flatMap((address) => plannedOf(show, address));
  const perNetwork = groupBy(planned, (item) => item.network.id);
  const blocks = rowsBy(show, 'blocks', 'networkId');
  const networks = rowsOf(show, 'networks').map((network) =>
    networkFacts(network, blocks.get(network.id) ?? [], perNetwork.get(network.id) ?? []),
  );
  const byIp = groupByIp(planned);
  const facts: AddressingFacts = {
    networks: networks.sort((a, b) => a.subnet.network - b.subnet.network || (a.network.id < b.network.id ? -1 : 1)),
    byNetwork: new Map(networks.map((on) => [on.network.id, on])),
    on: new Map(networks.map((on) => [on.network.id, [on]])),
    planned,
    byId: new Map(planned.map((item) => [item.address.id, [item]])),
    byInterface: groupBy(planned, (item) => item.interface.id),
    byDevice: groupBy(planned, (item) => item.device.id),
    byIp,
    takers: { has: (ip) => byIp.has(ip), get: (ip) => byIp.get(ip)?.map(({ address }) => address.id) },
    factory: factoryAddresses(show),
    gateways: new Map(
      [...rowsOf(show, 'networks'), ...rowsOf(show, 'addresses')].flatMap(({ gateway }) =>
        gateway === null ? [] : [[mustIp(gateway), true] as const],
      ),
    ),
    lowestFree: lowestFreeOf(() => facts),
  };
  return facts;
}

function groupByIp(planned: readonly Planned[]): Map<number, Planned[]> {
  const byIp = new Map<number, Planned[]>();
  for (const item of planned) {
    if (item.ip === null) continue;
    const there = byIp.get(item.ip);
    if (there) there.push(item);
    else byIp.set(item.ip, [item]);
  }
  return byIp;
}

function factoryAddresses(show: Show): Map<number, Device> {
  const factory = new Map<number, Device>();
  for (const device of rowsOf(show, 'devices')) {
    const ip = typeOf(show, device)?.factory.ip;
    if (ip && !factory.has(mustIp(ip))) factory.set(mustIp(ip), device);
  }
  return factory;
}
