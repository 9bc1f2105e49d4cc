import { expect, test } from 'vitest';
import { applyChange, emptyShow, filledRow, type Content, type Show, type Wall } from '../show/index.ts';
import { cablePlan, processorsOf } from './feeding.ts';
import { findWalls } from './find-walls.ts';
import { knownWalls, panelModels } from './known-wall.ts';
import { layerLines } from './layers.ts';
import { equalParts } from './parts.ts';
import { planNewWall, planRemoveWall } from './plan-wall.ts';
import { stringOf } from './rules/parts.ts';
import { truthOf } from './settings.ts';
import { panelOf, wallOf } from './wall.test-data.ts';

const panel = panelOf();
const one = panel.width * panel.height;

const featureFrom = (lowest: string) => ({
  ...{ key: `from-${lowest}`, label: `from ${lowest}`, lowest, bundle: null, orBundles: [] },
});

const socketOf = (key: string, adapter: string | null) => ({
  ...{ key, label: key, adapter, role: 'any' as const, connector: 'rj45' as const, rateMbps: null, direction: null },
});

function showOf(walls: readonly Wall[], carries = 100): Show {
  const type = (id: string, given: Partial<Content<'types'>>) => ({
    ...filledRow('types', {
      ...{ id, libraryId: 'ours', model: id, version: '1', name: id, kind: 'led-panel', adapters: [], sockets: [] },
      ...{ factory: { mode: 'none', ip: null, prefix: null }, ...given },
    }),
    rev: 1,
  });
  const box = { id: 'box', typeId: 'box', name: 'Box', unit: null, place: '', firmware: null, note: '' };
  return {
    ...emptyShow({ id: 's', name: 's' }),
    libraries: { ours: { id: 'ours', name: 'Ours', position: 1, rev: 1 } },
    types: {
      tile: type('tile', { panel: { ...panel }, features: [featureFrom('4'), featureFrom('2')] }),
      old: type('old', { model: 'tile', version: '0.9', libraryId: 'gone', panel: { ...panel, scan: 2 } }),
      box: type('box', {
        ...{ kind: 'led-processor', ways: [{ way: 'usb', note: '', alone: false }] },
        drivesWall: { outputs: 4, pixels: carries * one, unitOutputs: null },
      }),
      trunks: type('trunks', {
        kind: 'led-processor',
        drivesWall: { outputs: 4, pixels: carries * one, unitOutputs: 1 },
      }),
      // made for it, and its data goes out by an adapter of its own
      maker: type('maker', {
        ...{ kind: 'led-processor', adapters: [{ key: 'out', label: 'out' }], sockets: [socketOf('out', 'out')] },
        drivesWall: { outputs: 4, pixels: carries * one, unitOutputs: null },
      }),
      card: type('card', { kind: 'led-receiver', sockets: [socketOf('in', null)] }),
      player: type('player', {
        kind: 'computer',
        adapters: [
          { key: 'house', label: 'built in' },
          { key: 'stage', label: 'USB adapter' },
        ],
        sockets: [socketOf('house', 'house'), socketOf('stage', 'stage')],
      }),
    },
    devices: Object.fromEntries(
      ['box', 'trunks', 'maker', 'card', 'player'].map((id) => [
        id,
        { ...filledRow('devices', { ...box, id, typeId: id, name: id }), rev: 1 },
      ]),
    ),
    cables: Object.fromEntries(
      [
        ['player', 'stage', 'card'],
        ['player', 'house', 'box'],
        ['maker', 'out', 'card'],
      ].map(([from = '', socket = '', to = ''], at) => [
        `cable-${at}`,
        {
          ...filledRow('cables', {
            ...{ id: `cable-${at}`, fromDevice: from, fromSocket: socket, toDevice: to, toSocket: 'in' },
            ...{ medium: 'copper', lengthM: 5 },
          }),
          rev: 1,
        },
      ]),
    ),
    walls: Object.fromEntries(walls.map((wall) => [wall.id, wall])),
  };
}

const plays: Wall['playerOutput'] = {
  ...{ deviceId: 'player', kind: 'receivers' as const, adapter: 'stage', start: 'top_left' as const },
  ...{ enabled: true, saved: true, restarted: true },
};

/** Everything about it is right. */
function right(patch: Partial<Wall> = {}): Wall {
  const wall = wallOf([2, 2, 2, 2], { processorId: 'box', rate: '60', stored: true });
  const parts = equalParts(wall, 2);
  const truth = truthOf(wall, panel);
  return {
    ...wall,
    ...{ parts, strings: parts.map((part) => stringOf(wall, part)), program: truth, profile: truth, player: truth },
    captured: { x: 0, y: 0, width: 32, height: 16 },
    found: parts.map(({ output }) => ({ output, panels: 4, version: '4', errors: 0 })),
    ...patch,
  };
}

