import { show as core } from '@deep-patch/core';

/**
 * Takes one change back without touching what came after it: every part that still is as the change left it becomes
 * what it was before; a part that somebody changed since stays as it is now. For plain data.
 */
export function revert<Value>(now: Value, before: Value, after: Value): Value {
  if (core.isEqual(before, after)) return now;
  if (core.isEqual(now, after)) return before;
  if (Array.isArray(now) && Array.isArray(before) && Array.isArray(after))
    return now.length === after.length && before.length === after.length
      ? (now.map((each, at) => revert<unknown>(each, before[at], after[at])) as Value)
      : now;
  if (!isRecord(now) || !isRecord(before) || !isRecord(after)) return now;
  return Object.fromEntries(Object.keys(now).map((key) => [key, revert(now[key], before[key], after[key])])) as Value;
}

const isRecord = (value: unknown): value is Record<string, unknown> =>
  typeof value === 'object' && value !== null && !Array.isArray(value);
