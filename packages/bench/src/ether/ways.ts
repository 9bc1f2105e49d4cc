import type { Port } from './cable.ts';

/** An address of an adapter; `tag` is the VLAN of the tagged interface that it belongs to, null for none. */
export interface OwnAddress {
  readonly ip: number;
  readonly prefix: number;
  readonly gateway: number | null;
  readonly tag: number | null;
}

export interface Adapter {
  readonly key: string;
  readonly mac: string;
  readonly port: Port;
  addresses: readonly OwnAddress[];
}

export interface Way {
  readonly adapter: Adapter;
  readonly own: OwnAddress;
  /** Who gets the frame: the destination itself, or the gateway. */
  readonly next: number;
}

export const everyHost = 0xffffffff;

export const isLoopback = (ip: number): boolean => ip >>> 24 === 127;
export const isGroup = (ip: number): boolean => ip >>> 28 === 14;
const inSubnet = (ip: number, { ip: own, prefix }: Pick<OwnAddress, 'ip' | 'prefix'>): boolean =>
  prefix === 0 || (ip ^ own) >>> (32 - prefix) === 0;
export const broadcastOf = ({ ip, prefix }: OwnAddress): number =>
  prefix >= 31 ? everyHost : (ip | (2 ** (32 - prefix) - 1)) >>> 0;

/**
 * Which adapter and next hop lead to an address: directly where an own subnet has it, else through a gateway in an own
 * subnet (RFC 1122 section 3.3.1). A way with carrier goes before one without. `pinned` allows one adapter only.
 */
export function wayTo(adapters: readonly Adapter[], ip: number, pinned: string | undefined): Way | undefined {
  const own = adapters
    .filter(({ key }) => pinned === undefined || key === pinned)
    .flatMap((adapter) => adapter.addresses.map((address) => ({ adapter, own: address })));
  const direct = own.filter((way) => inSubnet(ip, way.own)).map((way) => ({ ...way, next: ip }));
  const ways = direct.length > 0 || isGroup(ip) ? direct : own.flatMap(throughGateway);
  return ways.find(({ adapter }) => adapter.port.cable?.hasCarrier()) ?? ways[0];
}

function throughGateway({ adapter, own }: { adapter: Adapter; own: OwnAddress }): Way[] {
  return own.gateway !== null && inSubnet(own.gateway, own) ? [{ adapter, own, next: own.gateway }] : [];
}
