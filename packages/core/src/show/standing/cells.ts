/** Something that answers are worked out of. Its level is above those of all that it was worked out of itself. */
export class Source {
  level = 0;
  /** Most have one reader: a set for each would be most of what a large show takes. */
  private readers: Cell | Set<Cell> | undefined;

  get isRead(): boolean {
    return this.readers instanceof Set ? this.readers.size > 0 : this.readers !== undefined;
  }

  addReader(cell: Cell): void {
    if (this.readers instanceof Set) this.readers.add(cell);
    else if (this.readers === undefined) this.readers = cell;
    else if (this.readers !== cell) this.readers = new Set([this.readers, cell]);
  }

  dropReader(cell: Cell): void {
    if (this.readers instanceof Set) this.readers.delete(cell);
    else if (this.readers === cell) this.readers = undefined;
  }

  eachReader(tell: (cell: Cell) => void): void {
    if (this.readers instanceof Set) this.readers.forEach(tell);
    else if (this.readers) tell(this.readers);
  }
}

/** Written as methods, so that a cell of anything is one of something. */
interface Ways<Value> {
  isSame(before: Value, now: Value): boolean;
  onChange(value: Value): void;
}

/** What a cell throws is kept like a value, and thrown at whoever asks: the rows that it missed may come yet. */
class Thrown {
  readonly reason: unknown;

  constructor(reason: unknown) {
    this.reason = reason;
  }
}

/** The cell that is being worked out: whatever is read meanwhile, it follows. */
let running: Cell | undefined;
/** Nothing is followed by anybody: for whoever only looks at what is there. */
let isLooking = false;

/** Notes that the cell which is being worked out read this. Throws an Error where there is none: it would go stale. */
export function read(source: Source): void {
  if (running) running.follow(source);
  else if (!isLooking) throw new Error('a standing show was read where nobody follows it');
}

/** The answer that is being worked out. */
export const runningCell = (): Cell | undefined => running;

/** Reads without following: what is read may be another next time. */
export function looking<Value>(look: () => Value): Value {
  const [before, was] = [running, isLooking];
  [running, isLooking] = [undefined, true];
  try {
    return look();
  } finally {
    [running, isLooking] = [before, was];
  }
}

/** Does the work of a cell: what is read meanwhile, it follows. */
function working<Value>(cell: Cell, work: () => Value): Value {
  const [outer, looked] = [running, isLooking];
  [running, isLooking] = [cell, false];
  try {
    return work();
  } finally {
    [running, isLooking] = [outer, looked];
  }
}

/**
 * One answer that is worked out again when something that it was worked out of is another, and passes that on only where
 * it is another itself.
 */
export class Cell<Value = unknown> extends Source {
  private readonly queue: Queue;
  private readonly work: () => Value;
  private readonly isSame: Ways<Value>['isSame'];
  /** What it read, as often as it did. */
  private read: Source[] = [];
  private held: { readonly value: Value | Thrown } | undefined;
  isQueued = false;
  /** Somebody outside wants it: it is kept though no cell reads it. */
  isWanted = false;
  /** Told after it became another. */
  onChange: Ways<Value>['onChange'] | undefined;
  /** Told when nobody reads it any more. */
  onDropped: (() => void) | undefined;

  constructor(queue: Queue, work: () => Value, isSame: Ways<Value>['isSame'] = Object.is) {
    super();
    this.queue = queue;
    this.work = work;
    this.isSame = isSame;
  }

  follow(source: Source): void {
    if (source === (this as Source)) throw new Error('an answer was asked for while it is worked out');
    if (this.read.at(-1) !== source) this.read.push(source);
    if (source.level >= this.level) this.level = source.level + 1;
  }

  /** The answer now. Throws what working it out threw. */
  get(): Value {
    if (!this.held || this.isQueued) this.workOut();
    read(this);
    const value = this.held?.value;
    if (value instanceof Thrown) throw value.reason;
    return value as Value;
  }

