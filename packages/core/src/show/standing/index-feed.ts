import type { Row } from '../entities.ts';
import { Cell, read, type Queue, type Source } from './cells.ts';
import { indexing, type Entries, type StandingIndex } from './standing-index.ts';
import type { StandingTable } from './standing-table.ts';

/**
 * Feeds an index row by row. Most rows say by themselves where they stand: they are looked at when they change, and only
 * those that read something else as well have a cell of their own.
 */
export class IndexFeed<Key, Item> {
  private readonly queue: Queue;
  private readonly ground: ReadonlySet<Source>;
  private readonly table: StandingTable;
  private readonly index: StandingIndex<Key, Item>;
  private readonly entriesOf: (row: Row) => Entries<Key, Item>;
  private readonly cells = new Map<string, Cell>();
  /** Works all rows out again that have no cell. */
  private onGround: Cell | undefined;

  constructor(
    { queue, ground }: { readonly queue: Queue; readonly ground: ReadonlySet<Source> },
    table: StandingTable,
    index: StandingIndex<Key, Item>,
    entriesOf: (row: Row) => Entries<Key, Item>,
  ) {
    this.queue = queue;
    this.ground = ground;
    this.table = table;
    this.index = index;
    this.entriesOf = entriesOf;
  }

  begin(): void {
    this.table.watch((id, row) => {
      const cell = this.cells.get(id);
      if (row && !cell) this.look(id);
      else if (!row) {
        cell?.end();
        this.cells.delete(id);
        this.index.put(id, [], cell?.level ?? 0);
      }
    });
  }

  private look(id: string): void {
    const cell = indexing(this.queue, this.index, id, () => {
      const row = this.table.get(id);
      return row ? this.entriesOf(row) : [];
    }) as Cell;
    cell.workOut();
    const own = this.table.sourceOf(id);
    if (cell.hasFailed || !cell.followsOnly(own, this.ground)) {
      this.cells.set(id, cell);
      return;
    }
    for (const source of cell.sources()) if (source !== own) this.followGround(source);
    cell.end();
  }

  private followGround(source: Source): void {
    if (this.onGround?.sources().includes(source)) return;
    const before = this.onGround?.sources() ?? [];
    this.onGround?.end();
    let isFirst = true;
    const all = new Cell(
      this.queue,
      () => {
        for (const one of new Set([...before, source])) read(one);
        return {};
      },
      Object.is,
    );
    all.isWanted = true;
    all.onChange = () => {
      if (isFirst) isFirst = false;
      else for (const id of this.table.rows.keys()) if (!this.cells.has(id)) this.look(id);
    };
    this.onGround = all as Cell;
    all.workOut();
  }
}
