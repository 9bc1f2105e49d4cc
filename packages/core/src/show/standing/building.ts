import { runningCell } from './cells.ts';
import type { Standing } from './standing-show.ts';

export type { Standing };

/** The standing show on which facts are being built: what they remember, it keeps up to date. */
let building: Standing | undefined;

/** Builds facts on a standing show: whatever they remember from now on follows it. */
export function buildOn<Facts>(standing: Standing, build: () => Facts): Facts {
  const before = building;
  building = standing;
  try {
    return build();
  } finally {
    building = before;
  }
}

/** Where facts are being built, and not in the middle of an answer: what that remembers ends with it. */
export const buildingOn = (): Standing | undefined => (runningCell() ? undefined : building);

/**
 * What is remembered while one answer is worked out belongs to that answer: another one that asks it would follow nothing.
 * Such a question throws an Error.
 */
export function guarded<Key, Answer>(ask: (key: Key) => Answer): (key: Key) => Answer {
  const own = runningCell();
  if (!own) return ask;
  return (key) => {
    if (runningCell() !== own) throw new Error('what one answer remembered was asked for by another');
    return ask(key);
  };
}
