import {
  StandingAnalysis,
  analyse,
  show as core,
  type AnalysisParts,
  type RowChange,
  type Show,
} from '@deep-patch/core';
import { casesOf } from '@deep-patch/core/cases';
import { expect, test } from 'vitest';
import { demoShow } from '../index.ts';
import { diceOf, numberFrom, randomEdit, randomRig, rotatingSeed } from './index.test-data.ts';

const rowsOf = (change: core.Change, rev: number): RowChange[] =>
  change.edits.map(({ table, id, after }) => ({ table, id, row: after && { ...after, rev } }));

/** In whatever order equal ones stand. */
const findingsOf = ({ findings }: Pick<AnalysisParts, 'findings'>): string[] =>
  findings.map((finding) => JSON.stringify(finding)).sort();

function expectAlike(standing: AnalysisParts, show: Show, context: string): void {
  const whole = analyse(show, core.nothingSeen, 0);
  const linksOf = ({ soundings, depths }: AnalysisParts) =>
    [...soundings].map(([id, sounding]) => JSON.stringify([id, sounding, depths.get(id)])).sort();
  expect([context, findingsOf(standing)]).toEqual([context, findingsOf(whole)]);
  expect([context, linksOf(standing)]).toEqual([context, linksOf(whole)]);
}

const seed = rotatingSeed();
const many = numberFrom('EDITS', casesOf(900));

test(
  `${many} random edits: the analysis that goes on from the one before is that of the whole show`,
  { timeout: 60_000 + many * 60 },
  () => {
    let edits = 0;
    const fields = new Set<string>();
    for (let rig = 0; edits < many; rig += 1) {
      const dice = diceOf(seed + rig);
      let show = rig % 8 === 0 ? demoShow() : randomRig(seed + rig).show;
      const standing = new StandingAnalysis(show, core.nothingSeen, 0);
      expectAlike(standing.parts(), show, `RIG_SEED=${seed}, rig ${rig}, as it was made`);
      for (let at = 0; at < 24 && edits < many; at += 1) {
        const change = randomEdit(show, dice);
        if (!change) continue;
        edits += 1;
        fields.add(change.label);
        show = core.written(show, change, show.rev + 1);
        const now = standing.advance(rowsOf(change, show.rev), show.rev, core.nothingSeen, 0);
        expectAlike(now, show, `RIG_SEED=${seed}, rig ${rig}, edit ${at}: ${change.label}`);
      }
    }
    expect([edits, fields.size > Math.min(60, many / 12)]).toEqual([many, true]);
  },
);

test('what is seen and the day of today are followed too', () => {
  const show = demoShow();
  const day = 86_400_000;
  const [begin, later] = [Date.UTC(2026, 10, 1), Date.UTC(2026, 10, 1) + 200 * day];
  const standing = new StandingAnalysis(show, core.nothingSeen, begin);
  const [linkId = ''] = Object.keys(show.links);
  const sounding: core.MeasuredSounding = {
    ...{ linkId, source: 'bench', at: begin, rev: show.rev, basis: 'of another plan' },
    layers: [],
    rttMs: null,
  };
  const seen = { ...core.nothingSeen, soundings: { [linkId]: sounding } };
  expect(standing.parts().depths.get(linkId)?.stale).toBe(false);
  const now = standing.advance([], show.rev, seen, later);
  expect([now.depths.get(linkId)?.stale, findingsOf(now)]).toEqual([true, findingsOf(analyse(show, seen, later))]);
});

test('of what an edit does not touch, every part stays the same object', () => {
  const show = demoShow();
  const standing = new StandingAnalysis(show, core.nothingSeen, 0);
  const before = standing.parts();
  const [device] = core.rowsOf(show, 'devices');
  const change = device && core.changeOf('note', [core.updateRow('devices', device, { note: 'Spare in the truck' })]);
  const after = standing.advance(change ? rowsOf(change, show.rev + 1) : [], show.rev + 1, core.nothingSeen, 0);
  expect(after.rev).toBe(show.rev + 1);
  expect([...after.soundings].filter(([id, sounding]) => before.soundings.get(id) !== sounding)).toEqual([]);
  expect([after.depths, after.found]).toEqual([before.depths, before.found]);
});
