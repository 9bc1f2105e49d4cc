import { expect, test } from 'vitest';
import { applyChange, commitActs, settingWays } from '../show/index.ts';
import { adapter, device, showOf, types, typeWith } from '../show/sample-show.test-data.ts';
import { gearWords } from './gear-words.ts';
import { cellText, planCells, type CellField } from './plan-cells.ts';
import type { GearProblemCode } from './read-gear-list.ts';
import {
  accountTexts,
  actWords,
  commitWords,
  feedTexts,
  roleTexts,
  settingTexts,
  systemTexts,
  waysWords,
} from './type-words.ts';

const none = { mode: 'none', ip: null, prefix: null } as const;
const split = typeWith('split', {
  name: 'Split',
  kind: 'mixer',
  factory: none,
  adapters: [
    { key: 'lan', label: 'LAN' },
    { key: 'aux', label: 'AUX' },
  ],
  variants: [
    { key: 'one', label: 'All as One', sockets: [] },
    { key: 'two', label: 'Halves', sockets: [] },
  ],
  ways: [
    { way: 'menu', note: 'page 3' },
    { way: 'web', alone: true },
  ],
  commits: [{ of: 'address', acts: [{ act: 'store' }, { act: 'restart_device', seconds: 20 }] }],
});
const show = showOf({
  types: [...types, split],
  devices: [device('m', 'split'), device('c', 'camera')],
  interfaces: [adapter('m'), { ...adapter('m'), id: 'm-aux', adapter: 'aux' }],
});

/** What one typed cell becomes: the value, or why not. */
function typed(field: CellField, text: string, deviceId = 'm'): unknown {
  const plan = planCells(show, [{ deviceId, field, text }]);
  if (!plan.ok) return plan.faults.map(({ message }) => message).join(' | ');
  const applied = plan.change && applyChange(show, plan.change);
  const at = applied?.ok ? applied.show : show;
  if (field === 'mac') return [at.interfaces['m-lan']?.mac, at.interfaces['m-aux']?.mac];
  return at.devices[deviceId]?.[field];
}

test.each<[CellField, string, unknown]>([
  ['name', '  Big one ', 'Big one'],
  ['name', '   ', 'Give it a name'],
  ['name', 'x'.repeat(80), 'x'.repeat(80)],
  ['name', 'x'.repeat(81), 'At most 80 characters'],
  ['unit', '0', 0],
  ['unit', '9999', 9999],
  ['unit', '10000', 'A whole number from 0 to 9999'],
  ['unit', '1.5', 'A whole number from 0 to 9999'],
  ['unit', '', null],
  ['place', '', ''],
  ['firmware', '', null],
  ['firmware', '2.1b', '2.1b'],
  ['mac', '02-1E-70-00-00-7D', ['02:1e:70:00:00:7d', null]],
  ['mac', '', [null, null]],
  ['mac', 'nonsense', 'Six pairs of 0-9 and a-f, such as 02:1e:70:00:00:7d'],
  ['variant', 'HALVES', 'two'],
  ['variant', 'one', 'one'],
  ['variant', '', null],
  ['variant', 'thirds', 'One of: All as One, Halves'],
  ['system', 'macos', 'macos'],
  ['system', 'A Tablet or phone', 'mobile'],
  ['system', 'toaster', 'One of: Windows, macOS, Linux, a tablet or phone'],
  ['sources', '10000', 10_000],
  ['sources', '10001', 'A whole number from 0 to 10000'],
  ['savedOn', '2026-02-28', '2026-02-28'],
  ['savedOn', '2026-02-30', 'A day such as 2026-11-25'],
  ['savedOn', '2024-02-29', '2024-02-29'],
  ['savedOn', '2100-02-29', 'A day such as 2026-11-25'],
  ['savedOn', '2026-13-01', 'A day such as 2026-11-25'],
  ['savedOn', '2026-11-00', 'A day such as 2026-11-25'],
  ['savedOn', '', null],
  ['note', 'x'.repeat(2001), 'At most 2000 characters'],
])('%s: “%s” becomes %j', (field, text, wanted) => {
  expect(typed(field, text)).toEqual(wanted);
});

