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
  // the same field twice is for a person to choose; what was planned on the new value is left alone
  expect(own.onTop(typed(hop(), { says: 'Quay clock' })).edits[0]?.base).toBe(1);
  const later = typed(hop({ says: 'Pier clock' }, 2), { says: '' });
  expect(own.onTop(later)).toEqual(later);
});
