import { show as core, type Change } from '@deep-patch/core';

/**
 * Rows as this tab saved them last. Who types quickly plans the next change before the answer to the one before it is
 * there: on their own earlier value, which is no reason to ask what should stand.
 */
export class OwnEdits {
  private readonly rows = new Map<string, core.Row | null>();

  saved(edits: readonly core.Edit[], rev: number): void {
    for (const { table, id, after } of edits) this.rows.set(`${table}/${id}`, after && { ...after, rev });
  }

  /** The same change on top of what this tab saved meanwhile; what touches the same field stays as it is. */
  onTop(change: Change): Change {
    return { ...change, edits: change.edits.map((edit) => this.rebased(edit)) };
  }

  private rebased(edit: core.Edit): core.Edit {
    const { table, id, base, before, after } = edit;
    const theirs = this.rows.get(`${table}/${id}`);
    if (!theirs || !before || !after || base >= theirs.rev) return edit;
    const now = core.contentOf(theirs);
    const onTop = merged(before, after, now);
    return onTop ? { table, id, base: theirs.rev, before: now, after: onTop.value as core.Content } : edit;
  }
}

type Named = Readonly<Record<string, unknown>>;

/** What was changed here, on top of what was changed before it, part by part; undefined where both changed one thing. */
function merged(was: unknown, mine: unknown, now: unknown): { readonly value: unknown } | undefined {
  if (core.isEqual(was, mine)) return { value: now };
  if (core.isEqual(was, now) || core.isEqual(mine, now)) return { value: mine };
  const lists = [was, mine, now].map((list) => byName(list));
  const [wasList, mineList, nowList] = lists;
  if (wasList && mineList && nowList) {
    const whole = mergedParts(wasList, mineList, nowList);
    return whole && { value: Object.values(whole) };
  }
  if (!isRecord(was) || !isRecord(mine) || !isRecord(now)) return undefined;
  const whole = mergedParts(was, mine, now);
  return whole && { value: whole };
}

function mergedParts(was: Named, mine: Named, now: Named): Named | undefined {
  const whole: Record<string, unknown> = {};
  for (const key of new Set([...Object.keys(mine), ...Object.keys(now)])) {
    const part = merged(was[key], mine[key], now[key]);
    if (!part) return undefined;
    if (part.value !== undefined) whole[key] = part.value;
  }
  return whole;
}

const isRecord = (value: unknown): value is Named =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

/** What the items of a list go by, where they have a name or a number of their own. */
const names = ['id', 'key', 'number', 'output', 'socket', 'list'];

/** A list by what its items go by, in its order; undefined for any other list. */
function byName(list: unknown): Named | undefined {
  if (!Array.isArray(list)) return undefined;
  const items: readonly unknown[] = list;
  if (items.length === 0) return {};
  const name = names.find((field) => items.every((item) => isRecord(item) && item[field] !== undefined));
  if (name === undefined) return undefined;
  // a letter before it: numbers as keys would be put in an order of their own
  const named = Object.fromEntries(items.map((item) => [`n${String((item as Named)[name])}`, item]));
  return Object.keys(named).length === items.length ? named : undefined;
}
