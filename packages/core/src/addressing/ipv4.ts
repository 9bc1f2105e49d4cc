/** IPv4 arithmetic on unsigned 32-bit numbers (RFC 791, RFC 4632). */

export interface Subnet {
  readonly network: number;
  readonly prefix: number;
}

/** Reads four decimal numbers without leading zeros; anything else is undefined. `readIpEntry` explains why. */
export function parseIp(text: string): number | undefined {
  let [ip, part, digits, dots] = [0, 0, 0, 0];
  // figure by figure: a large show asks this some ten thousand times for each of its analyses
  for (let at = 0; at <= text.length; at += 1) {
    const figure = text.charCodeAt(at) - 48;
    if (figure >= 0 && figure <= 9) {
      if (digits > 0 && part === 0) return undefined;
      part = part * 10 + figure;
      digits += 1;
      if (part > 255) return undefined;
    } else {
      const ends = at === text.length;
      if (digits === 0 || (!ends && figure !== dot)) return undefined;
      if (!ends) dots += 1;
      ip = ip * 256 + part;
      [part, digits] = [0, 0];
    }
  }
  return dots === 3 ? ip : undefined;
}

const dot = '.'.charCodeAt(0) - 48;

export function mustIp(text: string): number {
  const ip = parseIp(text);
  if (ip === undefined) throw new TypeError(`not an IPv4 address: ${text}`);
  return ip;
}

export const formatIp = (ip: number): string => `${ip >>> 24}.${(ip >>> 16) & 255}.${(ip >>> 8) & 255}.${ip & 255}`;

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