test('each mistake is told by its own words and nothing else, and every way out mends it', () => {
  const own = right();
  const [a, b] = own.parts;
  if (!a || !b) throw new Error('no parts');
  const found = (patch: object) => own.found.map((each, at) => (at === 0 ? { ...each, ...patch } : each));
  const strings = (path: [number, number][]) => own.strings.map((each, at) => (at === 0 ? { ...each, path } : each));
  const [first] = own.strings;
  const cases: readonly (readonly [string, Wall, number?])[] = [
    ['', own],
    ['wall_panel_unknown', right({ panel: 'glass' })],
    ['wall_undivided', right({ parts: [], strings: [], found: [] })],
    ['wall_panels_missed', right({ parts: [a], strings: own.strings.slice(0, 1), found: own.found.slice(0, 1) })],
    ['wall_panels_doubled', right({ parts: [a, b, { output: 3, x: 0, y: 0, width: 1, height: 1 }] })],
    ['wall_output_full', right({ bits: 12 }), 5],
    ['wall_outputs_short', right({ parts: equalParts(own, 4), strings: [], found: [], loop: true, loopInFile: true })],
    ['wall_string_differs', right({ strings: strings(first?.path.slice(0, 3) ?? []), found: [] })],
    ['wall_count_short', right({ found: found({ panels: 3 }) })],
    ['wall_count_long', right({ found: found({ panels: 5 }) })],
    ['wall_panel_errors', right({ found: found({ errors: 2 }) })],
    ['wall_versions_differ', right({ found: found({ version: '5' }) })],
    ['wall_functions_wait', right({ found: own.found.map((each) => ({ ...each, version: '3' })) })],
    ['wall_program_differs', right({ program: { ...own.program, width: 64 } })],
    ['wall_program_differs', right({ program: { ...own.program, colours: 'RGB' } })],
    ['wall_player_differs', right({ player: { ...own.player, scan: 8 } })],
    ['wall_order_behind', right({ numberedFrom: 'back' })],
    ['wall_capture_differs', right({ captured: { x: 4, y: 0, width: 64, height: 32 } })],
    ['wall_loop_off', right({ loop: true })],
    ['wall_not_stored', right({ stored: false })],
    ['wall_sender_is_card', right({ processorId: 'player' })],
    ['wall_card_other', right({ processorId: 'player', sender: 'card' })],
    ['wall_card_other', right({ processorId: 'player', sender: 'card', card: 'house' })],
    ['wall_units_short', right({ processorId: 'trunks' })],
    ['wall_managed_afar', right({ managed: 'remote' })],
    ['wall_output_other', right({ playerOutput: { ...plays, adapter: 'house' } })],
    ['wall_output_other', right({ playerOutput: { ...plays, adapter: null } })],
    ['wall_output_off', right({ playerOutput: { ...plays, enabled: false } })],
    ['wall_output_off', right({ playerOutput: { ...plays, enabled: false, saved: false, restarted: false } })],
    ['', right({ processorId: 'maker' })],
    ['wall_output_corner', right({ playerOutput: { ...plays, start: 'bottom_left' } })],
    ['wall_output_due', right({ playerOutput: { ...plays, restarted: false } })],
    ['', right({ playerOutput: plays, processorId: 'player', sender: 'card', card: 'stage' })],
  ];
  let mended = 0;
  for (const [code, wall, carries] of cases) {
    const show = showOf([wall], carries);
    const findings = findWalls(show);
    const own = findings.filter((one) => one.code === code || code === '');
    expect([code, findings.map((each) => each.code)]).toEqual([code, own.map((each) => each.code)]);
    expect([code, findings.length > 0]).toEqual([code, code !== '']);
    for (const { key, fixes } of findings)
      for (const { change, label } of fixes) {
        const applied = applyChange(show, change);
        const left = applied.ok ? findWalls(applied.show).map((each) => each.key) : ['refused'];
        expect([code, label, left.includes(key), left.includes('refused')]).toEqual([code, label, false, false]);
        mended += 1;
      }
  }
  expect(mended).toBeGreaterThan(9);
});

test('two walls on the same data channels are told once', () => {
  const from = (universe: number) => ({ firstChannel: { universe, channel: 1 } });
  const walls = (universe: number) => [
    right({ id: 'w', ...from(1) }),
    right({ id: 'v', name: 'Pier', ...from(universe) }),
  ];
  // 32 x 16 pixels of three colours fill three universes
  expect([3, 4].map((universe) => findWalls(showOf(walls(universe))).map(({ code }) => code))).toEqual([
    ['wall_channels_meet'],
    [],
  ]);
});

