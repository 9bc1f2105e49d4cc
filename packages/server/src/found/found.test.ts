import type { show as core } from '@deep-patch/core';
import { rig, type Seen } from '@deep-patch/core';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { startServer, type TestServer } from '../../test/running.ts';
import { gzipSync } from 'node:zlib';
import { mostCaptureBytes, readCapture } from './read-capture.ts';

let server: TestServer;
beforeAll(async () => {
  server = await startServer();
});
afterAll(() => server.stop());
const demo = '/shows/harbour-finals';

/** A capture of `count` ARP announcements, each of another host, as pcap. */
function capture(count: number): Uint8Array {
  const record = 16 + 42;
  const bytes = new Uint8Array(24 + count * record);
  const view = new DataView(bytes.buffer);
  [0xd4c3b2a1, 0x02000400, 0, 0, 0xffff0000, 0x01000000].forEach((value, at) => view.setUint32(at * 4, value));
  for (let n = 0; n < count; n += 1) {
    const at = 24 + n * record;
    view.setUint32(at + 8, 42, true);
    view.setUint32(at + 12, 42, true);
    const frame = at + 16;
    bytes.fill(255, frame, frame + 6);
    const mac = [2, 0x1e, 0x71, (n >> 16) & 255, (n >> 8) & 255, n & 255];
    bytes.set([...mac, 8, 6, 0, 1, 8, 0, 6, 4, 0, 1, ...mac, 10, 61, (n >> 8) & 255, n & 255], frame + 6);
    bytes.set([0, 0, 0, 0, 0, 0, 10, 61, 20, 200], frame + 32);
  }
  return bytes;
}
const send = (bytes: Uint8Array, type = 'application/octet-stream') =>
  fetch(`http://127.0.0.1:${server.port}/api${demo}/captures`, {
    method: 'POST',
    headers: { 'content-type': type },
    body: bytes as Uint8Array<ArrayBuffer>,
  });
const seen = async () => (await server.call('GET', `${demo}/seen`)).body as unknown as Seen;

