import type { DeviceType } from '../show/index.ts';
import type { EntryFault, IpEntry } from './read-ip-entry.ts';

/** How a unit of this type comes out of its box. */
export const deliveredWords = ({ factory }: DeviceType): string =>
  factory.ip === null
    ? { dhcp: 'automatic', self: 'self-assigned', none: 'no address', static: 'fixed' }[factory.mode]
    : `${factory.ip} /${factory.prefix}`;

const faults: Readonly<Record<EntryFault, string>> = {
  empty: 'Type an address, such as 10.61.20.33.',
  is_ipv6: 'This is an IPv6 address. Here goes the IPv4 one; units that speak IPv6 form theirs from their MAC address.',
  too_few_parts: 'An address has four numbers; this has fewer.',
  too_many_parts: 'An address has four numbers; this has more.',
  part_out_of_range: 'Each number goes from 0 to 255.',
  empty_part: 'There is nothing between two of the points.',
  leading_zero: 'Write numbers without leading zeros: some devices read 010 as 8.',
  stray_characters: 'Only figures, points and one mask belong here.',
  bad_prefix: 'A prefix goes from /1 to /32.',
  figure_outside: 'No address of this network ends on that figure.',
  mask_not_contiguous: 'This is no mask: its ones must stand together on the left, as in 255.255.255.0.',
};

export function entryWords({ fault, guess, figures }: IpEntry & { ok: false }): string {
  if (figures) return `${faults[fault]} Here the last one goes from ${figures[0]} to ${figures[1]}.`;
  return guess ? `${faults[fault]} Did you mean ${guess}?` : faults[fault];
}
