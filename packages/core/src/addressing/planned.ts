import {
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
  /** Those of them that get their addresses in this way; `open` for fixed ones that nobody has placed. */
  readonly by: (way: Way) => readonly Planned[];
}

export type Way = Address['method'] | 'open';

export const waysOf = ({ address, ip }: Planned): Way[] =>
  address.method === 'static' && ip === null ? ['static', 'open'] : [address.method];

export interface AddressingFacts {
  readonly networks: readonly NetworkFacts[];
  readonly byNetwork: Pick<ReadonlyMap<string, NetworkFacts>, 'get'>;
  /** The same by their ids, one each. */
  readonly on: ReadonlyMap<string, readonly NetworkFacts[]>;
  readonly planned: readonly Planned[];
  /** The same by the ids of their rows, one each. */
  readonly byId: ReadonlyMap<string, readonly Planned[]>;
  readonly byInterface: ReadonlyMap<string, readonly Planned[]>;
  readonly byDevice: ReadonlyMap<string, readonly Planned[]>;
  /** Everything that is planned on an address, over all networks. */
  readonly byIp: ReadonlyMap<number, readonly Planned[]>;
  /** The ids of the rows that have an address: who only wants to know whether it is taken asks here. */
  readonly takers: Pick<ReadonlyMap<number, readonly string[]>, 'get' | 'has'>;
  /** The lowest addresses of a network's block, or of what its blocks leave, that nobody has or may have. */
  readonly lowestFree: (networkId: string, blockId: string | undefined) => readonly number[];
  /** Factory addresses of the types that have devices on this job, with one device each as a witness. */
  readonly factory: ReadonlyMap<number, Device>;
  /** Every gateway that is entered anywhere, of networks and of single addresses. */
  readonly gateways: Pick<ReadonlyMap<number, unknown>, 'has' | 'keys'>;
}

export function plannedOf(show: Show, address: Address): Planned[] {
  const its = show.interfaces[address.interfaceId];
  const device = its && show.devices[its.deviceId];
  const type = typeOf(show, device);
  const network = show.networks[address.networkId];
  if (!its || !device || !type || !network) return [];
  const ip = address.ip === null ? null : mustIp(address.ip);
  return [{ address, interface: its, device, type, network, ip, prefix: address.prefix ?? network.prefix }];
}

export function networkFacts(network: Network, blocks: readonly Block[], planned: readonly Planned[]): NetworkFacts {
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
    by: (way) => planned.filter((item) => waysOf(item).includes(way)),
  };
}
