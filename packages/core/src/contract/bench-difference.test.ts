import fc from 'fast-check';
import { expect, test } from 'vitest';
import { benchDifference, withDifference, type BenchState, type StandinState } from './index.ts';

const line = fc.record({
  at: fc.nat(5),
  from: fc.constantFrom('desk', 'panel'),
  to: fc.constant('host'),
  protocol: fc.constant('OSC'),
  text: fc.constantFrom('/go', '/stop'),
  ok: fc.boolean(),
});
const standin = fc.record({
  deviceId: fc.constantFrom('a', 'b', 'c', 'd', 'e'),
  powered: fc.boolean(),
  status: fc.constantFrom('up', 'no power'),
  heard: fc.nat(3),
}) as unknown as fc.Arbitrary<StandinState>;
const state = fc.record({
  showId: fc.constant('s'),
  rev: fc.nat(3),
  seq: fc.integer({ min: 1, max: 1000 }),
  startUps: fc.constantFrom('skipped', 'real'),
  standins: fc.uniqueArray(standin, { selector: ({ deviceId }) => deviceId }),
  heard: fc.array(line, { maxLength: 8 }),
  jacks: fc.array(fc.record({ port: fc.nat(3) }), { maxLength: 2 }),
  faults: fc.array(fc.record({ kind: fc.constant('cable') }), { maxLength: 2 }),
  rehearsal: fc.constantFrom(null, { at: 1 }),
  scan: fc.constantFrom(null, { running: true }),
  script: fc.constant(null),
  looking: fc.constantFrom(null, { deviceId: 'a' }),
  confirming: fc.constantFrom(null, { deviceId: 'b' }),
  partners: fc.constantFrom(null, { done: 1 }),
  copied: fc.constantFrom(null, { deviceId: 'b' }),
  stage: fc.constantFrom('setup', 'show'),
  pulling: fc.constantFrom(null, { done: 1 }),
  watch: fc.record({ everySeconds: fc.constantFrom(null, 15), changes: fc.array(fc.nat(2), { maxLength: 2 }) }),
}) as unknown as fc.Arbitrary<BenchState>;

test('a state and what is new in the next one give the next one, over a wire, and what stays is the same object', () => {
  let runs = 0;
  fc.assert(
    fc.property(state, state, fc.nat(8), (before, other, kept) => {
      runs += 1;
      // lines slide: some of those before stay
      const after = { ...other, heard: [...before.heard.slice(kept), ...other.heard] };
      const difference = benchDifference(before, after);
      const told = JSON.parse(JSON.stringify(difference)) as typeof difference;
      expect(withDifference(before, told)).toEqual(after);
      expect(withDifference({ ...before, seq: before.seq + 1 }, told)).toBeUndefined();
      expect(withDifference({ ...before, showId: 't' }, told)).toBeUndefined();
    }),
    { numRuns: 400 },
  );
  expect(runs).toBe(400);
});

test('where nothing changed, nothing is told and every part stays itself', () => {
  const [before] = fc.sample(state, { numRuns: 1, seed: 4 });
  if (!before) throw new Error('no state');
  const difference = benchDifference(before, {
    ...(JSON.parse(JSON.stringify(before)) as BenchState),
    seq: before.seq + 1,
  });
  expect(difference).toMatchObject({ changed: {}, standins: [], heard: { lines: [] } });
  const next = withDifference(before, difference);
  expect([next?.standins === before.standins, next?.watch === before.watch]).toEqual([true, true]);
});
