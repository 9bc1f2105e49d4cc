import { expect, test } from 'vitest';
import { applyChange, emptyShow, filledRow, type Content, type Show, type Wall } from '../show/index.ts';
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
      tile: type('tile', { panel: { ...panel } }),
      old: type('old', { model: 'tile', version: '0.9', libraryId: 'gone', panel: { ...panel, scan: 2 } }),
      box: type('box', { kind: 'led-processor', drivesWall: { outputs: 4, pixels: carries * one } }),
    },
    devices: { box: { ...filledRow('devices', box), rev: 1 } },
    walls: Object.fromEntries(walls.map((wall) => [wall.id, wall])),
  };
}

/** Everything about it is right. */
function right(patch: Partial<Wall> = {}): Wall {
  const wall = wallOf([2, 2, 2, 2], { processorId: 'box', rate: '60', stored: true });
  const parts = equalParts(wall, 2);
  const truth = truthOf(wall, panel);
  return {
    ...wall,
    ...{ parts, strings: parts.map((part) => stringOf(wall, part)), program: truth, profile: truth, player: truth },
    captured: { x: 0, y: 0, width: 32, height: 16 },
    found: parts.map(({ output }) => ({ output, panels: 4, version: '3', errors: 0 })),
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
    ['wall_versions_differ', right({ found: found({ version: '2' }) })],
    ['wall_program_differs', right({ program: { ...own.program, width: 64 } })],
    ['wall_program_differs', right({ program: { ...own.program, colours: 'RGB' } })],
    ['wall_player_differs', right({ player: { ...own.player, scan: 8 } })],
    ['wall_order_behind', right({ numberedFrom: 'back' })],
    ['wall_capture_differs', right({ captured: { x: 4, y: 0, width: 64, height: 32 } })],
    ['wall_loop_off', right({ loop: true })],
    ['wall_not_stored', right({ stored: false })],
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