test('layers are finished one after the other: the first that fails is told, and the rest waits', () => {
  const states = (wall: Wall) => layerLines(wall, findWalls(showOf([wall]))).map(({ state }) => state);
  expect(states(right())).toEqual(['pass', 'pass', 'pass', 'pass', 'pass', 'pass']);
  const wrong = right();
  expect(states({ ...wrong, player: { ...wrong.player, width: 1 }, found: [] })).toEqual([
    ...['pass', 'unseen', 'pass', 'pass', 'fail', 'waits'],
  ]);
  expect(states(right({ numberedFrom: 'back', stored: false }))).toEqual([
    'pass',
    'pass',
    'fail',
    'waits',
    'waits',
    'waits',
  ]);
});

test('the definition in force is that of the library that stands first; a wall is made and taken away', () => {
  const show = showOf([]);
  expect(panelModels(show).map(({ type, hidden }) => [type.id, hidden.map(({ id }) => id)])).toEqual([
    ['tile', ['old']],
  ]);
  const made = applyChange(
    show,
    planNewWall({ id: 'n', name: 'New', panel: 'tile', processorId: 'box' }, { across: 3, down: 2 }) ??
      expect.fail('none'),
  );
  if (!made.ok) throw new Error('refused');
  const [known] = knownWalls(made.show);
  expect([known?.wall.columns.length, known?.panel.scan, known?.capacity?.outputs]).toEqual([3, 4, 4]);
  const gone = applyChange(made.show, planRemoveWall(made.show, known?.wall ?? right()) ?? expect.fail('none'));
  expect(gone.ok && gone.show.walls).toEqual({});
});

test('data cables run to the foot of the wall, and along it to the first panel; far away through units they are shorter', () => {
  const wall = right({ distanceM: 120 });
  const straight = cablePlan(wall, panel, { unitOutputs: null });
  // panels of 0.5 by 0.4 m, four across and two down: each string begins at the foot of its left column
  const along = [1.5 * 0.5 + 0.4, 0.5 * 0.5 + 0.4];
  expect(straight.direct).toEqual(
    along.map((metres, at) => ({ output: at + 1, metres: Math.ceil((120 + metres) * 1.1), medium: 'fibre' })),
  );
  const through = cablePlan(wall, panel, { unitOutputs: 2 });
  expect([through.trunks, through.short.map(({ metres, medium }) => [metres, medium])]).toEqual([
    [{ output: 1, metres: 132, medium: 'fibre' }],
    along.map((metres) => [Math.ceil(metres * 1.1), 'copper']),
  ]);
  expect([through.throughMetres < straight.directMetres, straight.throughMetres]).toEqual([true, 0]);
  // what comes back from the last panel takes a cable as well
  expect(cablePlan(right({ distanceM: 10, loop: true }), panel, { unitOutputs: null }).direct.length).toBe(4);
});

test('processors are managed there while they are few or have no network, and from afar once there are more', () => {
  const show = showOf([]);
  const told = processorsOf(show).map(({ device, by, advice, why }) => [device.id, by, advice, why]);
  expect(told).toEqual([
    ['box', 'usb', 'local', 'no_network'],
    ['maker', 'network', 'local', 'no_address'],
    ['trunks', 'itself', 'local', 'no_network'],
  ]);
  const [type, device, wired] = [show.types['box'], show.devices['box'], show.types['player']];
  if (!type || !device || !wired) throw new Error('no box');
  const known: Show = {
    ...show,
    types: { ...show.types, box: { ...type, adapters: wired.adapters.slice(0, 1) } },
    devices: Object.fromEntries(['a', 'b', 'c'].map((id) => [id, { ...device, id, name: id }])),
    interfaces: Object.fromEntries(
      ['a', 'b', 'c'].map((id) => [
        id,
        { ...filledRow('interfaces', { id, deviceId: id, adapter: 'house', mac: null }), rev: 1 },
      ]),
    ),
  };
  expect(processorsOf(known).map(({ by, why }) => [by, why])).toEqual(Array(3).fill(['both', 'no_address']));
  const address = (id: string) =>
    filledRow('addresses', {
      ...{ id, interfaceId: id, networkId: 'n', ip: '10.0.0.5', prefix: null, gateway: null, held: false },
    });
  const reached = {
    ...known,
    addresses: Object.fromEntries(['a', 'b', 'c'].map((id) => [id, { ...address(id), rev: 1 }])),
  };
  expect(processorsOf(reached).map(({ ips, advice, why }) => [ips, advice, why])).toEqual(
    Array(3).fill([['10.0.0.5'], 'remote', 'many']),
  );
});
