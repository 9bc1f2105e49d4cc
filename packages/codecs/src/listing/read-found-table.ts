import type { Sighting } from '../capture/sighting.ts';
import type { Listed } from './listed.ts';
import { tidyIp, tidyMac, tidyPrefix } from './tidy.ts';

const headings = {
  name: /^(name|host ?name|device|label|ger.t|hostname|appareil|nom|nombre|equipo)$/i,
  ip: /^(ip|ip[ -]?address|ipv4|ipv4[ -]?address|address|adresse|ip-adresse|adresse ip|direcci.n ip|direcci.n)$/i,
  mac: /^(mac|mac[ -]?address|hardware address|physical address|ethernet|mac-adresse|adresse mac|direcci.n mac)$/i,
  mask: /^(mask|subnet mask|prefix|netmask|maske|subnetzmaske|masque|m.scara)$/i,
  version: /^(version|firmware|software|fw|versi.n)$/i,
} as const;
type Column = keyof typeof headings;

/** A table of what somebody or some tool found: a heading that names an address or a MAC column, one host a row. */
export function readFoundTable(cells: readonly (readonly string[])[], lines: readonly string[]): Listed | undefined {
  const head = cells[0] ?? [];
  const columns = Object.fromEntries(
    Object.entries(headings).map(([column, pattern]) => [column, head.findIndex((text) => pattern.test(text.trim()))]),
  ) as Record<Column, number>;
  if (columns.ip < 0 && columns.mac < 0) return undefined;
  const places = linesOfRows(cells, lines);
  const understood = new Set(places[0]);
  const sightings = cells.slice(1).flatMap((row, at): Sighting[] => {
    const cell = (column: Column) => (columns[column] < 0 ? '' : (row[columns[column]] ?? '').trim());
    const [bare = '', behind = ''] = cell('ip').split('/');
    const [ip, mac, name] = [tidyIp(bare), tidyMac(cell('mac')), cell('name').slice(0, 80)];
    const masks = cell('mask') || behind;
    const prefix = tidyPrefix(masks);
    // a cell that is filled and says nothing is not passed over in silence
    const isClear = isBlank(bare) === (ip === null) && isBlank(cell('mac')) === (mac === null);
    if (!ip && !mac) return [];
    if (isClear && isBlank(masks) === (prefix === undefined))
      for (const line of places[at + 1] ?? []) understood.add(line);
    return [
      {
        by: 'listing',
        mac,
        ip,
        ...(prefix === undefined ? {} : { prefix }),
        ...(name ? { name } : {}),
        ...(cell('version') ? { version: cell('version').slice(0, 80) } : {}),
      },
    ];
  });
  return sightings.length > 0 ? { sightings, understood } : undefined;
}

/** Which lines a row stands in: blank ones belong to none, and a cell in quotes may go over several. */
function linesOfRows(cells: readonly (readonly string[])[], lines: readonly string[]): number[][] {
  let next = 0;
  return cells.map((row) => {
    while (next < lines.length && isBlank(lines[next] ?? '')) next += 1;
    const count = row.join('').split(/\r\n|\n|\r/).length;
    next += count;
    return Array.from({ length: count }, (_, n) => next - count + n);
  });
}

const isBlank = (text: string): boolean => text.trim() === '';
