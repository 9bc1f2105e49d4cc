import type { Sighting } from '../capture/sighting.ts';
import type { Listed } from './listed.ts';
import { tidyIp, tidyMac, tidyPrefix } from './tidy.ts';

type Row = Readonly<Record<string, unknown>>;

/**
 * What `ip -j` prints, in one line or many: adapters with `addr_info`, and routes with a `gateway`, as `adapters`;
 * rows with `dst` and `lladdr` as `neighbours`. Undefined where the text is no list of rows of that kind. A row that
 * is none leaves its lines not understood.
 */
export function readIpJson(
  lines: readonly string[],
  text: string,
  kind: 'adapters' | 'neighbours',
): Listed | undefined {
  const rows = rowsOf(text);
  if (!rows) return undefined;
  const read = rows.map(kind === 'adapters' ? (row) => adapterIn(row) ?? gatewayIn(row) : neighbourIn);
  const sightings = read.flatMap((found) => found ?? []);
  if (sightings.length === 0) return undefined;
  const isWhole = read.every((found) => found !== undefined);
  const strange = rows.filter((_, at) => read[at] === undefined).flatMap(Object.values);
  const understood = lines.flatMap((line, at) => (isWhole || !strange.some((value) => holds(line, value)) ? [at] : []));
  return { sightings, understood: new Set(understood) };
}

const holds = (line: string, value: unknown): boolean =>
  typeof value === 'string' && line.includes(JSON.stringify(value));

function rowsOf(text: string): readonly Row[] | undefined {
  if (!text.trimStart().startsWith('[')) return undefined;
  try {
    const parsed: unknown = JSON.parse(text);
    return Array.isArray(parsed) ? parsed.filter(isRow) : undefined;
  } catch {
    return undefined;
  }
}

const isRow = (value: unknown): value is Row => typeof value === 'object' && value !== null && !Array.isArray(value);
const textOf = (value: unknown): string => (typeof value === 'string' ? value : '');

function adapterIn({ ifname, address, addr_info: listed }: Row): Sighting[] | undefined {
  if (typeof ifname !== 'string' || (!Array.isArray(listed) && typeof address !== 'string')) return undefined;
  const mac = tidyMac(textOf(address));
  const own = (Array.isArray(listed) ? listed.filter(isRow) : []).flatMap((entry): Sighting[] => {
    const ip = tidyIp(textOf(entry['local']));
    if (ip === null) return [];
    const prefix = tidyPrefix(String(entry['prefixlen']));
    const method = entry['dynamic'] === true ? ({ method: 'dhcp' } as const) : {};
    return [{ by: 'listing', mac, ip, ...(prefix === undefined ? {} : { prefix }), ...method }];
  });
  return own.length > 0 || mac === null ? own : [{ by: 'listing', mac, ip: null }];
}

function gatewayIn({ dst, gateway, dev }: Row): Sighting[] | undefined {
  if (typeof dst !== 'string' || typeof dev !== 'string') return undefined;
  const ip = tidyIp(textOf(gateway));
  return dst === 'default' && ip !== null ? [{ by: 'listing', mac: null, ip, role: 'gateway' }] : [];
}

const unanswered = ['FAILED', 'INCOMPLETE'];

function neighbourIn({ dst, lladdr, state }: Row): Sighting[] | undefined {
  if (typeof dst !== 'string') return undefined;
  const isThere = !Array.isArray(state) || !state.some((word) => unanswered.includes(textOf(word)));
  const [ip, mac] = [tidyIp(dst), tidyMac(textOf(lladdr))];
  return ip !== null && mac !== null && isThere ? [{ by: 'listing', mac, ip }] : [];
}
