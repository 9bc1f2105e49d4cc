import { show as core, type Change } from '@deep-patch/core';

/** What one change of this tab did to a row, as it was saved. */
interface Saved {
  readonly rev: number;
  readonly before: core.Content | null;
  readonly after: core.Content | null;
}

/** So many changes of a row are remembered: nobody plans more of them before the first answer. */
const most = 50;

/**
 * Rows as this tab saved them last. Who types quickly plans the next change before the answer to the one before it is
 * there: on their own earlier value, which is no reason to ask what should stand.
 */
export class OwnEdits {
  private readonly rows = new Map<string, Saved[]>();

  saved(edits: readonly core.Edit[], rev: number): void {
    for (const { table, id, before, after } of edits) {
      const key = `${table}/${id}`;
      this.rows.set(key, [...(this.rows.get(key) ?? []), { rev, before, after }].slice(-most));
    }
  }

  /**
   * The same change on top of what this tab saved meanwhile. Where both touch the same thing the later one stands, as
   * long as nobody else touched it in between: then it stays as it is, and is asked about.
   */
  onTop(change: Change): Change {
    return { ...change, edits: change.edits.map((edit) => this.rebased(edit)) };
  }

  private rebased(edit: core.Edit): core.Edit {
    const { table, id, base, before, after } = edit;
    const since = (this.rows.get(`${table}/${id}`) ?? []).filter(({ rev }) => rev > base);
    const last = since.at(-1);
    if (!last?.after || !before || !after) return edit;
    const [was, mine, now] = [before, after, last.after] as unknown as Named[];
    if (!was || !mine || !now) return edit;
    const onTop = mergedParts(was, mine, now, (field) => isOnlyOurs(since, field, was[field]));
    return onTop ? { table, id, base: last.rev, before: last.after, after: onTop as unknown as core.Content } : edit;
  }
}

/** Did this tab's own changes alone bring a field from what it was to what it is? */
function isOnlyOurs(since: readonly Saved[], field: string, was: unknown): boolean {
  let known = was;
  return since.every(({ before, after }) => {
    const isUntouched = core.isEqual((before as unknown as Named | null)?.[field], known);
    known = (after as unknown as Named | null)?.[field];
    return isUntouched;
  });
}

type Named = Readonly<Record<string, unknown>>;

/**
 * What was changed here, on top of what was changed before it, part by part. Where both changed one thing it is this
 * one's if it `wins`, else undefined.
 */
function merged(was: unknown, mine: unknown, now: unknown, wins: boolean): { readonly value: unknown } | undefined {
  if (core.isEqual(was, mine)) return { value: now };
  if (core.isEqual(was, now) || core.isEqual(mine, now)) return { value: mine };
  const lists = [was, mine, now].map((list) => byName(list));
  const [wasList, mineList, nowList] = lists;
  if (wasList && mineList && nowList) {
    const whole = mergedParts(wasList, mineList, nowList, () => wins);
    return whole && { value: Object.values(whole) };
  }
  if (!isRecord(was) || !isRecord(mine) || !isRecord(now)) return wins ? { value: mine } : undefined;
  const whole = mergedParts(was, mine, now, () => wins);
  return whole && { value: whole };
}

function mergedParts(was: Named, mine: Named, now: Named, wins: (key: string) => boolean): Named | undefined {
  const whole: Record<string, unknown> = {};
  for (const key of new Set([...Object.keys(mine), ...Object.keys(now)])) {
    const part = merged(was[key], mine[key], now[key], wins(key));
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
