/**
 * What makes one value of plain data of the one before: `same`, another value, or which parts of a list or an object are
 * others. Parts are known to be the same by being the same object, so that telling costs what changed and not what is
 * there.
 */
export type DataDifference =
  | 'same'
  | { readonly value: unknown }
  | { readonly list: readonly ListPart[] }
  | { readonly fields: Readonly<Record<string, DataDifference>>; readonly gone: readonly string[] };

/** So many items as they stood from there on, or one that was made of the one that stood there, or of none. */
type ListPart =
  { readonly from: number; readonly count: number } | { readonly of: number; readonly difference: DataDifference };

export function dataDifference(before: unknown, now: unknown): DataDifference {
  if (Object.is(before, now)) return 'same';
  if (Array.isArray(before) && Array.isArray(now)) return { list: listParts(before, now) };
  if (isPlain(before) && isPlain(now)) return fieldsDifference(before, now);
  return { value: now };
}

type Fields = Readonly<Record<string, unknown>>;

/** Items are found again wherever they stand now; those that carry a key are told by what changed in them. */
function listParts(before: readonly unknown[], now: readonly unknown[]): ListPart[] {
  const most = Math.min(before.length, now.length);
  let start = 0;
  while (start < most && before[start] === now[start]) start += 1;
  let end = 0;
  while (end < most - start && before[before.length - 1 - end] === now[now.length - 1 - end]) end += 1;
  const middle = before.slice(start, before.length - end);
  return [
    ...(start > 0 ? [{ from: 0, count: start }] : []),
    ...middleParts(middle, now.slice(start, now.length - end)).map((part) =>
      'count' in part ? { ...part, from: part.from + start } : { ...part, of: part.of + start },
    ),
    ...(end > 0 ? [{ from: before.length - end, count: end }] : []),
  ];
}

function middleParts(before: readonly unknown[], now: readonly unknown[]): ListPart[] {
  const places = new Map(before.map((item, at) => [item, at]));
  const byKey = new Map(before.map((item, at) => [keyOf(item) ?? item, at]));
  const parts: ListPart[] = [];
  let run: { from: number; count: number } | undefined;
  for (const [at, item] of now.entries()) {
    const known = before[at] === item ? at : places.get(item);
    if (known !== undefined) {
      if (run && run.from + run.count === known) run.count += 1;
      else parts.push((run = { from: known, count: 1 }));
      continue;
    }
    run = undefined;
    const of = byKey.get(keyOf(item)) ?? at;
    parts.push({ of, difference: of < before.length ? dataDifference(before[of], item) : { value: item } });
  }
  return parts;
}

const keyOf = (item: unknown): unknown => (isPlain(item) ? item['key'] : undefined);

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
  if ('list' in difference) {
    const old = before as readonly unknown[];
    return difference.list.flatMap((part) =>
      'count' in part
        ? old.slice(part.from, part.from + part.count)
        : [withDataDifference(old[part.of], part.difference)],
    );
  }
  const after: Record<string, unknown> = { ...(before as Fields) };
  for (const key of difference.gone) Reflect.deleteProperty(after, key);
  for (const [key, one] of Object.entries(difference.fields)) after[key] = withDataDifference(after[key], one);
  return after;
}
