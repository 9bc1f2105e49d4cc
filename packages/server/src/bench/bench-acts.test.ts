import { type contract, rig, type Seen, type Show, surfaces } from '@deep-patch/core';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { startServer, type TestServer } from '../../test/running.ts';

let server: TestServer;
beforeAll(async () => {
  server = await startServer();
});
afterAll(() => server.stop());

const bench = '/bench/harbour-finals';
const act = (wanted: object) => server.call('POST', `${bench}/acts`, wanted);
const stateOf = (body: unknown) => body as contract.BenchState;

test('what cannot be done is refused with the bench’s own reason; what is no act at all names every fault', async () => {
  await server.call('GET', bench);
  const refused = await act({ act: 'set_fault', kind: 'loop', deviceId: 'desk' });
  expect([refused.status, refused.body]).toMatchObject([
    422,
    { code: 'BENCH_REFUSED', reason: 'it takes a switch', detail: 'It takes a switch.' },
  ]);
  for (const wrong of [
    { act: 'explode', deviceId: 'desk' },
    { act: 'set_fault', kind: 'flood', deviceId: 'desk' },
    { act: 'update', deviceId: 'desk', firmware: 'newest' },
    { act: 'restart', deviceIds: [] },
    { act: 'scan', deviceId: 'laptop', more: true },
  ]) {
    const { status, body } = await act(wrong);
    expect([wrong.act, status, body.code]).toEqual([wrong.act, 422, 'INVALID']);
  }
  const { body } = await act({
    act: 'key_in',
    deviceId: 'desk',
    change: { of: 'address', adapter: 'lan', method: 'static', ip: '10.61.20.300', prefix: 40, gateway: null },
  });
  expect((body['faults'] as { at: string }[]).map(({ at }) => at).sort()).toEqual(['change.ip', 'change.prefix']);
});

test('a password that is keyed in at a unit never comes back, in no state and to no tab', async () => {
  const tab = await server.socket('harbour-finals');
  await server.call('POST', `${bench}/power`, { deviceIds: ['camera-1'], on: true });
  const secret = 'gull-over-the-mole';
  const { body } = await act({
    act: 'key_in',
    deviceId: 'camera-1',
    change: { of: 'service', key: 'web', password: secret },
  });
  const camera = stateOf(body).standins.find(({ deviceId }) => deviceId === 'camera-1');
  expect(camera?.settings.services[0]).toMatchObject({ key: 'web', hasPassword: true });
  await tab.until(({ topic }) => topic === 'bench');
  expect(JSON.stringify([body, tab.messages])).not.toContain(secret);
  tab.socket.close();
});

test('the bench takes in what thirty changes came to while it was busy, not each of them', async () => {
  await server.call('POST', `${bench}/power`, { deviceIds: ['host', 'desk', 'hub-booth', 'hub-quay'], on: true });
  const tab = await server.socket('harbour-finals');
  const show = (await server.call('GET', '/shows/harbour-finals')).body as unknown as Show;
  const sounded = server.call('POST', `${bench}/sound`, { linkId: 'host-to-desk' });
  const devices = Object.values(show.devices).slice(0, 30);
  const changes = devices.map((device, at) =>
    server.call('POST', '/shows/harbour-finals/changes', {
      id: `quick-${at}-${Date.now()}`,
      author: 'author-quick-1',
      change: rig.planEditDevice(show, device, { note: `quick ${at}` }),
    }),
  );
  const saved = await Promise.all(changes);
  expect(new Set(saved.map(({ status }) => status))).toEqual(new Set([201]));
  const newest = Math.max(...saved.map(({ body }) => Number(body['rev'])));
  await sounded;
  const { states } = tab;
  // behind whatever still waits its turn, and behind every message that was sent until then
  expect((await server.call('GET', bench)).body['rev']).toBe(newest);
  await new Promise<void>((done) => {
    tab.socket.once('pong', () => done());
    tab.socket.ping();
  });
  expect(states().filter(({ rev }) => rev > show.rev).length).toBeLessThan(10);
  tab.socket.close();
});

