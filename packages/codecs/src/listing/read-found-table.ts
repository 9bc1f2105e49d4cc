import type { Sighting } from '../capture/sighting.ts';
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
export function readFoundTable(cells: readonly (readonly string[])[]): Sighting[] | undefined {
  const head = cells[0] ?? [];
  const columns = Object.fromEntries(
    Object.entries(headings).map(([column, pattern]) => [column, head.findIndex((text) => pattern.test(text.trim()))]),
  ) as Record<Column, number>;
  if (columns.ip < 0 && columns.mac < 0) return undefined;
  const found = cells.slice(1).flatMap((row): Sighting[] => {
    const cell = (column: Column) => (columns[column] < 0 ? '' : (row[columns[column]] ?? '').trim());
    const [bare = '', behind = ''] = cell('ip').split('/');
    const [ip, mac, name] = [tidyIp(bare), tidyMac(cell('mac')), cell('name').slice(0, 80)];
    const prefix = tidyPrefix(cell('mask') || behind);
    if (!ip && !mac) return [];
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
  return found.length > 0 ? found : undefined;
}
