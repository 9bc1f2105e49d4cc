import { byName, rowsOf, type Device, type Link, type Seen, type Show } from '../show/index.ts';
import type { LinkFacts } from './ends.ts';
import { endsOf } from './ends.ts';

/** A link that crosses the air somewhere, with what that costs (need 2.22, C47). */
export interface AirLine {
  readonly link: Link;
  readonly controller: Device;
  readonly target: Device;
  /** From sending to arriving in milliseconds; undefined where nothing is known of it. */
  readonly delayMs: number | undefined;
  readonly from: 'sounded' | 'written_down' | 'unknown';
}

/**
 * Every link with a wireless hop. The delay is half of the round trip that was sounded, else the sum of what is written
 * down for the cables of its way, when every wireless hop has one.
 */
export function overTheAir(show: Show, facts: LinkFacts, seen: Seen): AirLine[] {
  return rowsOf(show, 'links')
    .flatMap((link): AirLine[] => {
      const ends = endsOf(show, facts, link);
      if (!ends?.route?.wireless || ends.sameMachine) return [];
      const { controller, target, route } = ends;
      const rtt = seen.soundings[link.id]?.rttMs ?? null;
      if (rtt !== null) return [{ link, controller, target, delayMs: rtt / 2, from: 'sounded' }];
      const written = route.delayMs ?? undefined;
      return [{ link, controller, target, delayMs: written, from: written === undefined ? 'unknown' : 'written_down' }];
    })
    .sort((a, b) => byName(a.controller, b.controller) || byName(a.target, b.target));
}

/** Frames by which a cue is sent earlier to make up for a delay: rounded up, since a late start is seen (C63). */
export const framesFor = (delayMs: number, framesPerSecond: number): number =>
  Math.max(0, Math.ceil((delayMs * framesPerSecond) / 1000 - rounding));
/** Far above the error of the division, far below any delay that matters. */
const rounding = 1e-9;
