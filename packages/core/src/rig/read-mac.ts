/** Reads a MAC address in any usual notation; undefined unless it is six octets of one station (IEEE 802, I/G bit 0). */
export function readMac(text: string): string | undefined {
  const digits = text
    .trim()
    .toLowerCase()
    .replace(/[-:. ]/g, '');
  if (!/^[0-9a-f]{12}$/.test(digits) || /^0+$/.test(digits)) return undefined;
  const pairs = digits.match(/../g) ?? [];
  return parseInt(pairs[0] ?? '1', 16) & 1 ? undefined : pairs.join(':');
}