  /** The answer as it was worked out last, for whoever is told of every other one. */
  last(): Value {
    const value = this.held?.value;
    if (value instanceof Thrown) throw value.reason;
    return value as Value;
  }

  workOut(): void {
    this.isQueued = false;
    const before = this.read;
    this.read = [];
    const value = this.tried();
    this.relink(before);
    const { held } = this;
    const isKnown = held && !(held.value instanceof Thrown) && !(value instanceof Thrown);
    if (isKnown && this.isSame(held.value, value)) return;
    this.held = { value };
    if (held) this.queue.changed(this);
    if (this.isWanted) this.queue.note(this, value instanceof Thrown);
    if (!(value instanceof Thrown)) this.onChange?.(value);
  }

  get hasFailed(): boolean {
    return this.held?.value instanceof Thrown;
  }

  private tried(): Value | Thrown {
    try {
      return working(this, this.work);
    } catch (reason) {
      return new Thrown(reason);
    }
  }

  /** Does it follow nothing but these? */
  followsOnly(source: Source, ground: ReadonlySet<Source>): boolean {
    return this.read.every((one) => one === source || ground.has(one));
  }

  /** What it follows. */
  sources(): readonly Source[] {
    return this.read;
  }

  /** Ends it: it follows nothing any more. */
  end(): void {
    for (const source of this.read) this.leave(source);
    this.read = [];
    this.queue.note(this, false);
    this.held = undefined;
    this.isQueued = false;
  }

  private relink(before: readonly Source[]): void {
    const { read: now } = this;
    // mostly it reads what it read before
    if (now.length === before.length && now.every((source, at) => source === before[at])) return;
    for (const source of now) source.addReader(this);
    if (before.length === 0) return;
    const still = new Set(now);
    for (const source of before) if (!still.has(source)) this.leave(source);
  }

  private leave(source: Source): void {
    source.dropReader(this);
    if (source instanceof Cell && !source.isRead) this.queue.unread(source);
  }
}

/** Cells that wait to be worked out again, in the order of their levels: each once, after all that it follows. */
export class Queue {
  private readonly levels: Cell[][] = [];
  private readonly loose = new Set<Cell>();
  private readonly failed = new Set<Cell>();

  /** A source is another now: all that follow it wait. */
  changed(source: Source): void {
    source.eachReader((cell) => this.add(cell));
  }

  add(cell: Cell): void {
    if (cell.isQueued) return;
    cell.isQueued = true;
    (this.levels[cell.level] ??= []).push(cell);
  }

  /** Whether a wanted cell could not be worked out. */
  note(cell: Cell, hasFailed: boolean): void {
    if (hasFailed) this.failed.add(cell);
    else this.failed.delete(cell);
  }

  unread(cell: Cell): void {
    if (!cell.isWanted) this.loose.add(cell);
  }

  /**
   * Works out whatever waits, and forgets what nobody reads any more. Throws what a wanted cell threw, where that is still
   * so at the end.
   */
  settle(): void {
    for (let level = 0; level < this.levels.length; level += 1) {
      const waiting = this.levels[level];
      if (!waiting || waiting.length === 0) continue;
      this.levels[level] = [];
      for (const cell of waiting) {
        if (!cell.isQueued) continue;
        if (cell.level > level) {
          (this.levels[cell.level] ??= []).push(cell);
          continue;
        }
        cell.workOut();
      }
      // what was read anew may have put somebody further down
      const lowest = this.levels.findIndex((cells) => cells && cells.length > 0);
      if (lowest >= 0 && lowest <= level) level = lowest - 1;
    }
    this.sweep();
    for (const cell of this.failed) cell.last();
  }

  private sweep(): void {
    for (const cell of this.loose) {
      this.loose.delete(cell);
      if (cell.isRead || cell.isWanted) continue;
      cell.end();
      cell.onDropped?.();
    }
  }
}
