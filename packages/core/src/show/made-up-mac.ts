import { indexBy, type Show } from './show.ts';

/** MAC addresses that somebody wrote down, by `device adapter`. */
const writtenDown = indexBy('interfaces', ({ deviceId, adapter, mac }) => [[`${deviceId} ${adapter}`, mac]]);

/**
 * The MAC address of an adapter: the one that somebody wrote down, or one of our own making (locally administered,
 * IEEE 802 section 8.4), so that plan and bench name the same root of a spanning tree and the same client of a server
 * while nobody has read the label yet. `at` is the adapter's place in its type.
 */
export const macOf = (show: Show, deviceId: string, adapter: string, at: number): string =>
  writtenDown(show).get(`${deviceId} ${adapter}`)?.[0] ?? madeUpMac(`${deviceId} ${adapter}`, at);

function madeUpMac(text: string, at: number): string {
  let hash = 2_166_136_261;
  for (const letter of text) hash = Math.imul(hash ^ letter.charCodeAt(0), 16_777_619) >>> 0;
  const bytes = [24, 16, 8, 0].map((shift) => ((hash >>> shift) & 255).toString(16).padStart(2, '0'));
  return ['02', at.toString(16).padStart(2, '0'), ...bytes].join(':');
}
