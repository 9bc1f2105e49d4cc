import { parseIpv6 } from './ipv6.ts';
import { likelySlip } from './likely-slip.ts';
import { contains, formatIp, hostRange, parseIp, prefixOf, subnetOf, type Subnet } from './ipv4.ts';

export type EntryFault =
  | 'empty'
  | 'is_ipv6'
  | 'too_few_parts'
  | 'too_many_parts'
  | 'part_out_of_range'
  | 'empty_part'
  | 'leading_zero'
  | 'stray_characters'
  | 'bad_prefix'
  | 'mask_not_contiguous'
  | 'figure_outside';

export type IpEntry =
  /** `meant`: one slip away from it lies an address inside the network that was asked for (C22). */
  | { readonly ok: true; readonly ip: number; readonly prefix: number | null; readonly meant?: string }
  | {
      readonly ok: false;
      readonly fault: EntryFault;
      readonly text: string;
      readonly guess: string | null;
      /** The first and the last figure that an address of the network may end on. */
      readonly figures?: readonly [first: number, last: number];
    };

/**
 * Reads what people type: `10.61.20.5`, `10.61.20.5/24`, `10.61.20.5 255.255.255.0`, spaces anywhere around.
 * With `within`, a last figure alone (`33` or `.33`) is completed from that subnet.
 */
export function readIpEntry(typed: string, within?: Subnet): IpEntry {
  const text = typed.trim().replace(/\s*([./])\s*/g, '$1');
  const short = /^\.?(\d{1,3})$/.exec(text);
  if (short && within && within.prefix >= 24) return lastFigure(Number(short[1]), typed, within);
  const [address = '', mask, ...rest] = text.split(/\s*\/\s*|\s+/);
  if (address.includes(':') && parseIpv6(address)) return { ok: false, fault: 'is_ipv6', text: typed, guess: null };
  const fault = rest.length > 0 ? 'stray_characters' : addressFault(address);
  if (fault) return { ok: false, fault, text: typed, guess: readable(guessOf(text) ?? completed(text, within), text) };
  const ip = parseIp(address) ?? 0;
  const meant = within ? meantInside(ip, within) : undefined;
  const slip = meant === undefined ? {} : { meant };
  if (mask === undefined) return { ok: true, ip, prefix: null, ...slip };
  const prefix = readMask(mask);
  return typeof prefix === 'number'
    ? { ok: true, ip, prefix, ...slip }
    : { ok: false, fault: prefix, text: typed, guess: readable(maskGuess(address, mask), text) };
}

/** The last figure of an address, in a network in which only that may differ. */
function lastFigure(figure: number, text: string, within: Subnet): IpEntry {
  const ip = subnetOf(within.network, 24).network + figure;
  if (contains(within, ip)) return { ok: true, ip, prefix: null };
  const { first, last } = hostRange(within);
  return { ok: false, fault: 'figure_outside', text, guess: null, figures: [first % 256, last % 256] };
}

/** A guess is offered only if it can be read itself and is not what was typed. */
const readable = (guess: string | null, text: string): string | null =>
  guess !== null && guess !== text && readIpEntry(guess).ok ? guess : null;

/** Fewer parts than four stand for the last ones: `20.5` inside 10.61.20.0/24 is 10.61.20.5. */
function completed(text: string, within: Subnet | undefined): string | null {
  const parts = text.replace(/^\.|\.$/g, '').split('.');
  if (!within || parts.length > 3 || parts.some((part) => !/^\d{1,3}$/.test(part) || Number(part) > 255)) return null;
  const network = formatIp(within.network).split('.');
  const ends = [parts, parts.slice(-1)].map((tail) => [...network.slice(0, 4 - tail.length), ...tail].join('.'));
  return ends.find((candidate) => isInside(candidate, within)) ?? null;
}

const isInside = (text: string, { network, prefix }: Subnet): boolean =>
  subnetOf(parseIp(text) ?? -1, prefix).network === network;

/** The network part put right, where one slip separates it from what was typed. */
function meantInside(ip: number, within: Subnet): string | undefined {
  if (subnetOf(ip, within.prefix).network === within.network || within.prefix < 8) return undefined;
  const parts = Math.floor(within.prefix / 8);
  const [typed, network] = [ip, within.network].map((value) => formatIp(value).split('.'));
  const meant = [...(network ?? []).slice(0, parts), ...(typed ?? []).slice(parts)].join('.');
  return isInside(meant, within) && likelySlip(formatIp(ip), meant) ? meant : undefined;
}

/** A prefix length (`24`, `/24`) or a mask in dotted form, as a prefix length. */
export function readMask(text: string): number | EntryFault {
  const bare = text.trim().replace(/^\//, '');
  if (/^\d{1,2}$/.test(bare)) return Number(bare) >= 1 && Number(bare) <= 32 ? Number(bare) : 'bad_prefix';
  const fault = addressFault(bare);
  if (fault) return fault;
  const prefix = prefixOf(parseIp(bare) ?? 0);
  return prefix === undefined || prefix === 0 ? 'mask_not_contiguous' : prefix;
}

function addressFault(text: string): EntryFault | undefined {
  if (text === '') return 'empty';
  if (/[^\d.]/.test(text)) return 'stray_characters';
  const parts = text.split('.');
  if (parts.includes('')) return 'empty_part';
  if (parts.length !== 4) return parts.length < 4 ? 'too_few_parts' : 'too_many_parts';
  if (parts.some((part) => Number(part) > 255)) return 'part_out_of_range';
  return parts.some((part) => part.length > 1 && part.startsWith('0')) ? 'leading_zero' : undefined;
}

/** What was probably meant: commas for points, letters for figures, a doubled point, leading zeros. */
function guessOf(text: string): string | null {
  const [address = '', ...mask] = text
    .replace(/[oO]/g, '0')
    .replace(/[lI]/g, '1')
    .replace(/[,;:]/g, '.')
    .replace(/\.{2,}/g, '.')
    .split(/(?=[/ ])/);
  const plain = address
    .replace(/^\.|\.$/g, '')
    .split('.')
    .map((part) => part.replace(/^0+(?=\d)/, ''))
    .join('.');
  const ip = parseIp(plain);
  const guess = ip === undefined ? null : formatIp(ip) + mask.join('');
  return guess === text ? null : guess;
}

/** The nearest contiguous mask: the leading ones of what was typed. */
function maskGuess(address: string, mask: string): string | null {
  const value = parseIp(mask);
  if (value === undefined) return null;
  const prefix = Math.clz32(~value >>> 0);
  return prefix >= 1 && prefix <= 30 ? `${address}/${prefix}` : null;
}
