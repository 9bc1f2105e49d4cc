import { addressing } from '@deep-patch/core';

type Ranges = { readonly first: string; readonly last: string }[];

/** Ranges as people write them, one a line: `.60 – .69`, `172.27.5.60 to 172.27.5.69`, or a single address. */
export function readRanges(
  text: string,
  within: addressing.Subnet,
): { readonly ok: true; readonly ranges: Ranges } | { readonly ok: false; readonly fault: string } {
  const ranges: Ranges = [];
  for (const line of text
    .split('\n')
    .map((part) => part.trim())
    .filter(Boolean)) {
    const ends = line.split(/\s*(?:–|-|to)\s*/).map((end) => addressing.readIpEntry(end, within));
    const [first, last = first] = ends;
    if (!first?.ok) return { ok: false, fault: `${line}: ${first ? addressing.entryWords(first) : ''}` };
    if (!last?.ok) return { ok: false, fault: `${line}: ${last ? addressing.entryWords(last) : ''}` };
    if (ends.length > 2 || first.ip > last.ip) return { ok: false, fault: `${line}: write it as start – end.` };
    ranges.push({ first: addressing.formatIp(first.ip), last: addressing.formatIp(last.ip) });
  }
  return { ok: true, ranges };
}

export const writeRanges = (ranges: readonly { first: string; last: string }[]): string =>
  ranges.map(({ first, last }) => (first === last ? first : `${first} – ${last}`)).join('\n');
