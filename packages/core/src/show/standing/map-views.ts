import { StandingIndex } from './standing-index.ts';

/** The first item of each group, as a map of its own. */
export class FirstOfEach<Key, Item> implements ReadonlyMap<Key, Item> {
  private readonly groups: ReadonlyMap<Key, readonly Item[]>;

  constructor(groups: ReadonlyMap<Key, readonly Item[]>) {
    this.groups = groups;
  }

  get size(): number {
    return this.groups.size;
  }

  get(key: Key): Item | undefined {
    return this.groups.get(key)?.[0];
  }

  has(key: Key): boolean {
    return this.groups.has(key);
  }

  *entries(): MapIterator<[Key, Item]> {
    if (this.groups instanceof StandingIndex) {
      yield* (this.groups as StandingIndex<Key, Item>).firsts();
      return;
    }
    for (const [key, [first]] of this.groups) if (first !== undefined) yield [key, first];
  }

  keys(): MapIterator<Key> {
    return this.groups.keys();
  }

  *values(): MapIterator<Item> {
    for (const [, item] of this.entries()) yield item;
  }

  [Symbol.iterator](): MapIterator<[Key, Item]> {
    return this.entries();
  }

  forEach(tell: (item: Item, key: Key, map: ReadonlyMap<Key, Item>) => void): void {
    for (const [key, item] of this.entries()) tell(item, key, this);
  }
}
