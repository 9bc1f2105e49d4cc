import { expect, test } from 'vitest';
import { applyChange } from '../show/index.ts';
import { adapter, device, showOf } from '../show/sample-show.test-data.ts';
import { planSwap } from './plan-swap.ts';

test('a spare keeps the place of a unit and nothing that was true of the old box', () => {
  const old = device('c', 'camera', {
    serial: 'S1',
    firmware: '2.0',
    savedOn: '2026-11-20',
    hostName: 'cam-1',
    done: ['update:2.0', 'power:up', 'pack:power mains'],
    packed: ['x'],
    accounts: [
      { use: 'administrator', account: 'root', keeper: 'A' },
      { use: 'maker', account: 'crew', keeper: 'B' },
    ],
    note: 'by the mast',
    unit: 3,
  });
  const show = showOf({
    devices: [old],
    interfaces: [{ ...adapter('c'), mac: '02:00:00:00:00:01' }],
    keyedIn: [{ id: 'c', deviceId: 'c', values: [] }],
  });
  const spare = { mac: '02:00:00:00:00:09', serial: 'S9', firmware: null };
  const change = planSwap(show, show.devices['c'] ?? expect.fail(), spare);
  const applied = change && applyChange(show, change);
  if (!applied?.ok) throw new Error('not applied');
  expect(applied.show.devices['c']).toMatchObject({
    name: 'c',
    unit: 3,
    note: 'by the mast',
    serial: 'S9',
    firmware: null,
    savedOn: null,
    hostName: '',
    swaps: 1,
    done: ['pack:power mains'],
    packed: ['x'],
    accounts: [{ use: 'maker', account: 'crew', keeper: 'B' }],
  });
  expect([applied.show.interfaces['c-lan']?.mac, applied.show.keyedIn]).toEqual(['02:00:00:00:00:09', {}]);
});
