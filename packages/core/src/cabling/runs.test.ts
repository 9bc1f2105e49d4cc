import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { applyChange, rowsOf, type Show } from '../show/index.ts';
import { device, showOf, soundRows, types, typeWith } from '../show/sample-show.test-data.ts';
import { addressingFacts } from '../addressing/index.ts';
import {
  cablingFacts,
  chainsOf,
  findCabling,
  joinRuns,
  pictureOf,
  planRuns,
  readRuns,
  runFields,
  runWords,
  type RunPlan,
  type WrittenRun,
} from './index.ts';

const amp = typeWith('amp', {
  name: 'Amp',
  kind: 'amplifier',
  factory: { mode: 'self', ip: null, prefix: null },
  chain: { most: 3, delayMs: 0.25 },
  sockets: ['in', 'out'].map((key) => ({ key, label: `${key}put`, adapter: 'lan' })),
});
const amps = ['a', 'b', 'c', 'd'].map((id) => device(id, 'amp', { name: `Amp ${id}` }));
const bare = { ...soundRows, types: [...types, amp], cables: [] };
const show = showOf({ ...bare, devices: [...soundRows.devices, device('hub-2', 'switch'), ...amps] });
const written = (patch: Partial<WrittenRun>, line = 1): WrittenRun => ({
  ...{ line, from: '', fromSocket: '', to: '', toSocket: '', medium: '', length: '', stage: '' },
  ...patch,
});
const faultsOf = (plan: RunPlan) => (plan.ok ? [] : plan.faults.map(({ line, field }) => `${line} ${field}`));
function after(before: Show, plan: RunPlan): Show {
  if (!plan.ok) throw new Error(JSON.stringify(plan.faults));
  if (!plan.change) return before;
  const applied = applyChange(before, plan.change);
  if (!applied.ok) throw new Error('not applied');
  return applied.show;
}
const wordsOf = (of: Show) => rowsOf(of, 'cables').map((cable) => runWords(of, cable));

describe('runs that are written down', () => {
  test('part of a name, a number for a socket, nothing where the first free one will do', () => {
    const plan = planRuns(show, [
      written({ from: 'DESK', to: 'hub-2', toSocket: '3', length: '12,5 m' }),
      written({ from: 'cam', to: 'hub-2', medium: 'Fiber' }, 2),
      written({ from: 'hub', to: 'hub-2' }, 3),
    ]);
    const shown = after(show, plan);
    expect(wordsOf(shown)).toEqual(['desk port 1 to hub-2 p3', 'camera port 1 to hub-2 p1', 'hub p1 to hub-2 p2']);
    expect(rowsOf(shown, 'cables').map(({ medium, lengthM }) => [medium, lengthM])).toEqual([
      ['copper', 12.5],
      ['fibre', null],
      ['copper', null],
    ]);
  });

  test('every fault of every line is told at once, and nothing is done', () => {
    const plan = planRuns(show, [
      written({ from: 'desk', to: 'hub', toSocket: 'p1' }),
      written({ from: 'nobody', to: '', medium: 'string', length: 'long' }, 2),
      written({ from: 'camera', to: 'hub', toSocket: 'p1' }, 3),
      written({ from: 'hub', fromSocket: 'p5', to: 'hub', toSocket: 'p5' }, 4),
      written({ from: 'Amp', to: 'hub' }, 5),
      written({ from: 'host', fromSocket: 'port 7', to: 'hub' }, 6),
      written({ from: 'desk', to: 'hub-2' }, 7),
      written({ from: 'host', to: 'hub', length: '100001' }, 8),
    ]);
    expect(faultsOf(plan)).toEqual([
      '2 from',
      '2 to',
      '2 length',
      '2 medium',
      '3 toSocket',
      '4 toSocket',
      '5 from',
      '6 fromSocket',
      '7 fromSocket',
      '8 length',
    ]);
    const told = plan.ok ? [] : plan.faults.map(({ message }) => message);
    expect(told[4]).toBe('hub p1 has the run to desk on line 1: take another socket, or unplug that');
    expect(told[6]).toBe('Amp a, Amp b, Amp c or 1 more could be meant: write the whole name');
    expect(told[7]).toBe('host has port 1');
  });

  test('what comes out of one socket has to go into the other one', () => {
    const picture = typeWith('picture', {
      name: 'Picture',
      kind: 'camera',
      factory: { mode: 'none', ip: null, prefix: null },
      adapters: [],
      sockets: [{ key: 'sdi', label: 'out', adapter: null, connector: 'sdi' }],
    });
    const with2 = showOf({
      ...bare,
      types: [...bare.types, picture],
      devices: [...bare.devices, device('eye', 'picture')],
    });
    expect(faultsOf(planRuns(with2, [written({ from: 'eye', to: 'hub' })]))).toEqual(['1 fromSocket']);
    expect(faultsOf(planRuns(with2, [written({ from: 'eye', fromSocket: 'out', to: 'hub', toSocket: 'p1' })]))).toEqual(
      ['1 toSocket'],
    );
  });

  test('a run that is written anew keeps its socket free for itself, and moves in one act', () => {
    const first = after(show, planRuns(show, [written({ from: 'desk', to: 'hub', toSocket: 'p4', length: '9' })]));
    const [cable] = rowsOf(first, 'cables');
    const anew = { cableId: cable?.id ?? '', from: 'desk', fromSocket: 'port 1', length: '9' };
    expect(planRuns(first, [written({ ...anew, to: 'hub', toSocket: 'p4' })])).toMatchObject({ change: undefined });
    const moved = after(first, planRuns(first, [written({ ...anew, to: 'hub-2', toSocket: 'p8' })]));
    expect(rowsOf(moved, 'cables')).toMatchObject([{ id: cable?.id, toDevice: 'hub-2', toSocket: 'p-8', lengthM: 9 }]);
  });
});

