/** IPv4 arithmetic on unsigned 32-bit numbers (RFC 791, RFC 4632). */

export interface Subnet {
  readonly network: number;
  readonly prefix: number;
}

/** Reads four decimal numbers without leading zeros; anything else is undefined. `readIpEntry` explains why. */
export function parseIp(text: string): number | undefined {
  const parts = text.split('.');
  if (parts.length !== 4 || !parts.every((part) => /^(0|[1-9]\d{0,2})$/.test(part) && Number(part) <= 255))
    return undefined;
  return parts.reduce((ip, part) => ip * 256 + Number(part), 0);
}

export function mustIp(text: string): number {
  const ip = parseIp(text);
  if (ip === undefined) throw new TypeError(`not an IPv4 address: ${text}`);
  return ip;
}

export const formatIp = (ip: number): string => [24, 16, 8, 0].map((shift) => (ip >>> shift) & 255).join('.');

export const maskOf = (prefix: number): number => (prefix === 0 ? 0 : (0xffffffff << (32 - prefix)) >>> 0);

/** The prefix length of a contiguous mask; undefined where ones and zeros are mixed. */
export function prefixOf(mask: number): number | undefined {
  const prefix = Math.clz32(~mask >>> 0);
  return maskOf(prefix) === mask ? prefix : undefined;
}

export const subnetOf = (ip: number, prefix: number): Subnet => ({ network: (ip & maskOf(prefix)) >>> 0, prefix });

export const sizeOf = ({ prefix }: Subnet): number => 2 ** (32 - prefix);
export const broadcastOf = (subnet: Subnet): number => subnet.network + sizeOf(subnet) - 1;
export const contains = ({ network, prefix }: Subnet, ip: number): boolean => (ip & maskOf(prefix)) >>> 0 === network;

/** First and last address that a host may have; /31 and /32 have no network or broadcast address (RFC 3021). */
export function hostRange(subnet: Subnet): { readonly first: number; readonly last: number } {
  const edge = subnet.prefix >= 31 ? 0 : 1;
  return { first: subnet.network + edge, last: broadcastOf(subnet) - edge };
}

/** Usable hosts of a subnet: 2^(32 - prefix) - 2 up to /30, two for /31, one for /32. */
export function hostCount(subnet: Subnet): number {
  const { first, last } = hostRange(subnet);
  return last - first + 1;
}

export const overlaps = (a: Subnet, b: Subnet): boolean => contains(a, b.network) || contains(b, a.network);