test('what a key was given a moment ago is what it does, however busy its bench is', async () => {
  await server.call('POST', `${bench}/power`, { deviceIds: ['host', 'desk', 'faders-left'], on: true });
  const show = (await server.call('GET', '/shows/harbour-finals')).body as unknown as Show;
  const surface = show.devices['faders-left'];
  const control = surface && surfaces.controlsOf(show, surface).find(({ key }) => key === 'key-1');
  if (!surface || !control) throw new Error('the demo has no such key');
  const deed = { id: 'next-layer', control, layer: 0, does: 'show_layer' } as const;
  const change = surfaces.planDeed(show, surface, deed, { number: 1 });
  // a plan is not taken in while a sounding runs
  const sounded = server.call('POST', `${bench}/sound`, { linkId: 'host-to-desk' });
  const saved = await server.call('POST', '/shows/harbour-finals/changes', {
    ...{ id: 'next-layer-change', author: 'author-quick-1', change },
  });
  expect(saved.status).toBe(201);
  const moves = [{ control: 'key-1', part: 'whole', value: control.greatest }];
  const sent = { deviceId: 'faders-left', moves, rev: Number(saved.body['rev']) };
  expect((await server.call('POST', `${bench}/moves`, sent)).status).toBe(204);
  await sounded;
  const state = (await server.call('GET', bench)).body as unknown as contract.BenchState;
  expect(state.panels.find(({ deviceId }) => deviceId === 'faders-left')?.layer).toBe(1);
});

test('tabs see the tap as it goes, a capture is a file, and what a scan finds is kept with the show', async () => {
  const tab = await server.socket('harbour-finals');
  const show = (await server.call('GET', '/shows/harbour-finals')).body as { devices: Record<string, unknown> };
  await server.call('POST', `${bench}/power`, { deviceIds: Object.keys(show.devices), on: true });
  await server.call('POST', `${bench}/sound`, { linkId: 'host-to-desk' });
  const heard = (message: { topic: string }) =>
    message.topic === 'tap' && JSON.stringify(message).includes('/desk/cue/31/start 4.0');
  await tab.until(heard);
  const addresses = (await server.call('GET', `${bench}/addresses`)).body as unknown as contract.HeardAddress[];
  expect(addresses).toContainEqual({
    address: '/desk/cue/31/start',
    count: 1,
    values: [{ last: '4', least: 4, greatest: 4 }],
  });
  const state = (await server.call('GET', bench)).body as unknown as contract.BenchState;
  const cue = state.heard.find(({ text }) => text.includes('/desk/cue/31/start 4.0'));
  const frame = await server.call('GET', `${bench}/frames/${cue?.frame ?? 'none'}`);
  const { layers } = frame.body as unknown as contract.FrameAnatomy;
  expect([frame.status, layers.at(-1)?.name]).toEqual([200, 'OSC message']);
  const gone = await server.call('GET', `${bench}/frames/999999999`);
  expect([gone.status, gone.body['code']]).toEqual([404, 'FRAME_GONE']);
  expect((await server.call('GET', `${bench}/frames/-1`)).status).toBe(422);
  const file = await fetch(`${server.url}/api${bench}/capture.pcapng`);
  expect(file.headers.get('content-disposition')).toContain('bench.pcapng');
  expect(
    Buffer.from(await file.arrayBuffer())
      .subarray(0, 4)
      .toString('hex'),
  ).toBe('0a0d0d0a');

  await act({ act: 'scan', deviceId: 'laptop' });
  await tab.until(({ topic }) => topic === 'seen');
  const found = async () => {
    const seen = (await server.call('GET', '/shows/harbour-finals/seen')).body as unknown as Seen;
    return Object.values(seen.found).filter(({ source }) => source === 'scan');
  };
  for (let tries = 0; tries < 100 && (await found()).length === 0; tries += 1)
    await new Promise((done) => setTimeout(done, 100));
  // what happens to a unit ages what was proved of its links, at once and everywhere
  const soundings = async () =>
    ((await server.call('GET', '/shows/harbour-finals/seen')).body as unknown as Seen).soundings;
  await server.call('POST', `${bench}/sound`, { linkId: 'host-to-desk' });
  await server.call('POST', `${bench}/sound`, { linkId: 'remote-to-camera-1' });
  expect((await soundings())['host-to-desk']?.aged).toBeUndefined();
  const isDeskThere = async () => (await found()).some(({ ips }) => ips.some(({ ip }) => ip === '10.61.20.61'));
  expect(await isDeskThere()).toBe(true);
  // whoever went away is missing at the next scan
  await server.call('POST', `${bench}/power`, { deviceIds: ['desk'], on: false });
  for (let tries = 0; tries < 50 && !(await soundings())['host-to-desk']?.aged; tries += 1)
    await new Promise((done) => setTimeout(done, 50));
  const aged = Object.entries(await soundings()).map(([id, { aged: isAged }]) => [id, isAged]);
  expect(aged.sort()).toEqual([
    ['host-to-desk', true],
    ['remote-to-camera-1', undefined],
  ]);
  await act({ act: 'scan', deviceId: 'laptop' });
  for (let tries = 0; tries < 100 && (await isDeskThere()); tries += 1)
    await new Promise((done) => setTimeout(done, 100));
  expect([await isDeskThere(), (await found()).length > 5]).toEqual([false, true]);
  tab.socket.close();
});

