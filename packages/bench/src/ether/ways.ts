import type { Port } from './cable.ts';

/** An address of an adapter; `tag` is the VLAN of the tagged interface that it belongs to, null for none. */
export interface OwnAddress {
  readonly ip: number;
  readonly prefix: number;
  readonly gateway: number | null;
  readonly tag: number | null;
  /** A server lent it, or the host gave it to itself. */
  readonly leased?: true;
}

export interface Adapter {
  readonly key: string;
  readonly mac: string;
  readonly port: Port;
  addresses: readonly OwnAddress[];
}

export interface Route {
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
 * Which adapter and next hop lead to an address: the own subnet with the longest prefix that has it, else a gateway in
 * an own subnet (RFC 1122 section 3.3.1, RFC 1812 section 5.2.4.3). A way with carrier goes before any without, since
 * systems drop the routes of a dead adapter. `pinned` allows one adapter only.
 */
export function routeTo(adapters: readonly Adapter[], ip: number, pinned: string | undefined): Route | undefined {
  if (ip === everyHost) return undefined;
  const all = adapters.flatMap((adapter) => adapter.addresses.map((address) => ({ adapter, own: address })));
  const own = all.filter(({ adapter: { key } }) => pinned === undefined || key === pinned);
  const isOwn = (gateway: number) => all.some((one) => one.own.ip === gateway);
  const direct = own
    .filter((way) => inSubnet(ip, way.own))
    .map((way) => ({ ...way, next: ip }))
    .sort((a, b) => b.own.prefix - a.own.prefix);
  const ways = isGroup(ip) ? direct : [...direct, ...own.flatMap((way) => throughGateway(way, isOwn))];
  return ways.find(({ adapter }) => adapter.port.cable?.hasCarrier()) ?? ways[0];
}

/** Nobody is a gateway to himself. */
function throughGateway(
  { adapter, own }: { adapter: Adapter; own: OwnAddress },
  isOwn: (gateway: number) => boolean,
): Route[] {
  const { gateway } = own;
  return gateway !== null && inSubnet(gateway, own) && !isOwn(gateway) ? [{ adapter, own, next: gateway }] : [];
}
