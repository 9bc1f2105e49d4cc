import type { LinkLamp } from '../contract/index.ts';
import type { LampMeaning, LayerName, MeasuredSounding } from '../show/index.ts';

/** A test that is older proves nothing of now (milliseconds). */
const goodForMs = 10 * 60_000;

/** A controller's lamp beside what really happened when the link was last tried (C31). */
export interface LampReading {
  readonly verdict: 'consistent' | 'misleading' | 'untested';
  /** Age of the test in milliseconds; null without one. */
  readonly ageMs: number | null;
  /** Where the test stopped; null where it got to the bottom, or there is none. */
  readonly stoppedAt: LayerName | null;
}

/** `changedSince`: something that the link depends on was changed after the test. */
export function statusAgainstEffect(
  { lit }: Pick<LinkLamp, 'lit'>,
  measured: MeasuredSounding | undefined,
  { now, changedSince }: { readonly now: number; readonly changedSince: boolean },
): LampReading {
  if (!measured) return { verdict: 'untested', ageMs: null, stoppedAt: null };
  const ageMs = Math.max(0, now - measured.at);
  const stoppedAt = measured.layers.find(({ state }) => state === 'fail')?.layer ?? null;
  if (changedSince || ageMs > goodForMs) return { verdict: 'untested', ageMs, stoppedAt };
  return { verdict: lit === (stoppedAt === null) ? 'consistent' : 'misleading', ageMs, stoppedAt };
}

const shows: Readonly<Record<LampMeaning, string>> = {
  carrier: 'that its own cable has a link',
  address: 'that the address answered',
  application: 'that the program was there when it looked',
  login: 'that it was let in',
  data: 'that something came back lately',
  show: 'whether the target did what it was told when it was last asked',
};

/** What it means that a lamp of this kind is lit, after “shows”. */
export const lampShows = (means: LampMeaning): string => shows[means];

const states = { away: 'Dark: nobody there', there: 'Blinking: there, but no show open', ready: 'Lit' } as const;

/** What a lamp is worth, in a sentence. */
export function lampWords(
  { lit, means, shows: state }: Pick<LinkLamp, 'lit' | 'means' | 'shows'>,
  reading: LampReading,
): string {
  const lamp = state ? states[state] : lit ? 'Lit' : 'Dark';
  if (reading.verdict === 'untested') return `${lamp}. Untested: sound it before you believe the lamp.`;
  if (reading.verdict === 'consistent')
    return lit ? 'Lit, and the link works.' : `${lamp}, and the link stops at ${reading.stoppedAt}.`;
  return lit
    ? `Lit although the link stops at ${reading.stoppedAt}: it only shows ${shows[means]}.`
    : `Dark although the link works: it only shows ${shows[means]}.`;
}
