import { onair, show as core, type Show } from '@deep-patch/core';
import { expect, test } from 'vitest';
import { demoShow } from './index.ts';

const demo = demoShow();
const short = (show: Show) => onair.findOnAir(show).filter(({ code }) => code === 'take_delay_short');
const applied = (show: Show, change: core.Change | undefined): Show => {
  const result = change && core.applyChange(show, change);
  if (!result?.ok) throw new Error('the change was refused');
  return result.show;
};

test('measured takes ask for a delay where the order goes with the cut, until the plan is another', () => {
  const input = onair.airInputs(demo).find(({ player }) => player);
  if (!input?.player) throw new Error('no input has a player');
  const { switcher, number, player } = input;
  const slow = { at: 1, basis: onair.takeBasis(demo, input), takes: [[5, 50, 1010] as [number, number, number]] };
  const ruled = (goes: 'with_cut' | 'when_on_air') =>
    applied(demo, onair.planRule(demo, { switcherId: switcher.id, input: number, id: 'r' }, { goes, measured: slow }));

  const found = short(ruled('with_cut'));
  expect(found).toHaveLength(1);
  // begun when it is on air, no delay of the bus can help
  expect(short(ruled('when_on_air'))).toEqual([]);
  // the way out mends it
  expect(short(applied(ruled('with_cut'), found[0]?.fixes[0]?.change))).toEqual([]);
  // takes of another plan are of the past
  const other = applied(
    ruled('with_cut'),
    core.changeOf('swap', [core.updateRow('devices', player, { swaps: player.swaps + 1 })]),
  );
  expect(short(other)).toEqual([]);
});
