import type { show as core, Seen } from '@deep-patch/core';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { startServer, type TestServer } from '../../test/running.ts';

let server: TestServer;
beforeAll(async () => {
  server = await startServer();
});
afterAll(() => server.stop());

const bench = '/bench/harbour-finals';
const act = (wanted: object) => server.call('POST', `${bench}/acts`, wanted);
const stateOf = (body: unknown) => body as core.BenchState;

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

test('tabs see the tap as it goes, a capture is a file, and what a scan finds is kept with the show', async () => {
  const tab = await server.socket('harbour-finals');
  const show = (await server.call('GET', '/shows/harbour-finals')).body as { devices: Record<string, unknown> };
  await server.call('POST', `${bench}/power`, { deviceIds: Object.keys(show.devices), on: true });
  await server.call('POST', `${bench}/sound`, { linkId: 'host-to-desk' });
  const heard = (message: { topic: string }) =>
    message.topic === 'tap' && JSON.stringify(message).includes('/desk/cue/31/start 4.0');
  await tab.until(heard);
  const addresses = (await server.call('GET', `${bench}/addresses`)).body as unknown as core.HeardAddress[];
  expect(addresses).toContainEqual({ address: '/desk/cue/31/start', count: 1, last: '4', least: 4, greatest: 4 });
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
  expect((await found()).some(({ ips }) => ips.some(({ ip }) => ip === '10.61.20.61'))).toBe(true);
  tab.socket.close();
}, 30_000);
