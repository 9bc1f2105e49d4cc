import { groupBy } from './group-by.ts';
import type { Row, TableName } from './entities.ts';
import { StandingIndex } from './standing/standing-index.ts';
import { standingOf, standingTableOf, type Entries } from './standing/standing-show.ts';
import type { Show } from './tables.ts';

export { emptyShow } from './tables.ts';
export type { Show, Table } from './tables.ts';

/** Listed once a table: a snapshot never changes, and many rules walk the same rows. */
const listed = new WeakMap<object, readonly Row[]>();

/** The rows of a table as an array of the caller's own. */
export function rowsOf<T extends TableName>(show: Show, table: T): Row<T>[] {
  const standing = standingTableOf(show[table]);
  if (standing) return standing.all().slice() as unknown as Row<T>[];
  const rows = listed.get(show[table]) ?? Object.values<Row>(show[table]);
  listed.set(show[table], rows);
  return rows.slice() as unknown as Row<T>[];
}

type TextColumn<T extends TableName> = {
  [Column in keyof Row<T>]: Row<T>[Column] extends string | null ? Column : never;
}[keyof Row<T>] &
  string;

/** Grouped once a table and column: a change makes new tables only where it changes rows. */
const grouped = new WeakMap<object, Map<string, ReadonlyMap<string, readonly Row[]>>>();

/** The rows of a table by what one column says, in the order of the table; those that say nothing are left out. */
export function rowsBy<T extends TableName>(
  show: Show,
  table: T,
  column: TextColumn<T>,
): ReadonlyMap<string, readonly Row<T>[]> {
  const standing = standingOf(show);
  if (standing)
    return standing.index(`${table} ${column}`, table, (row) => {
      const says = saysOf(row, column);
      return says === null ? [] : [[says, row]];
    }) as unknown as ReadonlyMap<string, readonly Row<T>[]>;
  const columns = grouped.get(show[table]) ?? new Map<string, ReadonlyMap<string, readonly Row[]>>();
  grouped.set(show[table], columns);
  const there = columns.get(column) ?? groupedBy(Object.values(show[table]), column);
  columns.set(column, there);
  return there as unknown as ReadonlyMap<string, readonly Row<T>[]>;
}

function groupedBy(rows: readonly Row[], column: string): ReadonlyMap<string, readonly Row[]> {
  return groupBy(
    rows.filter((row) => saysOf(row, column) !== null),
    (row) => saysOf(row, column) ?? '',
  );
}

const saysOf = (row: Row, column: string): string | null =>
  (row as unknown as Readonly<Record<string, string | null>>)[column] ?? null;

/**
 * Items by keys that follow from each row of a table, and from whatever else of the show says so: worked out once a
 * snapshot. In the order of the table; of a standing show kept up to date, key by key.
 */
export function indexBy<T extends TableName, Key, Item>(
  table: T,
  entriesOf: (row: Row<T>, show: Show) => Entries<Key, Item>,
): (show: Show) => ReadonlyMap<Key, readonly Item[]> {
  const known = new WeakMap<Show, ReadonlyMap<Key, readonly Item[]>>();
  return (show) => {
    const standing = standingOf(show);
    if (standing) return standing.index(entriesOf, table, (row) => entriesOf(row as unknown as Row<T>, show));
    const there = known.get(show) ?? indexed(rowsOf(show, table).map((row) => entriesOf(row, show)));
    known.set(show, there);
    return there;
  };
}

/** Items of an index under further keys that follow from each item alone. */
export function indexOver<From, Key, Item>(
  base: (show: Show) => ReadonlyMap<unknown, readonly From[]>,
  entriesOf: (item: From) => Entries<Key, Item>,
): (show: Show) => ReadonlyMap<Key, readonly Item[]> {
  const known = new WeakMap<Show, ReadonlyMap<Key, readonly Item[]>>();
  return (show) => {
    const from = base(show);
    const standing = standingOf(show);
    if (standing && from instanceof StandingIndex)
      return standing.derived(entriesOf, from as StandingIndex<unknown, From>, entriesOf);
    const there = known.get(show) ?? indexed([...from.values()].flat().map(entriesOf));
    known.set(show, there);
    return there;
  };
}

/** The same for facts that are built once: what stands under the keys follows from more than the show itself. */
export function gathered<T extends TableName, Key, Item>(
  show: Show,
  table: T,
  entriesOf: (row: Row<T>) => Entries<Key, Item>,
): Pick<ReadonlyMap<Key, readonly Item[]>, 'get'> {
  const standing = standingOf(show);
  if (standing) return standing.index(entriesOf, table, (row) => entriesOf(row as unknown as Row<T>));
  let known: ReadonlyMap<Key, readonly Item[]> | undefined;
  return { get: (key) => (known ??= indexed(rowsOf(show, table).map(entriesOf))).get(key) };
}

function indexed<Key, Item>(all: readonly Entries<Key, Item>[]): ReadonlyMap<Key, readonly Item[]> {
  const groups = new Map<Key, Item[]>();
  for (const entries of all)
    for (const [key, item] of entries) {
      const group = groups.get(key);
      if (group) group.push(item);
      else groups.set(key, [item]);
    }
  return groups;
}
