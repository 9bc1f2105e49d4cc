import { createServer } from 'node:http';
import { expect, test } from 'vitest';
import { requestWeb } from '../protocols/http/web-client.ts';
import { Cable } from './cable.ts';
import { Host } from './host.ts';
import { startScheduler } from './scheduler.ts';

const pair = (loss: number) => {
  const scheduler = startScheduler(20);
  const [near, far] = [new Host(scheduler), new Host(scheduler)];
  const ports = [near, far].map((host, at) =>
    host.addAdapter(
      'lan',
      `02:00:00:00:00:0${at}`,
      [{ ip: 0x0a000001 + at, prefix: 24, gateway: null, tag: null }],
      () => true,
    ),
  );
  let seed = 99;
  const random = () => ((seed = (Math.imul(seed, 48_271) >>> 0) % 2_147_483_647) % 1000) / 1000;
  if (ports[0] && ports[1])
    new Cable([ports[0], ports[1]], { delayMs: 1, jitterMs: 3, loss, rate: 1e8 }, scheduler, random);
  return { near, far, scheduler };
};
const ask = (host: Host, port: number, text: string) =>
  requestWeb(host, {
    ip: 0x0a000002,
    port,
    method: 'PUT',
    path: '/echo',
    body: { text },
    login: undefined,
    agent: 'test',
  });

test.each([0, 0.15])('HTTP arrives whole and in order with a loss of %s', async (loss) => {
  const { near, far, scheduler } = pair(loss);
  const server = createServer((request, response) => {
    const chunks: Buffer[] = [];
    request.on('data', (chunk: Buffer) => chunks.push(chunk));
    request.on('end', () => response.end(Buffer.concat(chunks)));
  });
  far.tcp.listen(80, (stream) => server.emit('connection', stream));
  const text = Array.from({ length: 2000 }, (_, at) => String(at)).join(' ');
  expect(await ask(near, 80, text)).toMatchObject({ status: 200, body: { text } });
  scheduler.stop();
});

test('a closed port refuses, a silent one is given up', async () => {
  const { near, far, scheduler } = pair(0);
  expect(await ask(near, 81, 'x')).toBe('refused');
  expect(await near.ping(0x0a000009)).toBeUndefined();
  expect(await near.resolve(0x0b000001)).toBe('no_route');
  expect(await near.resolve(0x0a000002)).toEqual({ macs: [far.adapters[0]?.mac] });
  scheduler.stop();
});
