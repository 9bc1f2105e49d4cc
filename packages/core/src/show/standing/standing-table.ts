import type { Row } from '../entities.ts';
import { Source, read, type Queue } from './cells.ts';

/** Told of every row that came, changed or went. */
type RowTold = (rowId: string, row: Row | undefined) => void;

/** The rows of one table, with who reads which. */
export class StandingTable {
  readonly queue: Queue;
  readonly rows: Map<string, Row>;
  readonly whole = new Source();
  private readonly sources = new Map<string, Source>();
  private readonly places = new Map<string, number>();
  private readonly told: RowTold[] = [];
  private nextPlace = 0;
  private listed: readonly Row[] | undefined;

  constructor(queue: Queue, rows: Readonly<Record<string, Row>>) {
    this.queue = queue;
    this.rows = new Map(Object.entries(rows));
    for (const id of this.rows.keys()) this.place(id);
  }

  get(id: string): Row | undefined {
    read(this.sourceOf(id));
    return this.rows.get(id);
  }

  sourceOf(id: string): Source {
    const source = this.sources.get(id) ?? new Source();
    this.sources.set(id, source);
    return source;
  }

  all(): readonly Row[] {
    read(this.whole);
    return (this.listed ??= [...this.rows.values()]);
  }

  placeOf = (id: string): number => this.places.get(id) ?? 0;

  /** Tells of every row that is there, and of every one that comes, changes or goes. */
  watch(tell: RowTold): void {
    this.told.push(tell);
    for (const [id, row] of this.rows) tell(id, row);
  }

  put(id: string, row: Row | undefined): void {
    if (row === undefined) this.rows.delete(id);
    else {
      if (!this.rows.has(id)) this.place(id);
      this.rows.set(id, row);
    }
    this.listed = undefined;
    const source = this.sources.get(id);
    if (source) this.queue.changed(source);
    this.queue.changed(this.whole);
    for (const tell of this.told) tell(id, row);
    if (row === undefined) this.places.delete(id);
  }

  private place(id: string): void {
    this.places.set(id, (this.nextPlace += 1));
  }
}
