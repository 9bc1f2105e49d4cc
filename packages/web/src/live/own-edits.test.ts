import { show as core } from '@deep-patch/core';
import { expect, test } from 'vitest';
import { OwnEdits } from './own-edits.ts';

const hop = (patch: Partial<core.Content<'timeHops'>> = {}, rev = 1): core.TimeHop => ({
  ...core.contentWith('timeHops', { id: 'h', fromId: 'a', toId: 'b', format: 'linear', ...patch }),
  rev,
});
const typed = (row: core.TimeHop, patch: Partial<core.Content<'timeHops'>>) => {
  const change = core.changeOf('typed', [core.updateRow('timeHops', row, patch)]);
  if (!change) throw new Error('it changes nothing');
  return change;
};

test('what is typed next is put on top of what this tab saved meanwhile, and nothing else is', () => {
  const own = new OwnEdits();
  const first = typed(hop(), { says: 'Pier clock' });
  own.saved(first.edits, 2);
  // planned before the answer: it still has the value of before
  const [second] = own.onTop(typed(hop(), { hears: 'Pier clock' })).edits;
  expect([second?.base, second?.after]).toEqual([2, core.contentOf(hop({ says: 'Pier clock', hears: 'Pier clock' }))]);
  // of the same field the later one stands; what was planned on the new value is left alone
  const [again] = own.onTop(typed(hop(), { says: 'Quay clock' })).edits;
  expect([again?.base, again?.after]).toEqual([2, core.contentOf(hop({ says: 'Quay clock' }))]);
  const later = typed(hop({ says: 'Pier clock' }, 2), { says: '' });
  expect(own.onTop(later)).toEqual(later);
});

test('where somebody else touched the same field in between, a person is asked', () => {
  const own = new OwnEdits();
  own.saved(typed(hop(), { hears: 'Pier clock' }).edits, 2);
  // rev 3 is somebody else's: the next change of this tab was saved on top of it
  own.saved(typed(hop({ hears: 'Pier clock', says: 'Theirs' }, 3), { input: '2' }).edits, 4);
  const says = typed(hop(), { says: 'Mine' });
  expect(own.onTop(says)).toEqual(says);
  // another field goes on top of all of it
  const [edit] = own.onTop(typed(hop(), { hears: 'Quay clock' })).edits;
  const whole = hop({ says: 'Theirs', input: '2', hears: 'Quay clock' });
  expect([edit?.base, edit?.after]).toEqual([4, core.contentOf(whole)]);
});

test('parts of one field are put together: two values of a set, two items of a list, and one that was taken out', () => {
  const set = { width: null, height: null, scan: null, colours: null, dataFrom: null, chip: '' };
  const count = (output: number, panels: number) => ({ output, panels, version: '', errors: 0 });
  const wall = (patch: Partial<core.Content<'walls'>>, rev = 1): core.Wall => ({
    ...core.contentWith('walls', { id: 'w', name: 'W', panel: 'p', columns: [{ panels: 1 }] as never, ...patch }),
    rev,
  });
  const then = (first: Partial<core.Content<'walls'>>, second: Partial<core.Content<'walls'>>, from = wall({})) => {
    const own = new OwnEdits();
    own.saved([core.updateRow('walls', from, first)], 2);
    const change = core.changeOf('typed', [core.updateRow('walls', from, second)]);
    const [edit] = change ? own.onTop(change).edits : [];
    return [edit?.base, edit?.after as core.Content<'walls'>] as const;
  };
  const [base, after] = then({ program: { ...set, scan: 8 } }, { program: { ...set, width: 2048 } });
  expect([base, after.program]).toEqual([2, { ...set, scan: 8, width: 2048 }]);
  expect(then({ found: [count(1, 24)] }, { found: [count(2, 20)] })[1].found).toEqual([count(2, 20), count(1, 24)]);
  const two = wall({ found: [count(1, 1), count(2, 2)] });
  expect(then({ found: [count(2, 2)] }, { found: [count(1, 1), count(2, 5)] }, two)[1].found).toEqual([count(2, 5)]);
  // of the same value, and of a list without names, the later one stands
  expect(then({ program: { ...set, scan: 8, width: 9 } }, { program: { ...set, scan: 4 } })[1].program).toEqual({
    ...set,
    ...{ scan: 4, width: 9 },
  });
  expect(then({ surfaces: [1] }, { surfaces: [2] })[1].surfaces).toEqual([2]);
});
