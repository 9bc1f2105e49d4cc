import { show as core, wall as walls, type Show } from '@deep-patch/core';
import { diceOf, type Dice } from './dice.test-data.ts';

/** A rig with two walls of random shape, of which much is entered wrongly. */
export function withWalls(show: Show, seed: number): Show {
  const dice = diceOf(seed ^ 0x1f123bb5);
  const library = Object.keys(show.libraries)[0] ?? '';
  const base = {
    ...{ libraryId: library, version: '1.0', adapters: [], sockets: [] },
    factory: { mode: 'none' as const, ip: null, prefix: null },
  };
  const tile = core.filledRow('types', {
    ...{ ...base, id: 'wall-tile', model: 'wall-tile', name: 'Wall tile', kind: 'led-panel' },
    panel: {
      ...{ width: 16, height: 16, widthMm: 500, heightMm: 500, kg: 8, watts: 120, startAmps: dice.pick([null, 3]) },
      ...{ across: dice.pick([1, 2]), down: 1, scan: dice.pick([4, 8]), chip: dice.pick(['', 'C-1']) },
      ...{ colours: dice.pick(core.colourOrders), dataFrom: dice.pick(core.dataSides) },
    },
  });
  const box = core.filledRow('types', {
    ...{ ...base, id: 'wall-box', model: 'wall-box', name: 'Wall box', kind: 'led-processor' },
    drivesWall: dice.chance(0.9)
      ? {
          ...{ outputs: dice.pick([2, 4]), pixels: 256 * dice.pick([4, 12, 60]) },
          unitOutputs: dice.pick([null, 1, 4]),
        }
      : null,
    ways: dice.pick([[], [{ way: 'usb' }]]),
  });
  const socket = (key: string) => ({ key, label: `${key} socket`, adapter: key });
  const player = core.filledRow('types', {
    ...{ ...base, id: 'wall-player', model: 'wall-player', name: 'Wall player', kind: 'computer' },
    adapters: [
      { key: 'house', label: 'House' },
      { key: 'stage', label: 'Stage' },
    ],
    sockets: [socket('house'), socket('stage')],
  });
  const receiver = core.filledRow('types', {
    ...{ ...base, id: 'wall-card', model: 'wall-card', name: 'Wall card', kind: 'led-receiver' },
    sockets: [{ key: 'in', label: 'in', adapter: null, role: 'led' }],
  });
  const types = [tile, box, player, receiver];
  const units = ['wall-box', 'wall-player', 'wall-card'].map((id) =>
    core.filledRow('devices', { id, typeId: id, name: id, unit: null, place: '', firmware: null, note: '' }),
  );
  const cables = dice.chance(0.7)
    ? [
        core.filledRow('cables', {
          ...{ id: 'wall-cable', fromDevice: 'wall-player', fromSocket: dice.pick(['house', 'stage']) },
          ...{ toDevice: 'wall-card', toSocket: 'in', medium: 'copper', lengthM: 5 },
        }),
      ]
    : [];
  const withRev = <Item extends { readonly id: string }>(items: readonly Item[]) =>
    Object.fromEntries(items.map((item) => [item.id, { ...item, rev: 1 }]));
  const rows = [1, 2].map((at) => wallRow(`wall-${at}`, dice));
  return {
    ...show,
    types: { ...show.types, ...withRev(types) },
    devices: { ...show.devices, ...withRev(units) },
    cables: { ...show.cables, ...withRev(cables) },
    walls: withRev(rows),
  };
}

function wallRow(id: string, dice: Dice): core.Content<'walls'> {
  const columns = Array.from({ length: 1 + dice.below(5) }, () => ({
    ...{ panels: 1 + dice.below(3), drop: dice.chance(0.2) ? 1 : 0 },
    ...{ gapMm: dice.pick([0, 0, 20]), angle: dice.pick([0, 5]) },
  }));
  const equal = walls.equalParts({ columns }, 1 + dice.below(3));
  const parts = equal
    .filter(() => dice.chance(0.9))
    .map((part) => ({ ...part, width: part.width + dice.pick([0, 0, 0, 1]) }));
  const set = (): core.Wall['program'] => ({
    ...{
      width: dice.pick([null, 16, columns.length * 16]),
      height: dice.pick([null, 48]),
      scan: dice.pick([null, 4, 8]),
    },
    ...{
      colours: dice.pick([null, ...core.colourOrders]),
      dataFrom: dice.pick([null, ...core.dataSides]),
      chip: dice.pick(['', 'C-1']),
    },
  });
  return core.contentWith('walls', {
    ...{ id, name: dice.pick(['Quay', 'Pier']), panel: dice.chance(0.9) ? 'wall-tile' : 'gone', columns, parts },
    ...{
      processorId: dice.pick([null, 'wall-box', 'wall-box', 'wall-box', 'wall-player', 'nobody']),
      surfaces: dice.pick([[], [1]]),
    },
    ...{
      numberedFrom: dice.pick(core.viewpoints),
      bits: dice.pick([8, 10, 12] as const),
      rate: dice.pick(['25', '50', '60'] as const),
    },
    ...{
      loop: dice.chance(0.3),
      loopInFile: dice.chance(0.5),
      volts: dice.pick([110, 230]),
      phases: dice.pick([1, 3] as const),
    },
    ...{ program: set(), profile: set(), player: set(), stored: dice.chance(0.5) },
    strings: parts
      .filter(() => dice.chance(0.8))
      .map((part) => {
        const { output, path } = walls.stringOf({ columns }, part);
        return { output, path: dice.chance(0.3) ? path.slice(1) : path };
      }),
    captured: dice.pick([
      null,
      { x: 0, y: 0, width: columns.length * 16, height: 48 },
      { x: 9, y: 0, width: 64, height: 64 },
    ]),
    ...{ sender: dice.pick(core.wallSenders), card: dice.pick([null, 'house', 'stage']) },
    ...{ managed: dice.pick([null, ...core.managements]), distanceM: dice.pick([null, 0, 20, 140]) },
    playerOutput: {
      ...{ deviceId: dice.pick([null, 'wall-player', 'nobody']), kind: dice.pick([null, ...core.playerOutputs]) },
      ...{ adapter: dice.pick([null, 'house', 'stage']), start: dice.pick(core.wallCorners) },
      ...{ enabled: dice.chance(0.5), saved: dice.chance(0.5), restarted: dice.chance(0.5) },
    },
    firstChannel: dice.pick([null, { universe: 1 + dice.below(3), channel: 1 }]),
    found: parts
      .filter(() => dice.chance(0.7))
      .map(({ output }) => ({
        output,
        panels: dice.below(5),
        version: dice.pick(['', '3.1', '3.2']),
        errors: dice.pick([0, 0, 2]),
      })),
  });
}
