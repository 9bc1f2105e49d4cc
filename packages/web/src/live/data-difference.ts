/**
 * What makes one value of plain data of the one before: `same`, another value, or which parts of a list or an object are
 * others. Parts are known to be the same by being the same object, so that telling costs what changed and not what is
 * there.
 */
export type DataDifference =
  | 'same'
  | { readonly value: unknown }
  | { readonly from: number; readonly to: number; readonly items: readonly DataDifference[] }
  | { readonly fields: Readonly<Record<string, DataDifference>>; readonly gone: readonly string[] };

export function dataDifference(before: unknown, now: unknown): DataDifference {
  if (Object.is(before, now)) return 'same';
  if (Array.isArray(before) && Array.isArray(now)) return listDifference(before, now);
  if (isPlain(before) && isPlain(now)) return fieldsDifference(before, now);
  return { value: now };
}

/** What is between the items that both lists begin with and those that both end with. */
function listDifference(before: readonly unknown[], now: readonly unknown[]): DataDifference {
  const most = Math.min(before.length, now.length);
  let from = 0;
  while (from < most && before[from] === now[from]) from += 1;
  let end = 0;
  while (end < most - from && before[before.length - 1 - end] === now[now.length - 1 - end]) end += 1;
  const [old, items] = [before.slice(from, before.length - end), now.slice(from, now.length - end)];
  const isInPlace = old.length === items.length;
  return {
    from,
    to: before.length - end,
    items: items.map((item, at) => (isInPlace ? dataDifference(old[at], item) : { value: item })),
  };
}

type Fields = Readonly<Record<string, unknown>>;

function fieldsDifference(before: Fields, now: Fields): DataDifference {
  const changed = Object.keys(now).flatMap((key): [string, DataDifference][] => {
    const difference = key in before ? dataDifference(before[key], now[key]) : { value: now[key] };
    return difference === 'same' ? [] : [[key, difference]];
  });
  return { fields: Object.fromEntries(changed), gone: Object.keys(before).filter((key) => !(key in now)) };
}

const isPlain = (value: unknown): value is Fields =>
  typeof value === 'object' && value !== null && Object.getPrototypeOf(value) === Object.prototype;

/** The value that the difference was told of; what did not change is the same object as before. */
export function withDataDifference(before: unknown, difference: DataDifference): unknown {
  if (difference === 'same') return before;
  if ('value' in difference) return difference.value;
  if ('items' in difference) {
    const old = before as readonly unknown[];
    const { from, to, items } = difference;
    const own = items.map((item, at) => withDataDifference(old[from + at], item));
    return [...old.slice(0, from), ...own, ...old.slice(to)];
  }
  const after: Record<string, unknown> = { ...(before as Fields) };
  for (const key of difference.gone) Reflect.deleteProperty(after, key);
  for (const [key, one] of Object.entries(difference.fields)) after[key] = withDataDifference(after[key], one);
  return after;
}