describe('several in one act', () => {
  const ids = ['a', 'b', 'c', 'd'];

  test('a star from a socket on, a chain, and a ring that closes', () => {
    const star = after(show, planRuns(show, joinRuns(show, ids, { how: 'star', hubId: 'hub', firstSocket: 'p-5' })));
    expect(wordsOf(star)).toEqual([5, 6, 7, 8].map((n, at) => `Amp ${ids[at]} input to hub p${n}`));
    const chain = after(show, planRuns(show, joinRuns(show, ids, { how: 'chain', closes: false })));
    expect(wordsOf(chain)).toEqual([
      'Amp a input to Amp b input',
      'Amp b output to Amp c input',
      'Amp c output to Amp d input',
    ]);
    const ring = after(show, planRuns(show, joinRuns(show, ids, { how: 'chain', closes: true })));
    expect(wordsOf(ring).at(-1)).toBe('Amp d output to Amp a output');
  });

  test('a chain is as deep as its last unit, from the switch on; one more than its type allows is told', () => {
    const codes = (of: Show) =>
      findCabling(of, cablingFacts(of), addressingFacts(of)).flatMap(({ code, facts }) =>
        code === 'chain_too_deep' ? [[facts['name'], facts['depth'], facts['delayMs']]] : [],
      );
    const chained = (units: readonly string[], closes = false) =>
      after(show, planRuns(show, joinRuns(show, units, { how: 'chain', closes })));
    const one = chained(['hub', 'a', 'b', 'c']);
    expect([chainsOf(one).map(({ worst, depth }) => [worst.name, depth]), codes(one)]).toEqual([[['Amp c', 3]], []]);
    expect(codes(chained(['hub', 'a', 'b', 'c', 'd']))).toEqual([['Amp d', 4, 0.75]]);
    // each is a bead with its place in the picture; one that hangs at the switch by itself is none
    const beads = (of: Show) =>
      pictureOf(of, cablingFacts(of), addressingFacts(of)).units.flatMap(({ id, inChain }) =>
        inChain === null ? [] : [[id, inChain]],
      );
    expect(beads(one)).toEqual([
      ['a', 1],
      ['b', 2],
      ['c', 3],
    ]);
    expect(beads(chained(['hub', 'a']))).toEqual([]);
    // from both sides of a ring through the switch two are the most
    expect(chainsOf(chained(['hub', 'a', 'b', 'c', 'd'], true)).map(({ depth }) => depth)).toEqual([2]);
    // nothing begins it: it counts from its ends, and alone there is no chain to speak of
    expect(chainsOf(chained(['a', 'b', 'c', 'd'])).map(({ depth }) => depth)).toEqual([2]);
    expect(chainsOf(show)).toEqual([]);
  });

  test('too few sockets, or a unit in a chain twice: refused, with the units that have none', () => {
    const few = joinRuns(show, ids, { how: 'star', hubId: 'hub', firstSocket: 'p-7' });
    const twice = joinRuns(show, ['a', 'b', 'a', 'c'], { how: 'chain', closes: false });
    const third = planRuns(show, joinRuns(show, ids, { how: 'chain', closes: true }));
    const shut = after(show, third);
    expect(faultsOf(planRuns(shut, joinRuns(shut, ids, { how: 'star', hubId: 'hub', firstSocket: '' })))).toHaveLength(
      4,
    );
    expect(faultsOf(planRuns(show, few))).toEqual([]);
    expect(faultsOf(planRuns(show, twice))).toEqual(['3 fromSocket']);
  });
});

test('a list is read by its headings in whatever order, or by the order of the table, and blank lines count', () => {
  let runs = 0;
  const text = fc.stringMatching(/^[a-z0-9]{1,8}$/);
  const row = fc.record(Object.fromEntries(runFields.map((field) => [field, text])));
  const headings = {
    from: 'From',
    fromSocket: 'From port',
    to: 'To',
    toSocket: 'to-socket',
    medium: 'KIND',
    length: 'Length (m)',
    stage: 'When',
  };
  fc.assert(
    fc.property(
      fc.array(row, { minLength: 1, maxLength: 6 }),
      fc.shuffledSubarray([...runFields], { minLength: runFields.length }),
      fc.boolean(),
      fc.nat(2),
      (rows, order, isHeaded, blanks) => {
        runs += 1;
        const columns = isHeaded ? order : runFields;
        const head = isHeaded ? [['Runs of the day'], columns.map((field) => headings[field])] : [];
        const cells = [
          ...Array.from({ length: isHeaded ? 0 : blanks }, () => ['']),
          ...head,
          ...rows.map((one) => columns.map((field) => one[field] ?? '')),
        ];
        const before = cells.length - rows.length;
        expect(readRuns(cells)).toEqual(rows.map((one, at) => ({ line: before + at + 1, ...one })));
      },
    ),
    { numRuns: 200 },
  );
  expect(runs).toBe(200);
  const twoSockets = readRuns([
    ['From', 'Socket', 'To', 'Socket'],
    ['a', '1', 'b', '2'],
  ]);
  expect(twoSockets).toMatchObject([{ line: 2, fromSocket: '1', toSocket: '2' }]);
});
