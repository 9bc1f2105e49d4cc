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

test('takes depend on every run that the order takes, and on no other', () => {
  const own = core
    .rowsOf(demo, 'cables')
    .find(({ fromDevice, toDevice }) => fromDevice === 'deck-a' && toDevice !== 'switcher');
  if (!own) throw new Error('Playout A has no network');
  // Playout A behind another switch: between the two is a run that is plugged into neither switcher nor player
  const far = applied(
    demo,
    core.changeOf('move', [core.updateRow('cables', own, { toDevice: 'switch-marquee', toSocket: 'p-7' })]),
  );
  const basisWith = (cable: core.Cable): string => {
    const show = applied(far, core.changeOf('delay', [core.updateRow('cables', cable, { delayMs: 40 })]));
    return onair.takeBasis(show, onair.airInputs(show).find(({ number }) => number === 5) ?? expect.fail('no input'));
  };
  const known = onair.takeBasis(
    far,
    onair.airInputs(far).find(({ number }) => number === 5) ?? expect.fail('no input'),
  );
  const moved = core.rowsOf(far, 'cables').filter((cable) => basisWith(cable) !== known);
  const ends = moved.map(({ fromDevice, toDevice }) => [fromDevice, toDevice].sort().join(' ')).sort();
  expect(ends).toEqual(['deck-a switch-marquee', 'switch-marquee switch-quay', 'switch-quay switcher']);
});

test('takes depend on who plays and how: another box, another port, another time that it needs', () => {
  const input = onair.airInputs(demo).find(({ player }) => player);
  if (!input?.player || !input.link) throw new Error('no input has a player');
  const { player, link } = input;
  const type = demo.types[player.typeId] ?? expect.fail('no type');
  const plays = type.plays ?? expect.fail('it does not play');
  const patched = (patch: Partial<NonNullable<typeof type.plays>>): Show => ({
    ...demo,
    types: { ...demo.types, [type.id]: { ...type, plays: { ...plays, ...patch } } },
  });
  const bases = [
    onair.takeBasis(demo, input),
    onair.takeBasis(demo, { ...input, player: { ...player, swaps: player.swaps + 1 } }),
    onair.takeBasis(demo, { ...input, link: { ...link, port: link.port + 1 } }),
    onair.takeBasis(patched({ startMs: plays.startMs + 1 }), input),
    onair.takeBasis(patched({ jitterMs: plays.jitterMs + 1 }), input),
  ];
  expect(new Set(bases).size).toBe(bases.length);
  expect(onair.takeBasis(patched({ codecs: ['AV1'] }), { ...input, label: 'Other' } as typeof input)).toBe(bases[0]);
});

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
