import { afterEach, expect, test } from 'vitest';
import { demoBench, stopBenches } from '../demo-bench.test-data.ts';

afterEach(stopBenches);

test('a password that is told in plain goes over the wire, and is in no line, no bytes and no capture', async () => {
  const { site } = await demoBench();
  const { tap } = site();
  const secret = Buffer.from('ops:lantern-tide-31').toString('base64');
  const said = `GET /a HTTP/1.1\r\nAuthorization: Basic ${secret}\r\nhost: x\r\n\r\n`;
  const bytes = Uint8Array.from(Buffer.from(said));
  const ports = { sourcePort: 50_000, destinationPort: 80 };
  const payload = { kind: 'tcp', ...ports, flags: ['ack'], seq: 1, ack: 1, bytes } as const;
  const body = { kind: 'ip', source: 1, destination: 2, ttl: 64, payload } as const;
  tap.take({ to: '02:00:00:00:00:01', from: '02:00:00:00:00:02', vlan: null, body });
  const line = tap.last(1)[0];
  const told = tap.anatomy(line?.frame ?? -1);
  const words = JSON.stringify(told?.layers);
  expect(words).toContain(`Authorization: Basic ${'-'.repeat(secret.length)}`);
  const kept = [JSON.stringify(line), words, Buffer.from(told?.hex ?? '', 'hex').toString('latin1')];
  for (const text of [...kept, Buffer.from(tap.capture('all')).toString('latin1')]) expect(text).not.toContain(secret);
  expect(told?.hex.length).toBe((14 + 40 + said.length) * 2);
});

test('running time code is a line a second, so that it drowns nothing; the capture keeps every frame', async () => {
  const { site } = await demoBench();
  const { scheduler, tap, standins } = site();
  let packets = 0;
  const pass = (ms: number) => new Promise<void>((done) => void scheduler.after(ms, done));
  await site().settled();
  await pass(1000);
  standins.get('timecode')?.host.watchSent(() => (packets += 1));
  const from = tap.last(1)[0]?.at ?? 0;
  await pass(10_000);
  const lines = tap.last(5000).filter(({ at, fromId }) => at > from && fromId === 'timecode');
  expect(packets).toBeGreaterThan(400);
  expect(lines.filter(({ text }) => /^00:00:\d\d:\d\d time code, 25 frames$/.test(text)).length).toBeGreaterThanOrEqual(
    9,
  );
  expect(new Set(lines.flatMap(({ as }) => as ?? []))).toEqual(new Set(['time code']));
  expect(lines.length).toBeLessThan(30);
  const { hex, layers } = tap.anatomy(lines.at(-1)?.frame ?? -1) ?? { hex: '', layers: [] };
  expect(layers.map(({ name }) => name)).toEqual(expect.arrayContaining(['Ethernet', 'IPv4', 'UDP', 'RTP', 'MIDI']));
  expect(layers.flatMap(({ parts }) => parts).reduce((sum, { length }) => sum + length, 0)).toBe(hex.length / 2);
  expect(tap.anatomy(1e9)).toBeUndefined();
  expect(tap.capture('all').length).toBeGreaterThan(packets * 60);
});