describe('captures and hosts', () => {
  test('what cannot be kept is refused at its place: a host twice, a revision or a port beyond its column', async () => {
    const host = {
      id: 'h',
      mac: null,
      ips: [],
      names: [],
      version: null,
      method: null,
      roles: [],
      source: 'person',
      at: 1,
    };
    const twice = await server.call('POST', `${demo}/found`, { hosts: [host, host] });
    expect([twice.status, twice.body['faults']]).toEqual([
      422,
      [{ at: 'hosts.1.id', message: 'An earlier host has this id' }],
    ]);
    const since = await server.call('GET', `${demo}/changes?since=99999999999`);
    expect([since.status, since.body['faults']]).toMatchObject([422, [{ at: 'since' }]]);
    const port = await server.call('DELETE', '/bench/harbour-finals/jacks/99999999999');
    expect([port.status, port.body['faults']]).toMatchObject([422, [{ at: 'port' }]]);
  });

  test('a capture is read and saves nothing; what is taken in is told to everybody, and can be forgotten', async () => {
    const live = await server.socket('harbour-finals');
    const answer = (await (await send(capture(40))).json()) as { hosts: core.FoundHost[]; summary: { frames: number } };
    expect([answer.summary.frames, answer.hosts.length]).toEqual([40, 40]);
    expect((await seen()).found).toEqual({});
    const taken = await server.call('POST', `${demo}/found`, { hosts: answer.hosts });
    expect(taken.status).toBe(201);
    await live.until((message) => message.topic === 'seen');
    expect(Object.keys((await seen()).found)).toHaveLength(40);
    // the same hosts again replace what was known
    await server.call('POST', `${demo}/found`, { hosts: answer.hosts.slice(0, 5) });
    expect(Object.keys((await seen()).found)).toHaveLength(40);
    expect((await server.call('DELETE', `${demo}/found`)).status).toBe(204);
    expect((await seen()).found).toEqual({});
    live.socket.close();
  });

  test('a cut capture gives what was read and says where it ended', async () => {
    const answer = (await (await send(capture(10).subarray(0, 300))).json()) as Record<string, unknown>;
    expect(answer['summary']).toMatchObject({ frames: 4, fault: { code: 'ends_early', at: 256 } });
  });

  test('what is no capture says so, and an unknown show is refused before anything is read', async () => {
    const answer = (await (await send(new TextEncoder().encode('tide table'))).json()) as Record<string, unknown>;
    expect(answer).toMatchObject({ hosts: [], summary: { fault: { code: 'not_a_capture' } } });
    expect((await server.call('POST', '/shows/nobody/captures', 'x')).body.code).toBe('SHOW_NOT_FOUND');
  });

  test('more than 100 MB ends the reading with a clear refusal', async () => {
    const chunk = new Uint8Array(1_000_000);
    async function* endless() {
      for (let sent = 0; sent <= mostCaptureBytes; sent += chunk.length) yield await Promise.resolve(chunk);
    }
    await expect(readCapture(endless(), 0)).rejects.toMatchObject({ code: 'CAPTURE_TOO_LARGE' });
  });

  test('a packed capture is read as it is; one that is cut or damaged gives what came before', async () => {
    const plain = capture(3000);
    const packed = gzipSync(plain);
    async function* inPieces(bytes: Uint8Array, size: number) {
      for (let at = 0; at < bytes.length; at += size) yield await Promise.resolve(bytes.subarray(at, at + size));
    }
    const whole = await readCapture(inPieces(packed, 1), 5);
    expect(whole).toEqual(await readCapture(inPieces(plain, 1000), 5));
    expect([whole.summary.frames, whole.summary.fault]).toEqual([3000, null]);
    const cut = await readCapture(inPieces(packed.subarray(0, packed.length / 2), 500), 5);
    expect(cut.summary.fault?.code).toBe('packing_damaged');
    expect([cut.summary.frames > 100, cut.summary.frames < 3000, cut.hosts.length]).toEqual([
      true,
      true,
      cut.summary.frames,
    ]);
    const spoilt = Uint8Array.from(packed);
    spoilt.fill(0xff, packed.length / 2);
    expect((await readCapture(inPieces(spoilt, 700), 5)).summary.fault?.code).toBe('packing_damaged');
    // much that packs to little is bounded as well
    await expect(readCapture(inPieces(packed, 500), 5, 50_000)).rejects.toMatchObject({ code: 'CAPTURE_TOO_LARGE' });
  });

  test('the server answers others in the middle of a long capture, and keeps no more hosts than it says', async () => {
    const bytes = capture(60_000);
    const between: number[] = [];
    async function* pieces() {
      for (let at = 0; at < bytes.length; at += 400_000) {
        yield bytes.subarray(at, at + 400_000);
        between.push((await server.call('GET', '/health')).status);
      }
    }
    const response = await fetch(`http://127.0.0.1:${server.port}/api${demo}/captures`, {
      method: 'POST',
      headers: { 'content-type': 'application/octet-stream' },
      body: ReadableStream.from(pieces()),
      duplex: 'half',
    });
    const answer = (await response.json()) as { hosts: unknown[]; leftOut: number };
    expect([answer.hosts.length, answer.leftOut]).toEqual([20_000, 40_000]);
    expect(between).toEqual(Array.from({ length: Math.ceil(bytes.length / 400_000) }, () => 200));
  });

  test.each([
    [{ hosts: [] }, 'hosts'],
    [{ hosts: [{ id: 'x' }] }, 'hosts.0.mac'],
    [
      {
        hosts: [
          {
            id: 'x',
            mac: 'nope',
            ips: [],
            names: [],
            version: null,
            method: null,
            roles: [],
            source: 'listing',
            at: 1,
          },
        ],
      },
      'hosts.0.mac',
    ],
  ])('hosts with faults are refused whole: %j', async (body, at) => {
    const answer = await server.call('POST', `${demo}/found`, body);
    expect([answer.status, answer.body.code]).toEqual([422, 'INVALID']);
    expect((answer.body['faults'] as { at: string }[]).map((fault) => fault.at)).toContain(at);
    expect((await seen()).found).toEqual({});
  });
});

test('the published schema of type files describes what the reader takes', async () => {
  const { body } = await server.call('GET', '/schemas/device-types.json');
  expect(body).toMatchObject({ type: 'object', required: ['format', 'version', 'name', 'types'] });
  const show = (await server.call('GET', demo)).body as unknown as core.Show;
  expect(rig.readTypeFile(JSON.stringify(rig.writeTypeFile(show, 'shipped'))).ok).toBe(true);
});
