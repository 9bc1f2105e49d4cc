import { contains, mustIp, subnetOf } from './ipv4.ts';

export type IpKind =
  | 'private'
  | 'shared'
  | 'benchmarking'
  | 'link_local'
  | 'loopback'
  | 'multicast'
  | 'unspecified'
  | 'reserved'
  | 'documentation'
  | 'public';

const ranges: readonly (readonly [string, number, IpKind])[] = [
  ['0.0.0.0', 8, 'unspecified'],
  ['10.0.0.0', 8, 'private'],
  ['100.64.0.0', 10, 'shared'],
  ['127.0.0.0', 8, 'loopback'],
  ['169.254.0.0', 16, 'link_local'],
  ['172.16.0.0', 12, 'private'],
  ['192.0.2.0', 24, 'documentation'],
  ['192.168.0.0', 16, 'private'],
  ['198.18.0.0', 15, 'benchmarking'],
  ['198.51.100.0', 24, 'documentation'],
  ['203.0.113.0', 24, 'documentation'],
  ['224.0.0.0', 4, 'multicast'],
  ['240.0.0.0', 4, 'reserved'],
];
const subnets = ranges.map(([ip, prefix, kind]) => ({ subnet: subnetOf(mustIp(ip), prefix), kind }));

/** What an address is for, by the IANA special-purpose registry (RFC 6890), RFC 1918, RFC 6598, RFC 2544, RFC 3927 and RFC 5771. */
export const ipKind = (ip: number): IpKind => subnets.find(({ subnet }) => contains(subnet, ip))?.kind ?? 'public';

/** Kinds that no device may be given. */
export const unusableKinds: ReadonlySet<IpKind> = new Set(['loopback', 'multicast', 'unspecified', 'reserved']);
