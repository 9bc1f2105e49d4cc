/**
 * IPv6 as far as a show needs it: recognise, compress (RFC 5952), compare, and the link-local address that an adapter
 * forms from its MAC (RFC 4291 appendix A). An address is eight 16-bit groups.
 */
export type Ipv6 = readonly number[];

/** Reads an address in any of the written forms of RFC 4291 section 2.2; a zone (`%en0`) or a prefix behind it is left off. */
export function parseIpv6(text: string): Ipv6 | undefined {
  const bare = text.trim().replace(/[%/].*$/, '');
  const halves = bare.split('::');
  if (halves.length > 2 || bare === '') return undefined;
  // only the end of the whole address may be written as IPv4
  const [head, tail] = halves.map((half, at) => groupsOf(half, at === halves.length - 1));
  if (!head || (halves.length === 2 && !tail)) return undefined;
  if (halves.length === 1) return head.length === 8 ? head : undefined;
  const gap = 8 - head.length - (tail?.length ?? 0);
  // `::` stands for at least one group of zeros
  return gap < 1 ? undefined : [...head, ...Array.from({ length: gap }, () => 0), ...(tail ?? [])];
}

function groupsOf(half: string, isLast: boolean): number[] | undefined {
  if (half === '') return [];
  const parts = half.split(':');
  const groups: number[] = [];
  for (const [at, part] of parts.entries()) {
    const dotted = isLast && at === parts.length - 1 ? dottedGroups(part) : undefined;
    if (dotted) groups.push(...dotted);
    else if (/^[0-9a-f]{1,4}$/i.test(part)) groups.push(parseInt(part, 16));
    else return undefined;
  }
  return groups.length <= 8 ? groups : undefined;
}

/** The last four bytes may be written as IPv4. */
function dottedGroups(part: string): [number, number] | undefined {
  const bytes = part.split('.');
  if (bytes.length !== 4 || !bytes.every((byte) => /^(0|[1-9]\d{0,2})$/.test(byte) && Number(byte) <= 255))
    return undefined;
  const [a = 0, b = 0, c = 0, d = 0] = bytes.map(Number);
  return [a * 256 + b, c * 256 + d];
}

/** The one form that RFC 5952 recommends: lower case, no leading zeros, the longest run of zeros as `::`. */
export function formatIpv6(ip: Ipv6): string {
  const run = longestZeros(ip);
  const text = (groups: readonly number[]) => groups.map((group) => group.toString(16)).join(':');
  return run.length < 2 ? text(ip) : `${text(ip.slice(0, run.from))}::${text(ip.slice(run.from + run.length))}`;
}

function longestZeros(ip: Ipv6): { from: number; length: number } {
  let best = { from: 0, length: 0 };
  for (let from = 0; from < ip.length; from += 1) {
    let to = from;
    while (to < ip.length && ip[to] === 0) to += 1;
    if (to - from > best.length) best = { from, length: to - from };
  }
  return best;
}

export const sameIpv6 = (a: Ipv6, b: Ipv6): boolean => a.length === b.length && a.every((group, at) => group === b[at]);

/** fe80::/10, the addresses that count on one cable only (RFC 4291 section 2.5.6). */
export const isLinkLocal6 = (ip: Ipv6): boolean => ((ip[0] ?? 0) & 0xffc0) === 0xfe80;

/** fe80:: with the modified EUI-64 of a MAC: ff:fe in its middle and the universal bit turned (RFC 4291 appendix A). */
export function linkLocalOf(mac: string): Ipv6 | undefined {
  const bytes = mac.split(':').map((pair) => parseInt(pair, 16));
  if (bytes.length !== 6 || bytes.some((byte) => !(byte >= 0 && byte <= 255))) return undefined;
  const [a = 0, b = 0, c = 0, d = 0, e = 0, f = 0] = bytes;
  return [0xfe80, 0, 0, 0, ((a ^ 2) << 8) | b, (c << 8) | 0xff, 0xfe00 | d, (e << 8) | f];
}

/** The MAC that a link-local address was formed from; undefined where its middle is not ff:fe. */
export function macOfLinkLocal(ip: Ipv6): string | undefined {
  const [w = 0, x = 0, y = 0, z = 0] = ip.slice(4);
  if (!isLinkLocal6(ip) || (x & 0xff) !== 0xff || y >> 8 !== 0xfe) return undefined;
  const bytes = [(w >> 8) ^ 2, w & 255, x >> 8, y & 255, z >> 8, z & 255];
  return bytes.map((byte) => byte.toString(16).padStart(2, '0')).join(':');
}
