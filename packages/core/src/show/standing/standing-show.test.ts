import { expect, test } from 'vitest';
import { device, showOf, soundRows, types } from '../sample-show.test-data.ts';
import { devicesByName, indexBy, memo, rowsBy, rowsOf, type Show } from '../index.ts';
import { buildOn } from './building.ts';
import { Cell, looking } from './cells.ts';
import { Standing } from './standing-show.ts';

const start: Show = showOf({ ...soundRows, types, devices: [device('desk', 'desk'), device('hub', 'switch')] });

/** What is asked of a standing show, and how often it was worked out. */
function asking<Value>(standing: Standing, ask: (show: Show) => Value) {
  let times = 0;
  const cell = new Cell(standing.queue, () => {
    times += 1;
    return ask(standing.show);
  });
  cell.isWanted = true;
  cell.workOut();
  return { now: () => cell.last(), times: () => times };
}

const named = indexBy('devices', ({ id, name }) => [[name, id]]);

test('a standing show reads like a snapshot, and each way of reading it is followed', () => {
  const standing = new Standing(start);
  const { show } = standing;
  const all = asking(standing, () => rowsOf(show, 'devices').map(({ id }) => id));
  const keys = asking(standing, () => Object.keys(show.devices));
  const one = asking(standing, () => show.devices['desk']?.note);
  const other = asking(standing, () => 'loft' in show.devices);
  const column = asking(standing, () => rowsBy(show, 'devices', 'typeId').get('desk')?.length);
  const index = asking(standing, () => named(show).get('Desk')?.[0]);
  const order = asking(standing, () => devicesByName(show).map(({ id }) => id));
  const desk = start.devices['desk'];
  if (!desk) throw new Error('no desk');

  standing.put([{ table: 'devices', id: 'desk', row: { ...desk, note: 'By the stairs', name: 'Desk' } }], 2);
  standing.queue.settle();
  expect([show.rev, one.now(), index.now(), other.times(), column.now()]).toEqual([2, 'By the stairs', 'desk', 1, 1]);

  standing.put([{ table: 'devices', id: 'loft', row: { ...desk, id: 'loft', name: 'Attic' } }], 3);
  standing.queue.settle();
  expect([all.now(), keys.now(), order.now()]).toEqual([
    ['desk', 'hub', 'loft'],
    ['desk', 'hub', 'loft'],
    ['loft', 'desk', 'hub'],
  ]);
  expect([other.now(), column.now(), one.times()]).toEqual([true, 2, 2]);

  standing.put([{ table: 'devices', id: 'desk', row: null }], 4);
  standing.queue.settle();
  expect([all.now(), one.now(), index.now(), column.now()]).toEqual([['hub', 'loft'], undefined, undefined, 1]);
});

test('facts that remember are built for a standing show, and what one answer remembered is no other’s', () => {
  const standing = new Standing(start);
  const noteOf = buildOn(standing, () => memo((id) => standing.show.devices[id]?.note));
  const asked = asking(standing, () => noteOf('desk'));
  const desk = start.devices['desk'];
  if (desk) standing.put([{ table: 'devices', id: 'desk', row: { ...desk, note: 'New' } }], 2);
  standing.queue.settle();
  expect(asked.now()).toBe('New');
  // a table of its own, made while one answer is worked out, would go stale for the next
  const escaped = asking(standing, (show) => memo((id) => show.devices[id]?.note));
  const uses = new Cell(standing.queue, () => escaped.now()('desk'));
  expect(() => looking(() => uses.get())).toThrow('asked for by another');
});
