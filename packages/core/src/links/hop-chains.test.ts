import { expect, test } from 'vitest';
import { addressingFacts } from '../addressing/index.ts';
import { analyse } from '../analyse.ts';
import { nothingSeen, type Content } from '../show/index.ts';
import { device, link, showOf, soundRows } from '../show/sample-show.test-data.ts';
import { firstUnproven, hopChains, hopStates, linkFacts, planMustHold, registerSheets } from './index.ts';

const hop = (from: string, to: string, patch: Partial<Content<'links'>> = {}) =>
  link(to, { id: `${from}-${to}`, controllerId: from, ...patch });
const chainsOf = (...links: Content<'links'>[]) => {
  const ids = [...new Set(links.flatMap(({ controllerId, targetId }) => [controllerId, targetId]))];
  const show = showOf({ devices: ids.map((id) => device(id, 'desk')), links });
  return hopChains(show).map(({ hops }) => hops.map(({ id }) => id).join(' '));
};

test('a link leads on where its target controls the next, or where somebody said so', () => {
  expect(chainsOf(hop('a', 'b'))).toEqual([]);
  expect(chainsOf(hop('a', 'b'), hop('b', 'c'), hop('b', 'd'))).toEqual(['a-b b-c', 'a-b b-d']);
  expect(chainsOf(hop('a', 'b'), hop('x', 'y', { after: 'a-b' }))).toEqual(['a-b x-y']);
  // what follows one link by hand follows no other by itself
  expect(chainsOf(hop('a', 'b'), hop('c', 'b'), hop('b', 'd', { after: 'a-b' }))).toEqual(['a-b b-d']);
  expect(chainsOf(hop('a', 'b'), hop('b', 'c', { after: 'gone' }))).toEqual(['a-b b-c']);
});

test('a circle of links ends where it would begin again', () => {
  expect(chainsOf(hop('a', 'b'), hop('b', 'a'))).toEqual(['a-b b-a']);
  expect(chainsOf(hop('x', 'a'), hop('a', 'b'), hop('b', 'a'))).toEqual(['x-a a-b b-a']);
});

test('the first hop that is not proven is the next to test, whatever is known behind it', () => {
  const show = showOf(soundRows);
  const { depths } = analyse(show, nothingSeen, 0);
  const [one, two] = Object.values(show.links);
  if (!one || !two) throw new Error('no links');
  const depth = depths.get(one.id) ?? expect.fail('no depth');
  const chain = { id: 'x', hops: [one, two] };
  const known = (first: object, second: object) =>
    hopStates(
      chain,
      new Map([
        [one.id, { ...depth, ...first }],
        [two.id, { ...depth, ...second }],
      ]),
    );
  const proven = { measured: true, stopsAt: undefined };
  expect(known(proven, { measured: false }).map(({ state }) => state)).toEqual(['proven', 'open']);
  expect(firstUnproven(known(proven, { measured: true, stopsAt: 'port' }))?.state).toBe('stops');
  expect(firstUnproven(known({ ...proven, stale: true }, proven))?.link.id).toBe(one.id);
  expect(firstUnproven(known(proven, proven))).toBeUndefined();
});

test('a sheet holds what is keyed in by slot, and marks a slot that stands there twice', () => {
  const links = [
    link('desk', { slot: 2, label: 'Lights' }),
    link('camera', { serviceKey: 'web', slot: 2, port: 80 }),
    link('desk', { id: 'third', slot: 1 }),
  ];
  const show = showOf({ ...soundRows, links });
  const [sheet, ...more] = registerSheets(show, linkFacts(show, addressingFacts(show)));
  expect([
    more.length,
    sheet?.lines.map(({ slot, name, address, port, isDoubled }) => [slot, name, address, port, isDoubled]),
  ]).toEqual([
    0,
    [
      [1, 'desk', '10.1.0.60', 8000, false],
      [2, 'camera', '10.1.0.31', 80, true],
      [2, 'Lights', '10.1.0.60', 8000, true],
    ],
  ]);
});

test('links are marked as ones that must hold in one act, and only those that are not yet', () => {
  const show = showOf({
    ...soundRows,
    links: [link('desk', { mustHold: true }), link('camera', { serviceKey: 'web' })],
  });
  expect(planMustHold(show, ['to-desk', 'to-camera', 'gone'], true)?.edits.map(({ id }) => id)).toEqual(['to-camera']);
  expect(planMustHold(show, ['to-desk'], true)).toBeUndefined();
});