test('a type without variants says so, an unknown unit is passed over, and the change is named by what it touches', () => {
  expect(typed('variant', 'x', 'c')).toBe('This type has no variants');
  expect(planCells(show, [{ deviceId: 'gone', field: 'unit', text: 'x' }])).toEqual({ ok: true, change: undefined });
  const labelOf = (...ids: string[]) => {
    const plan = planCells(
      show,
      ids.map((deviceId) => ({ deviceId, field: 'place', text: 'Quay' })),
    );
    return plan.ok && plan.change?.label;
  };
  expect([labelOf('m'), labelOf('m', 'c')]).toEqual(['Change m', 'Change 2 units']);
});

test('a cell reads as people say it', () => {
  const row = { ...device('m', 'split', { variant: 'two', system: 'macos', unit: null }), rev: 1 };
  const read = (field: CellField) => cellText(show, row, field, '02:00:00:00:00:01');
  expect(['variant', 'system', 'unit', 'mac', 'firmware', 'savedOn'].map((field) => read(field as CellField))).toEqual([
    'Halves',
    'macOS',
    '',
    '02:00:00:00:00:01',
    '2.0',
    '',
  ]);
  expect(cellText(show, { ...row, variant: 'gone', system: null }, 'variant', null)).toBe('gone');
  expect(cellText(show, { ...row, system: null }, 'system', null)).toBe('');
  expect(cellText(show, row, 'mac', null)).toBe('');
});

test('every problem of a gear list has a sentence of its own, with what helps', () => {
  const said = (code: GearProblemCode, hint = '') =>
    gearWords({ code, hint, text: 'Camra', line: 3, field: 'type', isBlocking: true });
  const codes: GearProblemCode[] = [
    'no_column',
    'no_name',
    'long_text',
    'name_twice',
    'name_in_show',
    'no_type',
    'unknown_type',
    'bad_unit',
    'bad_mac',
    'mac_twice',
  ];
  const all = codes.map((code) => said(code, '7'));
  expect(new Set(all).size).toBe(codes.length);
  expect(all.every((text) => /^[A-Z].*[.?]$/.test(text) && !text.includes('undefined'))).toBe(true);
  expect([
    said('unknown_type', 'Camera'),
    said('unknown_type'),
    said('mac_twice', '0'),
    said('mac_twice', '4'),
  ]).toEqual([
    'No type is called “Camra”. Did you mean Camera?',
    'No type is called “Camra”.',
    'A unit in the show already has this MAC address.',
    'The same MAC address as in line 4.',
  ]);
});

test('where a type is set, and what makes a change count, in words', () => {
  const type = { ...split, rev: 1 };
  expect([waysWords(type), commitWords(type, 'address'), commitWords(type, 'login'), actWords([])]).toEqual([
    'own menu (page 3), or web page while it is alone on its network',
    'store it in the unit, then restart the unit (about 20 s)',
    '',
    '',
  ]);
});

test('every way, act, feed, account, setting, system and role has words of its own', () => {
  const type = (patch: object) => ({ ...split, rev: 1, ...patch });
  const said = [
    ...settingWays.map((way) => waysWords(type({ ways: [{ way, note: '', alone: false }] }))),
    ...commitActs.map((act) => actWords([{ act, seconds: null }])),
    ...[feedTexts, accountTexts, settingTexts, systemTexts, roleTexts].flatMap((texts) => Object.values(texts)),
  ];
  expect(said).toEqual(said.filter((text) => /^[A-Za-z][\w’, -]{1,}$/.test(text)));
  expect(said).toMatchInlineSnapshot(`
    [
      "own menu",
      "web page",
      "computer program",
      "USB",
      "the computer’s network settings",
      "search utility",
      "confirm each entry",
      "confirm the page",
      "store it in the unit",
      "leave the set-up state",
      "restart the program",
      "restart its service",
      "restart the unit",
      "restart the computer",
      "mains",
      "its own supply",
      "power over the network cable",
      "USB",
      "battery",
      "account of its operating system",
      "account at the maker",
      "its administrator",
      "New address",
      "New service",
      "New login",
      "Other mode",
      "Other output",
      "New entry in its list",
      "Installing",
      "Windows",
      "macOS",
      "Linux",
      "a tablet or phone",
      "any network",
      "control",
      "management",
      "audio, primary",
      "audio, secondary",
      "LED data",
      "pictures",
      "setting up",
    ]
  `);
});
