import { isAlike } from '../is-alike.ts';
import { Cell, Source, read, type Queue } from './cells.ts';

/** What one row stands under, and as what. */
export type Entries<Key, Item> = readonly (readonly [Key, Item])[];

interface Group<Item> {
  readonly source: Source;
  /** In the order of the rows, each with its place there. */
  readonly members: { readonly at: number; readonly rowId: string; readonly item: Item }[];
  items: readonly Item[] | undefined;
}

/** Told which keys came and went. */
export type KeysChanged<Key> = (key: Key, isThere: boolean) => void;

type Holding<Item> = readonly { readonly item: Item }[];

/** Counts what the groups of an index hold, for whoever wants to know which hold enough. */
class Watcher<Key, Item> {
  private readonly tell: KeysChanged<Key>;
  private readonly atLeast: number;
  private readonly sayOf: ((item: Item) => unknown) | undefined;
  /** How often each thing is said, or one count for all where nobody asks what is said. */
  private readonly counts = new Map<Key, Map<unknown, number>>();

  constructor(tell: KeysChanged<Key>, atLeast: number, sayOf: ((item: Item) => unknown) | undefined) {
    this.tell = tell;
    this.atLeast = atLeast;
    this.sayOf = sayOf;
  }

  heed(key: Key, gone: Holding<Item>, come: Holding<Item>): void {
    const counts = this.counts.get(key) ?? new Map<unknown, number>();
    const before = this.sizeOf(counts);
    for (const { item } of gone) this.count(counts, item, -1);
    for (const { item } of come) this.count(counts, item, 1);
    const now = this.sizeOf(counts);
    if (counts.size > 0) this.counts.set(key, counts);
    else this.counts.delete(key);
    if (before >= this.atLeast !== now >= this.atLeast) this.tell(key, now >= this.atLeast);
  }

  private sizeOf(counts: ReadonlyMap<unknown, number>): number {
    return this.sayOf ? counts.size : (counts.get(undefined) ?? 0);
  }

  private count(counts: Map<unknown, number>, item: Item, by: 1 | -1): void {
    const says = this.sayOf?.(item);
    const now = (counts.get(says) ?? 0) + by;
    if (now > 0) counts.set(says, now);
    else counts.delete(says);
  }
}

/** What rows stand under by keys of theirs, kept up to date group by group: whoever reads one group follows that one only. */
export class StandingIndex<Key, Item> implements ReadonlyMap<Key, readonly Item[]> {
  private readonly queue: Queue;
  readonly placeOf: (rowId: string) => number;
  private readonly groups = new Map<Key, Group<Item>>();
  private readonly entries_ = new Map<string, Entries<Key, Item>>();
  private readonly whole = new Source();
  private readonly watchers: Watcher<Key, Item>[] = [];
  private readonly feeds: ((rowId: string, items: readonly Item[], level: number) => void)[] = [];
  private readonly filled = new Set<Key>();

  constructor(queue: Queue, placeOf: (rowId: string) => number) {
    this.queue = queue;
    this.placeOf = placeOf;
  }

  /** What a row stands under from now on; `level` is that of what it was worked out of. */
  put(rowId: string, entries: Entries<Key, Item>, level: number): void {
    const before = this.entries_.get(rowId) ?? [];
    if (entries.length > 0) this.entries_.set(rowId, entries);
    else this.entries_.delete(rowId);
    const keys = changedKeys(before, entries);
    if (keys.size > 0)
      for (const feed of this.feeds)
        feed(
          rowId,
          entries.map(([, item]) => item),
          level,
        );
    const stood = new Set(before.map(([key]) => key));
    for (const key of keys) this.putGroup(key, rowId, { entries, level, stood: stood.has(key) });
    if (keys.size === 0) return;
    this.whole.level = Math.max(this.whole.level, level + 1);
    this.queue.changed(this.whole);
  }

  /**
   * Tells which keys come to hold so many items from now on, or so many that say something else, and which do no longer;
   * first of those that do.
   */
  watch(tell: KeysChanged<Key>, atLeast = 1, sayOf?: (item: Item) => unknown): void {
    const watcher = new Watcher<Key, Item>(tell, atLeast, sayOf);
    this.watchers.push(watcher);
    for (const [key, { members }] of this.groups) watcher.heed(key, [], members);
  }

  /** Tells what stands in it of each row. */
  feed(tell: (rowId: string, items: readonly Item[], level: number) => void): void {
    this.feeds.push(tell);
    for (const [rowId, entries] of this.entries_)
      tell(
        rowId,
        entries.map(([, item]) => item),
        this.whole.level,
      );
  }

