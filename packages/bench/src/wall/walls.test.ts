import { show as core, wall as walls, type contract, type Show } from '@deep-patch/core';
import { demoPasswords, demoShow } from '@deep-patch/demo';
import { afterEach, expect, test } from 'vitest';
import { demoBench, stopBenches } from '../demo-bench.test-data.ts';

afterEach(stopBenches);

const wallId = 'quay-wall';

/** The demo with a smaller wall that is planned right, and its player beside it with a cable to the first receiver. */
function rightWall(patch: Partial<core.Wall> = {}): Show {
  const show = demoShow();
  const wall = show.walls[wallId];
  const card = core.rowsOf(show, 'types').find(({ model }) => model === 'led-receiving-card');
  if (!wall || !card) throw new Error('the demo has no wall');
  const columns = wall.columns.slice(0, 6).map((column) => ({ ...column, panels: 2 }));
  const parts = walls.equalParts({ columns }, 3);
  const { panel } = walls.knownWall(show, wall) ?? {};
  if (!panel) throw new Error('no panel');
  const size = { ...wall, columns, parts };
  const truth = walls.truthOf(size, panel);
  const strings = parts.map((part) => walls.stringOf(size, part));
  const device = core.filledRow('devices', {
    ...{ id: 'first-card', typeId: card.id, name: 'First receiver', unit: null, place: '', firmware: null, note: '' },
  });
  const cable = core.filledRow('cables', {
    ...{ id: 'to-first-card', fromDevice: 'media', fromSocket: 'port-2', toDevice: 'first-card', toSocket: 'data-1' },
    ...{ medium: 'copper', lengthM: 5 },
  });
  return {
    ...show,
    devices: { ...show.devices, 'first-card': { ...device, rev: 1 } },
    cables: { ...show.cables, 'to-first-card': { ...cable, rev: 1 } },
    walls: {
      [wallId]: {
        ...size,
        strings,
        program: truth,
        profile: truth,
        player: truth,
        captured: null,
        found: [],
        ...patch,
      },
    },
  };
}

async function wallBench(show: Show, seed?: number) {
  const bench = await demoBench(show, seed);
  const own = async (): Promise<contract.WallOnBench> => {
    const there = (await bench.state()).walls.find((one) => one.wallId === wallId);
    if (!there) throw new Error('no wall on the bench');
    return there;
  };
  return { ...bench, own };
}

const knownIn = (show: Show): walls.KnownWall => {
  const wall = show.walls[wallId];
  return (wall && walls.knownWall(show, wall)) ?? expect.fail('no wall');
};

function stateOf(show: Show, there: contract.WallOnBench, sender: walls.Sender = there.sender): walls.WallState {
  const { wall, panel } = knownIn(show);
  const { runs, real, start, dark } = there;
  return walls.runningState(wall, panel, { runs, real, start, isDark: dark[sender] !== null }, sender);
}

test('a wall is dark until its set-up is sent to the receivers, and after a power cut unless that is stored', async () => {
  const show = rightWall();
  const { act, own } = await wallBench(show);
  expect((await own()).dark.processor).toBe('no_power');
  await expect(act({ act: 'wall_apply', wallId })).rejects.toThrow('Quay wall has no power');
  await act({ act: 'wall_power', wallId, on: true });
  expect((await own()).dark.processor).toBe('nothing_runs');
  await expect(act({ act: 'wall_store', wallId })).rejects.toThrow('nothing runs in the receivers of Quay wall yet');
  await act({ act: 'wall_apply', wallId });
  expect(walls.isAsSent(stateOf(show, await own()))).toBe(true);
  const cut = async (): Promise<contract.WallOnBench> => {
    await act({ act: 'wall_power', wallId, on: false });
    await act({ act: 'wall_power', wallId, on: true });
    return own();
  };
  expect((await cut()).runs).toBeNull();
  await act({ act: 'wall_apply', wallId });
  await act({ act: 'wall_store', wallId });
  const after = await cut();
  expect([after.isStored, walls.isAsSent(stateOf(show, after))]).toEqual([true, true]);
});

