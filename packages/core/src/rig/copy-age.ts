/** A copy that is older does not hold what was set since. */
const goodForDays = 60;
const dayMs = 86_400_000;

/**
 * Is there a copy worth relying on: written down, not in the future, not too old (need 1.14)? Days are those of UTC;
 * `now` in milliseconds since 1970, 0 where nobody knows.
 */
export function isCopyGood(savedOn: string | null, now: number): boolean {
  if (savedOn === null) return false;
  if (now === 0) return true;
  const age = now - daysSince1970(savedOn) * dayMs;
  // somebody east of here may have written down a day that has not begun
  return age >= -dayMs && age < goodForDays * dayMs;
}

/** Days of the Gregorian calendar since 1970 of a day such as `2026-11-25`, by years that begin in March. */
function daysSince1970(day: string): number {
  const [year = 1970, month = 1, date = 1] = day.split('-').map(Number);
  const [y, m] = month > 2 ? [year, month - 3] : [year - 1, month + 9];
  const leaps = Math.floor(y / 4) - Math.floor(y / 100) + Math.floor(y / 400);
  return 365 * y + leaps + Math.floor((153 * m + 2) / 5) + date - 1 - 719_468;
}
