import {
  groupBy,
  rowsBy,
  rowsOf,
  typeOf,
  type Address,
  type Block,
  type Device,
  type DeviceType,
  type Interface,
  type Network,
  type Show,
} from '../show/index.ts';
import { broadcastOf, hostRange, mustIp, type Subnet } from './ipv4.ts';

/** One address row with everything it belongs to; `ip` null waits to be placed. */
export interface Planned {
  readonly address: Address;
  readonly interface: Interface;
  readonly device: Device;
  readonly type: DeviceType;
  readonly network: Network;
  readonly ip: number | null;
  readonly prefix: number;
}

export interface NetworkFacts {
  readonly network: Network;
  readonly subnet: Subnet;
  readonly first: number;
  readonly last: number;
  readonly broadcast: number;
  readonly gateway: number | null;
  readonly pool: { readonly from: number; readonly to: number } | null;
  readonly blocks: readonly { readonly block: Block; readonly from: number; readonly to: number }[];
  /** Ranges that are kept free for somebody else or for later. */
  readonly reserved: readonly { readonly from: number; readonly to: number }[];
  /** Ranges that the house lets us use; empty where the network is ours or nothing was said. */
  readonly granted: readonly { readonly from: number; readonly to: number }[];
  readonly planned: readonly Planned[];
}

export interface AddressingFacts {
  readonly networks: readonly NetworkFacts[];
  readonly byNetwork: ReadonlyMap<string, NetworkFacts>;
  readonly planned: readonly Planned[];
  readonly byDevice: ReadonlyMap<string, readonly Planned[]>;
  /** Everything that is planned on an address, over all networks. */
  readonly byIp: ReadonlyMap<number, readonly Planned[]>;
  /** Factory addresses of the types that have devices on this job, with one device each as a witness. */
  readonly factory: ReadonlyMap<number, Device>;
  /** Every gateway that is entered anywhere, of networks and of single addresses. */
  readonly gateways: ReadonlySet<number>;
}

export function addressingFacts(show: Show): AddressingFacts {
  const planned = rowsOf(show, 'addresses').flatMap((address) => plannedOf(show, address));
  const perNetwork = groupBy(planned, (item) => item.network.id);
  const blocks = rowsBy(show, 'blocks', 'networkId');
  const networks = rowsOf(show, 'networks').map((network) =>
    networkFacts(network, blocks.get(network.id) ?? [], perNetwork.get(network.id) ?? []),
  );
  return {
    networks: networks.sort((a, b) => a.subnet.network - b.subnet.network || (a.network.id < b.network.id ? -1 : 1)),
    byNetwork: new Map(networks.map((facts) => [facts.network.id, facts])),
    planned,
    byDevice: groupBy(planned, (item) => item.device.id),
    byIp: groupByIp(planned),
    factory: factoryAddresses(show),
    gateways: new Set(
      [...rowsOf(show, 'networks'), ...rowsOf(show, 'addresses')].flatMap(({ gateway }) =>
        gateway === null ? [] : mustIp(gateway),
      ),
    ),
  };
}

function plannedOf(show: Show, address: Address): Planned[] {
  const its = show.interfaces[address.interfaceId];
  const device = its && show.devices[its.deviceId];
  const type = typeOf(show, device);
  const network = show.networks[address.networkId];
  if (!its || !device || !type || !network) return [];
  const ip = address.ip === null ? null : mustIp(address.ip);
  return [{ address, interface: its, device, type, network, ip, prefix: address.prefix ?? network.prefix }];
}

function networkFacts(network: Network, blocks: readonly Block[], planned: readonly Planned[]): NetworkFacts {
  const subnet = { network: mustIp(network.network), prefix: network.prefix };
  const { poolFrom, poolTo } = network;
  const ranges = blocks
    .map((block) => ({ block, from: mustIp(block.first), to: mustIp(block.last) }))
    .sort((a, b) => a.from - b.from);
  return {
    network,
    subnet,
    ...hostRange(subnet),
    broadcast: broadcastOf(subnet),
    gateway: network.gateway === null ? null : mustIp(network.gateway),
    pool: poolFrom !== null && poolTo !== null ? { from: mustIp(poolFrom), to: mustIp(poolTo) } : null,
    granted: network.granted.map(({ first, last }) => ({ from: mustIp(first), to: mustIp(last) })),
    blocks: ranges,
    reserved: ranges.filter(({ block }) => block.use === 'keep_free'),
    planned,
  };
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
