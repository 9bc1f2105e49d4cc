import { describe, expect, test } from 'vitest';
import fc from 'fast-check';
import { Cell, Queue, Source, looking, read } from './cells.ts';
import { StandingIndex, type Entries } from './standing-index.ts';

/** A figure that cells read, and that a test changes. */
class Figure extends Source {
  value: number;
  private readonly queue: Queue;

  constructor(queue: Queue, value: number) {
    super();
    this.queue = queue;
    this.value = value;
  }

  get(): number {
    read(this);
    return this.value;
  }

  set(value: number): void {
    this.value = value;
    this.queue.changed(this);
  }
}

const wanted = <Value>(cell: Cell<Value>): Cell<Value> => {
  cell.isWanted = true;
  cell.workOut();
  return cell;
};

describe('answers that follow what they read', () => {
  test('each once a change, after all that it follows, and only where something became another', () => {
    const queue = new Queue();
    const figure = new Figure(queue, 1);
    const worked: string[] = [];
    const half = new Cell(queue, () => (worked.push('half'), Math.floor(figure.get() / 2)));
    const plus = new Cell(queue, () => (worked.push('plus'), half.get() + 1));
    // reads the deepest first, and the figure itself
    const sum = wanted(new Cell(queue, () => (worked.push('sum'), plus.get() + half.get() + figure.get())));
    expect([sum.last(), worked.splice(0)]).toEqual([2, ['sum', 'plus', 'half']]);
    figure.set(5);
    queue.settle();
    expect([sum.last(), worked.splice(0)]).toEqual([10, ['half', 'plus', 'sum']]);
    // 4 halves to 2 as 5 does: what only reads that is left alone
    figure.set(4);
    queue.settle();
    expect([sum.last(), worked.splice(0)]).toEqual([9, ['half', 'sum']]);
  });

  test('what nobody reads any more is forgotten, and worked out anew for the next who asks', () => {
    const queue = new Queue();
    const figure = new Figure(queue, 1);
    let times = 0;
    const own = new Cell(queue, () => {
      times += 1;
      return figure.get() * 10;
    });
    const dropped: string[] = [];
    own.onDropped = () => dropped.push('own');
    const chooses = wanted(new Cell(queue, () => (figure.get() < 3 ? own.get() : 0)));
    figure.set(3);
    queue.settle();
    expect([chooses.last(), dropped, times]).toEqual([0, ['own'], 2]);
    figure.set(4);
    queue.settle();
    expect(times).toBe(2);
    figure.set(2);
    queue.settle();
    expect([chooses.last(), times]).toEqual([20, 3]);
  });

  test('what throws is kept for whoever asks, told where it is wanted, and over when it is', () => {
    const queue = new Queue();
    const figure = new Figure(queue, 1);
    const strict = new Cell(queue, () => {
      if (figure.get() === 2) throw new Error('no two');
      return figure.value;
    });
    const asks = wanted(new Cell(queue, () => strict.get() + 1));
    figure.set(2);
    expect(() => queue.settle()).toThrow('no two');
    figure.set(3);
    queue.settle();
    expect(asks.last()).toBe(4);
  });

  test('what would go stale cannot be read: only who looks, or follows', () => {
    const figure = new Figure(new Queue(), 7);
    expect(() => figure.get()).toThrow('nobody follows');
    expect(looking(() => figure.get())).toBe(7);
  });
});

test('an index holds what a grouping of all rows would, in the order of the rows, whatever came, changed and went', () => {
  const step = fc.record({ row: fc.nat(7), keys: fc.array(fc.constantFrom('a', 'b', 'c'), { maxLength: 3 }) });
  let cases = 0;
  fc.assert(
    fc.property(fc.array(step, { maxLength: 30 }), fc.integer({ min: 1, max: 3 }), (steps, atLeast) => {
      cases += 1;
      const index = new StandingIndex<string, string>(new Queue(), (id) => Number(id));
      const rows = new Map<number, Entries<string, string>>();
      const crowded = new Set<string>();
      index.watch((key, isThere) => void (isThere ? crowded.add(key) : crowded.delete(key)), atLeast);
      for (const { row, keys } of steps) {
        const entries = keys.map((key, at): [string, string] => [key, `${row}${key}${at}`]);
        rows.set(row, entries);
        index.put(String(row), entries, 0);
      }
      const all = [...rows].sort(([a], [b]) => a - b).flatMap(([, entries]) => entries);
      const expected = new Map<string, string[]>();
      for (const [key, item] of all) expected.set(key, [...(expected.get(key) ?? []), item]);
      looking(() => {
        expect(new Map(index)).toEqual(expected);
        expect(index.size).toBe(expected.size);
        expect(new Map(index.firsts())).toEqual(new Map([...expected].map(([key, [first]]) => [key, first])));
      });
      expect(crowded).toEqual(new Set([...expected].filter(([, own]) => own.length >= atLeast).map(([key]) => key)));
    }),
  );
  expect(cases).toBe(100);
});
