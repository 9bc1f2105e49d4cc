import { tableNames, type Row, type TableName } from '../entities.ts';
import type { Show, Table } from '../tables.ts';
import { isAlike } from '../is-alike.ts';
import { Cell, Queue, type Source } from './cells.ts';
import { IndexFeed } from './index-feed.ts';
import { StandingIndex, type Entries } from './standing-index.ts';
import { StandingTable } from './standing-table.ts';

export type { Entries };

/**
 * A show that stands: one object whose rows are put in place, and every answer that was worked out of it follows. What
 * reads it is code that knows nothing of that: the tables look like those of any snapshot.
 */
export class Standing {
  readonly queue = new Queue();
  readonly show: Show;
  private readonly tables: ReadonlyMap<TableName, StandingTable>;
  private readonly memos = new Map<unknown, Map<unknown, Cell>>();
  private readonly indexes = new Map<unknown, StandingIndex<unknown, unknown>>();
  private rev: number;

  constructor(show: Show) {
    this.rev = show.rev;
    this.tables = new Map(tableNames.map((name) => [name, new StandingTable(this.queue, show[name])]));
    const about = { id: show.id, name: show.name, subtitle: show.subtitle };
    const faces = [...this.tables].map(([name, table]) => [name, faceOf(table)] as const);
    for (const [name, face] of faces) owners.set(face, { standing: this, table: this.table(name) });
    const standing = this.revision.bind(this);
    this.show = Object.defineProperty({ ...about, ...Object.fromEntries(faces) } as unknown as Show, 'rev', {
      get: standing,
      enumerable: true,
    });
    owners.set(this.show, { standing: this, table: undefined });
  }

  private revision(): number {
    return this.rev;
  }

  table(name: TableName): StandingTable {
    const table = this.tables.get(name);
    if (!table) throw new Error(`no table ${name}`);
    return table;
  }

  /** Puts rows in place; null takes one away. Nothing is worked out yet. */
  put(rows: Iterable<{ readonly table: TableName; readonly id: string; readonly row: Row | null }>, rev: number): void {
    this.rev = rev;
    for (const { table, id, row } of rows) this.table(table).put(id, row ?? undefined);
  }

  /** The answer to a question about a key, remembered as long as somebody reads it. */
  answer<Value>(question: unknown, key: unknown, work: () => Value, isSame?: (a: Value, b: Value) => boolean): Value {
    const cells = this.memos.get(question) ?? new Map<unknown, Cell>();
    this.memos.set(question, cells);
    let cell = cells.get(key) as Cell<Value> | undefined;
    if (!cell) {
      cell = new Cell(this.queue, work, isSame);
      cell.onDropped = () => void cells.delete(key);
      cells.set(key, cell);
    }
    return cell.get();
  }

  /** Rows of a table under keys that follow from each, and from whatever is read on the way. */
  index<Key, Item>(
    question: unknown,
    name: TableName,
    entriesOf: (row: Row) => Entries<Key, Item>,
  ): StandingIndex<Key, Item> {
    const known = this.indexes.get(question);
    if (known) return known as unknown as StandingIndex<Key, Item>;
    const table = this.table(name);
    const index = new StandingIndex<Key, Item>(this.queue, table.placeOf);
    this.indexes.set(question, index as unknown as StandingIndex<unknown, unknown>);
    new IndexFeed(this, table, index, entriesOf).begin();
    return index;
  }

  /** Items of another index under keys of their own, row by row. */
  derived<From, Key, Item>(
    question: unknown,
    base: StandingIndex<unknown, From>,
    entriesOf: (item: From) => Entries<Key, Item>,
  ): StandingIndex<Key, Item> {
    const known = this.indexes.get(question);
    if (known) return known as unknown as StandingIndex<Key, Item>;
    const index = new StandingIndex<Key, Item>(this.queue, base.placeOf);
    this.indexes.set(question, index as unknown as StandingIndex<unknown, unknown>);
    base.feed((rowId, items, level) => index.put(rowId, items.flatMap(entriesOf), level));
    return index;
  }

  /** What is read by nearly everything and hardly ever changes: it is followed for all rows at once. */
  readonly ground = new Set<Source>();

  /** The same as an answer that nearly everything reads. */
  groundAnswer<Value>(question: unknown, work: () => Value): Value {
    const value = this.answer(question, '', work, isAlike);
    const cell = this.memos.get(question)?.get('');
    if (cell) this.ground.add(cell);
    return value;
  }
}

/** Which standing show a table or a show belongs to. */
const owners = new WeakMap<object, { readonly standing: Standing; readonly table: StandingTable | undefined }>();

/** The standing show behind a show or a table of one; undefined for a snapshot. */
export const standingOf = (part: object): Standing | undefined => owners.get(part)?.standing;

export const standingTableOf = (part: object): StandingTable | undefined => owners.get(part)?.table;

/** Looks like the table of a snapshot. */
const faceOf = (table: StandingTable): Table<TableName> =>
  new Proxy<Record<string, Row>>(
    {},
    {
      get: (_, id) => (typeof id === 'string' ? table.get(id) : undefined),
      has: (_, id) => typeof id === 'string' && table.get(id) !== undefined,
      ownKeys: () => table.all().map(({ id }) => id),
      getOwnPropertyDescriptor: (_, id) => {
        const value = typeof id === 'string' ? table.get(id) : undefined;
        return value && { value, enumerable: true, configurable: true };
      },
    },
  );
