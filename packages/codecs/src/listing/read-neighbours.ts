import type { Sighting } from '../capture/sighting.ts';
import type { Listed } from './listed.ts';
import { ipPattern, macPattern, tidyIp, tidyMac } from './tidy.ts';

/** Entries that were asked for and never answered. */
const unanswered = /\b(FAILED|INCOMPLETE)\b|\(?incomplete\)?|<incomplete>|\(unvollst|\(incompl/i;
/** The heading of one interface's entries, in the languages where it differs. It holds the reader's own address. */
const heading = /^\s*(Interface|Schnittstelle|Interfaz)\s?:/i;

/**
 * A neighbour table: one address and its MAC on a line, in whatever order and with whatever words around them, as the
 * `arp` and `ip neighbour` commands of all common systems write it. Undefined where no line is of that kind.
 */
export function readNeighbours(lines: readonly string[]): Listed | undefined {
  const understood = new Set<number>();
  const sightings = lines.flatMap((line, at): Sighting[] => {
    const [ipText, macText] = [ipPattern.exec(line)?.[1], macPattern.exec(line)?.[0]];
    const isNobody = heading.test(line) || unanswered.test(line);
    if (isNobody || (ipText && macText)) understood.add(at);
    if (isNobody) return [];
    const [ip, mac] = [tidyIp(ipText ?? ''), tidyMac(macText ?? '')];
    // groups and everybody are in such tables too, and are no hosts
    if (!ip || !mac) return [];
    const name = /^(\S+) \(\d/.exec(line.trim())?.[1];
    return [{ by: 'listing', mac, ip, ...(name && name !== '?' ? { name: name.replace(/\.local\.?$/i, '') } : {}) }];
  });
  return sightings.length > 0 ? { sightings, understood } : undefined;
}