test('receivers count what hangs on each output; a string that ends too early is seen there and in the picture', async () => {
  const show = rightWall();
  const { act, own } = await wallBench(show);
  await act({ act: 'wall_power', wallId, on: true });
  await act({ act: 'wall_apply', wallId });
  const real = { ...walls.asEntered, order: [2, 1, 3], cuts: [{ output: 2, panels: 3 }] };
  await act({ act: 'wall_real', wallId, real });
  await act({ act: 'wall_detect', wallId });
  const there = await own();
  expect(there.found?.map(({ output, panels }) => [output, panels])).toEqual([
    [1, 4],
    [2, 3],
    [3, 4],
  ]);
  const { wall, panel } = knownIn(show);
  const shown = walls.seen(stateOf(show, there), walls.testPicture('white', wall, panel));
  const read = walls.readOff('numbers', { wall, panel }, stateOf(show, there, 'processor'), () => []);
  expect(read).toEqual(['2, 1, 3']);
  // output 2 hangs at the left: the last panel of the string there is dark
  const [column, row] = wall.strings[0]?.path[3] ?? [0, 0];
  expect(shown.data[(row * panel.height * shown.width + column * panel.width) * 4]).toBe(0);
});

test('a command to the processor puts its own picture on the wall', async () => {
  const { act, own } = await wallBench(rightWall());
  expect((await own()).sender).toBe('player');
  await act({ act: 'touch', deviceId: 'led-quay', serviceKey: 'web', command: 'picture', args: ['grid'] });
  expect(await own()).toMatchObject({ picture: 'grid', sender: 'processor' });
  await act({ act: 'wall_send', wallId, picture: 'ramp', sender: 'player' });
  expect(await own()).toMatchObject({ picture: 'ramp', sender: 'player' });
});

test('what the player sends gets there by the interface that leads to the receivers, once that is saved and started again', async () => {
  const output = { deviceId: 'media', kind: 'receivers' as const, adapter: 'media', start: 'top_left' as const };
  const done = { enabled: true, saved: true, restarted: true };
  const darkWith = async (patch: Partial<core.Wall['playerOutput']>) => {
    const { act, own } = await wallBench(rightWall({ playerOutput: { ...output, ...done, ...patch } }));
    await act({ act: 'wall_power', wallId, on: true });
    await act({ act: 'wall_apply', wallId });
    const { dark } = await own();
    return [dark.processor, dark.player];
  };
  expect(await darkWith({})).toEqual([null, null]);
  expect(await darkWith({ adapter: 'lan' })).toEqual([null, 'interface']);
  expect(await darkWith({ restarted: false })).toEqual([null, 'player_off']);
  expect(await darkWith({ enabled: false })).toEqual([null, 'player_off']);
});

test('whatever is hidden, one thing or two, tracing finds it off the pixels, and what is entered then makes it right', async () => {
  let [found, mended] = [0, 0];
  const hidden = new Set<string>();
  for (const seed of Array.from({ length: 14 }, (_, at) => at + 1)) {
    let show = rightWall();
    const { act, own, bench } = await wallBench(show, seed);
    await act({ act: 'wall_power', wallId, on: true });
    await act({ act: 'wall_apply', wallId });
    await act({ act: 'wall_hide', wallId, wrongs: 1 + (seed % 2) });
    const { real } = await own();
    hidden.add(JSON.stringify(real));
    const [guess] = trace(show, await own());
    const reals = guess ? [guess.real, ...guess.hidden] : [];
    expect([seed, reals.map((one) => JSON.stringify(one))]).toEqual([
      seed,
      expect.arrayContaining([JSON.stringify(real)]),
    ]);
    found += 1;
    if (real.reaches === false || real.cuts.length + real.turned.length > 0) continue;
    const change = walls.planMend(show, knownIn(show), real, () => `type-${seed}`);
    // where it is entered right already, it only has to be sent again
    if (change) show = core.written(show, change, show.rev + 1);
    await bench.handle({ kind: 'load', plan: { show, passwords: demoPasswords } });
    await act({ act: 'wall_apply', wallId });
    expect([seed, real, walls.isAsSent(stateOf(show, await own()))]).toEqual([seed, real, true]);
    mended += 1;
  }
  expect([found, mended > 4, hidden.size > 8]).toEqual([14, true, true]);
});

/** Asks until nothing more can be told; what is seen is read off the pixels of the wall. */
function trace(show: Show, there: contract.WallOnBench): walls.Guess[] {
  const own = knownIn(show);
  const guesses = walls.guessesOf(own);
  const answers: walls.Answered[] = [];
  for (;;) {
    const still = walls.left(guesses, answers);
    const asked = answers.map(({ test: one }) => one);
    const next = walls.nextTest(still, asked);
    if (!next) return still;
    const state = stateOf(show, there, walls.senderOf(next));
    const paint = (picture: 0 | 1) => walls.seen(state, walls.tracePicture(next, own, picture));
    const answer = walls.readOff(next, own, state, walls.pictureLook([paint(0), paint(1)]));
    answers.push({ test: next, answer });
  }
}
