import { describe, expect, test } from 'vitest';
import {
  contentWith,
  insertRow,
  removeRow,
  structureFaults,
  updateRow,
  written,
  type Edit,
  type Show,
} from './index.ts';
import { adapter, cable, device, rowOf, showOf, soundRows, typeWith, types } from './sample-show.test-data.ts';

const show = showOf({
  ...soundRows,
  types: [
    ...types,
    typeWith('program', {
      name: 'Program',
      kind: 'media',
      form: 'program',
      factory: { mode: 'none', ip: null, prefix: null },
    }),
  ],
  devices: [
    ...soundRows.devices,
    device('one', 'program', { runsOn: 'two' }),
    device('two', 'program', { runsOn: 'host' }),
  ],
});
/** The faults of some edits, with the plan as it is after them: what the server asks before it saves. */
const of = (...edits: Edit[]): string[] => {
  const change = { label: 'x', edits };
  const after: Show = written(show, change, 2);
  return structureFaults(after, change).map(({ path, message }) => `${path.slice(2).join(' ')}: ${message}`);
};
const plug = (id: string, from: string, to: string, medium: 'copper' | 'wireless' = 'copper') => {
  const [[fromDevice = '', fromSocket = ''], [toDevice = '', toSocket = '']] = [from, to].map((end) =>
    end.split('.'),
  ) as [string[], string[]];
  return insertRow('cables', { ...cable('desk', 'p-9'), id, fromDevice, fromSocket, toDevice, toSocket, medium });
};
const taken = 'Another cable is in this socket: take that out first, or choose another socket';

describe('cables', () => {
  test('end in sockets that are there, and not both in one', () => {
    expect(of(plug('a', 'hub.p-7', 'hub.p-8'))).toEqual([]);
    expect(of(plug('a', 'hub.p-9', 'hub.p-8'))).toEqual(['0 after fromSocket: Its type has no socket “p-9”']);
    expect(of(plug('a', 'hub.p-8', 'hub.x'))).toEqual(['0 after toSocket: Its type has no socket “x”']);
    expect(of(plug('a', 'hub.p-8', 'hub.p-8'))).toEqual([
      '0 after toSocket: A cable has two ends: choose another socket',
    ]);
  });

  test('a socket takes one of them, at either end, whoever comes first in one change', () => {
    expect(of(plug('a', 'hub.p-1', 'hub.p-8'))).toEqual([`0 after fromSocket: ${taken}`]);
    expect(of(plug('a', 'hub.p-8', 'hub.p-2'))).toEqual([`0 after toSocket: ${taken}`]);
    expect(of(plug('a', 'hub.p-7', 'hub.p-8'), plug('b', 'hub.p-8', 'hub.p-6'))).toEqual([
      `0 after toSocket: ${taken}`,
      `1 after fromSocket: ${taken}`,
    ]);
    // one that is taken out in the same change makes room, and over the air several reach one
    expect(of(removeRow('cables', rowOf(show, 'cables', 'c-host')), plug('a', 'hub.p-1', 'hub.p-8'))).toEqual([]);
    expect(of(plug('a', 'hub.p-1', 'hub.p-8', 'wireless'))).toEqual([]);
    expect(of(updateRow('cables', rowOf(show, 'cables', 'c-host'), { lengthM: 7 }))).toEqual([]);
  });

  test('of a unit whose type nobody knows may end anywhere', () => {
    const unknown = insertRow('devices', { ...device('odd', 'gone'), id: 'odd' });
    expect(of(unknown, plug('a', 'odd.whatever', 'hub.p-8'))).toEqual([]);
  });
});

test('an interface is one of its type’s adapters', () => {
  expect(of(insertRow('interfaces', { ...adapter('desk'), id: 'x' }))).toEqual([]);
  expect(of(insertRow('interfaces', { ...adapter('desk'), id: 'x', adapter: 'second' }))).toEqual([
    '0 after adapter: Its type has no adapter “second”',
  ]);
});

test('a program runs on itself over no corner, and every fault of a change is told at once', () => {
  const [one, two] = [rowOf(show, 'devices', 'one'), rowOf(show, 'devices', 'two')];
  expect(of(updateRow('devices', one, { runsOn: 'host' }))).toEqual([]);
  expect(of(updateRow('devices', one, { runsOn: 'one' }))).toEqual(['0 after runsOn: A program cannot run on itself']);
  expect(of(updateRow('devices', two, { runsOn: 'one' }))).toEqual(['0 after runsOn: A program cannot run on itself']);
  expect(of(updateRow('devices', one, { runsOn: null }), updateRow('devices', two, { runsOn: 'one' }))).toEqual([]);
  const both = of(plug('a', 'hub.p-9', 'hub.p-1'), updateRow('devices', two, { runsOn: 'two' }));
  expect(both.map((line) => line.split(':')[0])).toEqual(['0 after fromSocket', '0 after toSocket', '1 after runsOn']);
  expect(of(removeRow('devices', one))).toEqual([]);
});

test('cues do not start each other in a circle, however many are between', () => {
  const cue = (id: string, after?: string) =>
    insertRow(
      'cues',
      contentWith('cues', {
        ...{ id, number: 1, name: id, controllerId: 'host' },
        starts: after === undefined ? { by: 'hand' } : { by: 'cue', cueId: after, delayMs: 0 },
      }),
    );
  expect(of(cue('a'), cue('b', 'a'), cue('c', 'b'))).toEqual([]);
  expect(of(cue('b', 'gone'))).toEqual([]);
  const round = of(cue('a', 'c'), cue('b', 'a'), cue('c', 'b'));
  expect(round.map((line) => line.split(':')[0])).toEqual(['0 after starts', '1 after starts', '2 after starts']);
  expect(of(cue('a', 'a'))[0]).toContain('in a circle');
});
