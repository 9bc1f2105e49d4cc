import type { Sighting } from '../capture/sighting.ts';
import { ipPattern, macPattern, tidyIp, tidyMac } from './tidy.ts';

/** Entries that were asked for and never answered. */
const unanswered = /\b(FAILED|INCOMPLETE)\b|\(?incomplete\)?|<incomplete>|\(unvollst|\(incompl/i;
/** The heading of one interface's entries, in the languages where it differs. It holds the reader's own address. */
const heading = /^\s*(Interface|Schnittstelle|Interfaz)\s?:/i;

/**
 * A neighbour table: one address and its MAC on a line, in whatever order and with whatever words around them, as the
 * `arp` and `ip neighbour` commands of all common systems write it. Undefined where no line is of that kind.
 */
export function readNeighbours(lines: readonly string[]): Sighting[] | undefined {
  const found = lines.flatMap((line): Sighting[] => {
    if (heading.test(line) || unanswered.test(line)) return [];
    const [ip, mac] = [tidyIp(ipPattern.exec(line)?.[1] ?? ''), tidyMac(macPattern.exec(line)?.[0] ?? '')];
    if (!ip || !mac) return [];
    const name = /^(\S+) \(\d/.exec(line.trim())?.[1];
    return [{ by: 'listing', mac, ip, ...(name && name !== '?' ? { name: name.replace(/\.local\.?$/i, '') } : {}) }];
  });
  return found.length > 0 ? found : undefined;
}
