/** A MAC address as listings write it: dashes, colons, points or nothing between, leading zeros possibly dropped. Null for groups and nobody. */
export function tidyMac(text: string): string | null {
  const pairs = /^(([0-9a-f]{4}\.){2}[0-9a-f]{4}|[0-9a-f]{12})$/i.test(text)
    ? text.replaceAll('.', '').match(/../g)
    : text.split(/[:-]/).map((pair) => pair.padStart(2, '0'));
  if (pairs?.length !== 6 || !pairs.every((pair) => /^[0-9a-f]{2}$/i.test(pair))) return null;
  const mac = pairs.join(':').toLowerCase();
  // the lowest bit of the first byte marks a group (IEEE 802, section 8.2)
  const isGroup = (parseInt(pairs[0] ?? '0', 16) & 1) === 1;
  return isGroup || mac === '00:00:00:00:00:00' ? null : mac;
}

export const macPattern =
  /\b(?:[0-9a-f]{1,2}[:-]){5}[0-9a-f]{1,2}\b|\b(?:[0-9a-f]{4}\.){2}[0-9a-f]{4}\b|(?<![\w.:-])[0-9a-f]{12}(?![\w.:-])/i;
export const ipPattern = /(?<![\d.])(\d{1,3}(?:\.\d{1,3}){3})(?![\d.]*\d)/;

/** A dotted address that one host may have; null for loopback, groups, everybody and nonsense. */
export function tidyIp(text: string): string | null {
  const parts = text.split('.').map(Number);
  if (parts.length !== 4 || parts.some((part) => !Number.isInteger(part) || part > 255)) return null;
  const [first = 0] = parts;
  return first === 0 || first === 127 || first >= 224 ? null : parts.join('.');
}

/** A mask in dotted form, in hexadecimal as BSD writes it, or a prefix length; undefined where it is none. */
export function tidyPrefix(text: string): number | undefined {
  if (/^\d{1,2}$/.test(text)) return inRange(Number(text));
  const mask = /^0x[0-9a-f]{8}$/i.test(text)
    ? Number(text)
    : text.split('.').reduce((sum, part) => sum * 256 + Number(part), 0);
  if (!Number.isInteger(mask) || mask > 0xffffffff) return undefined;
  const prefix = Math.clz32(~mask >>> 0);
  return (prefix === 0 ? 0 : (0xffffffff << (32 - prefix)) >>> 0) === mask ? inRange(prefix) : undefined;
}

const inRange = (prefix: number): number | undefined => (prefix >= 1 && prefix <= 32 ? prefix : undefined);
