import { show as core, wall as walls, type Show } from '@deep-patch/core';
import { expect, test } from 'vitest';
import { demoShow } from '../index.ts';
import { expectItGoesOn, numberFrom, randomRig, rotatingSeed, withWalls } from './index.test-data.ts';

const seed = rotatingSeed();
const rigs = numberFrom('WALL_RIGS', 80);
const rigAt = (at: number): Show => withWalls(randomRig(seed + at).show, seed + at);
const said = (value: unknown): string => JSON.stringify(value) ?? '';

test(`walls of ${rigs} random rigs are as the schema wants them, and vary every field that they have`, () => {
  const seen = new Map<string, Set<string>>();
  const see = (key: string, value: unknown) => seen.set(key, (seen.get(key) ?? new Set()).add(said(value)));
  for (let at = 0; at < rigs; at += 1) {
    const show = rigAt(at);
    for (const row of core.rowsOf(show, 'walls')) {
      expect([seed + at, core.schemas.walls.safeParse(core.contentOf(row)).error?.issues]).toEqual([
        seed + at,
        undefined,
      ]);
      for (const [field, value] of Object.entries(row)) see(field, value);
    }
    for (const field of ['panel', 'drivesWall'] as const)
      for (const type of core.rowsOf(show, 'types')) see(`types.${field}`, type[field]);
  }
  const fields = [...Object.keys(core.schemas.walls.shape), 'types.panel', 'types.drivesWall'];
  expect([fields.length > 20, fields.filter((field) => (seen.get(field)?.size ?? 0) < 2)]).toEqual([true, []]);
});

const fed = ['wall_sender_is_card', 'wall_card_other', 'wall_managed_afar', 'wall_output_other', 'wall_output_off'];

test('every way out that is offered for a wall mends what it is offered for', () => {
  const offered = new Map<string, number>();
  for (let at = 0; at < rigs; at += 1) {
    const show = rigAt(at);
    for (const found of walls.findWalls(show))
      for (const { change, label } of found.fixes) {
        const applied = core.applyChange(show, change);
        const isLeft = applied.ok && walls.findWalls(applied.show).some(({ key }) => key === found.key);
        expect([seed + at, found.key, label, applied.ok, isLeft]).toEqual([seed + at, found.key, label, true, false]);
        offered.set(found.code, (offered.get(found.code) ?? 0) + 1);
      }
  }
  for (const code of ['wall_panels_missed', 'wall_string_differs', 'wall_program_differs', 'wall_loop_off', ...fed])
    expect([code, (offered.get(code) ?? 0) > 0]).toEqual([code, true]);
});

test('whatever is entered, a wall is painted without a fault, and is as sent only where nothing is wrong', () => {
  let [painted, right] = [0, 0];
  for (let at = 0; at < rigs; at += 1)
    for (const { wall, panel } of walls.knownWalls(rigAt(at))) {
      const sent = walls.testPicture('grid', wall, panel);
      const state = walls.enteredState(wall, panel);
      const { data } = walls.seen(state, sent);
      painted += 1;
      if (!walls.isAsSent(state)) continue;
      right += 1;
      for (const part of wall.parts)
        for (const [column, row] of walls.panelsIn(wall, part)) {
          const from = (row * panel.height * state.width + column * panel.width) * 4;
          expect([seed + at, data[from]]).toEqual([seed + at, sent.data[from]]);
        }
    }
  expect([painted > rigs, right < painted]).toEqual([true, true]);
});

test('the analysis that goes on after edits of walls is that of the whole show', { timeout: 120_000 }, () => {
  const { edits, kinds } = expectItGoesOn(rigAt, { seed, least: rigs * 4, rooms: ['wall'] });
  expect([edits >= rigs * 4, kinds.some((kind) => kind.startsWith('walls '))]).toEqual([true, true]);
});

test('on the wall of the demo every single and every pair of wrong settings is found, with at most one question too many', () => {
  const [own] = walls.knownWalls(demoShow());
  if (!own) throw new Error('the demo has no wall');
  const guesses = walls.guessesOf(own);
  const asked = guesses.map((truth) => {
    const answers: walls.Answered[] = [];
    for (;;) {
      const still = walls.left(guesses, answers);
      const test = walls.nextTest(
        still,
        answers.map((one) => one.test),
      );
      if (!test) {
        expect(still).toEqual([truth]);
        return answers.length;
      }
      answers.push({ test, answer: truth.answers[test] });
    }
  });
  const bits = walls.traceTests.map((test) =>
    walls.bitsOf([...walls.answersTo(test, guesses).values()].map(({ length }) => length)),
  );
  // no sequence of tests has fewer on average: each tells so many bits at most
  const least = Math.log2(guesses.length) / Math.max(...bits);
  const average = asked.reduce((sum, count) => sum + count, 0) / asked.length;
  expect([guesses.length > 250, average <= least + 1]).toEqual([true, true]);
});