test('links under watch are sounded without being asked, kept with the show, and told to the tabs', async () => {
  const tab = await server.socket('harbour-finals');
  const show = (await server.call('GET', '/shows/harbour-finals')).body as { devices: Record<string, unknown> };
  await server.call('POST', `${bench}/power`, { deviceIds: Object.keys(show.devices), on: true });
  expect((await act({ act: 'watch', everySeconds: 1 })).status).toBe(422);
  const { body } = await act({ act: 'watch', everySeconds: 3600 });
  expect(stateOf(body).watch.everySeconds).toBe(3600);
  const kept = async () =>
    ((await server.call('GET', '/shows/harbour-finals/seen')).body as unknown as Seen).soundings['remote-to-camera-2'];
  for (let tries = 0; tries < 400 && !(await kept()); tries += 1) await new Promise((done) => setTimeout(done, 100));
  await tab.until(({ topic }) => topic === 'seen');
  // no command was sent: what only that would tell is left open
  expect((await kept())?.layers.map(({ state, code }) => (state === 'pass' ? state : code))).toEqual([
    ...Array.from({ length: 6 }, () => 'pass'),
    'not_asked',
    'not_asked',
  ]);
  expect(stateOf((await act({ act: 'watch', everySeconds: null })).body).watch.everySeconds).toBeNull();
  tab.socket.close();
});

test('a script is refused with all its faults at once; what it hides never leaves the bench', async () => {
  const tab = await server.socket('harbour-finals');
  const step = { atSeconds: 0, untilSeconds: null, kind: 'cable_out', deviceId: 'recorder', hidden: true };
  const broken = await act({
    act: 'play_script',
    script: {
      title: '',
      steps: [
        { ...step, kind: 'rain' },
        { ...step, untilSeconds: 0 },
        { ...step, atSeconds: 1e9 },
      ],
    },
  });
  const at = (broken.body['faults'] as { at: string }[]).map((fault) => fault.at).sort();
  expect([broken.status, at]).toEqual([
    422,
    ['script.steps.0.kind', 'script.steps.1.untilSeconds', 'script.steps.2.atSeconds', 'script.title'],
  ]);
  const elsewhere = { ...step, deviceId: 'elsewhere' };
  expect((await act({ act: 'play_script', script: { title: 'x', steps: [step, elsewhere] } })).body).toMatchObject({
    code: 'BENCH_REFUSED',
    reason: 'the units of step 2 are not in this show',
  });
  await act({ act: 'play_script', script: { title: 'Evening', steps: [step] } });
  const isSet = (message: unknown) => JSON.stringify(message).includes('"hidden":true,"state":"set"');
  await tab.until((message) => message.topic === 'bench-news' && isSet(message));
  expect(JSON.stringify(tab.messages)).not.toContain('cable_out');
  const found = stateOf((await act({ act: 'script_guess', kind: 'cable_out', deviceId: 'recorder' })).body).script;
  expect([found?.over, found?.steps[0]?.state]).toEqual([true, 'found']);
  expect(stateOf((await act({ act: 'close_script' })).body).script).toBeNull();
  tab.socket.close();
});

test('states of the bench grow in number, so that a tab knows which is the newer', async () => {
  const seqs: number[] = [];
  for (const on of [true, false, true]) {
    const { body } = await server.call('POST', `${bench}/power`, { deviceIds: ['panel'], on });
    seqs.push(stateOf(body).seq);
  }
  expect(seqs).toEqual([...seqs].sort((a, b) => a - b));
  expect(new Set(seqs).size).toBe(3);
});