  /** The first item of each key, in the order of their rows. */
  *firsts(): MapIterator<[Key, Item]> {
    read(this.whole);
    const filled = [...this.filled].flatMap((key) => {
      const [first] = this.groupOf(key).members;
      return first ? [{ key, ...first }] : [];
    });
    for (const { key, item } of filled.sort((a, b) => a.at - b.at)) yield [key, item];
  }

  get(key: Key): readonly Item[] | undefined {
    const group = this.groupOf(key);
    read(group.source);
    return group.members.length > 0 ? itemsOf(group) : undefined;
  }

  has(key: Key): boolean {
    return this.get(key) !== undefined;
  }

  get size(): number {
    read(this.whole);
    return this.filled.size;
  }

  /** In the order of the first row of each. */
  *entries(): MapIterator<[Key, readonly Item[]]> {
    read(this.whole);
    const filled = [...this.filled].map((key) => [key, this.groupOf(key)] as const);
    filled.sort(([, a], [, b]) => (a.members[0]?.at ?? 0) - (b.members[0]?.at ?? 0));
    for (const [key, group] of filled) yield [key, itemsOf(group)];
  }

  *keys(): MapIterator<Key> {
    for (const [key] of this.entries()) yield key;
  }

  *values(): MapIterator<readonly Item[]> {
    for (const [, items] of this.entries()) yield items;
  }

  [Symbol.iterator](): MapIterator<[Key, readonly Item[]]> {
    return this.entries();
  }

  forEach(tell: (items: readonly Item[], key: Key, map: ReadonlyMap<Key, readonly Item[]>) => void): void {
    for (const [key, items] of this.entries()) tell(items, key, this);
  }

  private groupOf(key: Key): Group<Item> {
    const known = this.groups.get(key) ?? { source: new Source(), members: [], items: undefined };
    known.source.level = Math.max(known.source.level, this.whole.level);
    this.groups.set(key, known);
    return known;
  }

  private putGroup(
    key: Key,
    rowId: string,
    { entries, level, stood }: { entries: Entries<Key, Item>; level: number; stood: boolean },
  ): void {
    const group = this.groupOf(key);
    const at = this.placeOf(rowId);
    const own = entries.filter(([other]) => other === key).map(([, item]) => ({ at, rowId, item }));
    const { members } = group;
    const place = placeIn(members, at);
    let gone = 0;
    while (stood && members[place + gone]?.rowId === rowId) gone += 1;
    const old = members.splice(place, gone, ...own);
    group.items = undefined;
    group.source.level = Math.max(group.source.level, level + 1);
    this.queue.changed(group.source);
    if (members.length > 0) this.filled.add(key);
    else this.filled.delete(key);
    for (const watcher of this.watchers) watcher.heed(key, old, own);
    if (members.length === 0 && !group.source.isRead) this.groups.delete(key);
  }
}

/** Where a row stands among members in the order of their rows. */
function placeIn(members: readonly { readonly at: number }[], at: number): number {
  let [low, high] = [0, members.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if ((members[middle]?.at ?? 0) < at) low = middle + 1;
    else high = middle;
  }
  return low;
}

const itemsOf = <Item>(group: Group<Item>): readonly Item[] => (group.items ??= group.members.map(({ item }) => item));

/** Keys under which a row stands as something else than before. */
function changedKeys<Key, Item>(before: Entries<Key, Item>, now: Entries<Key, Item>): ReadonlySet<Key> {
  if (before.length === 0 || now.length === 0) return new Set([...before, ...now].map(([key]) => key));
  const [old, fresh] = [byKey(before), byKey(now)];
  return new Set([...old.keys(), ...fresh.keys()].filter((key) => !isAlike(old.get(key), fresh.get(key))));
}

function byKey<Key, Item>(entries: Entries<Key, Item>): ReadonlyMap<Key, readonly Item[]> {
  const items = new Map<Key, Item[]>();
  for (const [key, item] of entries) items.set(key, [...(items.get(key) ?? []), item]);
  return items;
}

/** Equal where every key is, and every item says the same. */
export const sameEntries = <Key, Item>(before: Entries<Key, Item>, now: Entries<Key, Item>): boolean =>
  before.length === now.length &&
  before.every(([key, item], at) => {
    const other = now[at];
    return other !== undefined && Object.is(other[0], key) && isAlike(other[1], item);
  });

/** A cell that puts what it works out for one row into an index. */
export function indexing<Key, Item>(
  queue: Queue,
  index: StandingIndex<Key, Item>,
  rowId: string,
  work: () => Entries<Key, Item>,
): Cell<Entries<Key, Item>> {
  const cell = new Cell(queue, work, sameEntries);
  cell.isWanted = true;
  cell.onChange = (entries) => index.put(rowId, entries, cell.level);
  return cell;
}
