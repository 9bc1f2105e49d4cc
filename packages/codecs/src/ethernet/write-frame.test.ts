import { execFileSync } from 'node:child_process';
import { existsSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import fc from 'fast-check';
import { afterAll, expect, test } from 'vitest';
import {
  bridgeGroup,
  CaptureReader,
  everybody,
  groupMac,
  readDhcpMessage,
  readFrame,
  writeCapture,
  writeDhcp,
  writeFrame,
  writeMidiPacket,
  writeSession,
  type DhcpMessage,
  type Frame,
  type Ip,
} from '../index.ts';

const dir = mkdtempSync(join(tmpdir(), 'deep-patch-frames-'));
afterAll(() => rmSync(dir, { recursive: true }));
const hasTshark = existsSync('/usr/bin/tshark');

const [a, b] = ['02:1e:70:00:00:01', '02:1e:70:00:00:02'];
const [ipA, ipB] = [0x0a3d141f, 0x0a3d14c8];
const text = (value: string) => new TextEncoder().encode(value);
const ip = (payload: Ip['payload'], patch: Partial<Ip> = {}): Frame => ({
  to: b,
  from: a,
  vlan: null,
  body: { kind: 'ip', source: ipA, destination: ipB, ttl: 64, payload, ...patch },
});
const udp = (sourcePort: number, destinationPort: number, bytes: Uint8Array): Frame =>
  ip({ kind: 'udp', sourcePort, destinationPort, bytes });
const tcp = (
  flags: Extract<Ip['payload'], { kind: 'tcp' }>['flags'],
  seq: number,
  ack: number,
  bytes = text(''),
): Frame => ip({ kind: 'tcp', sourcePort: 50_000, destinationPort: 80, flags, seq, ack, bytes });
const discover: DhcpMessage = {
  type: 'discover',
  transaction: 7,
  clientMac: a,
  clientIp: 0,
  yourIp: 0,
  hostName: 'desk-2',
};
const dhcp = (message: DhcpMessage): Frame => ({
  ...udp(message.type === 'discover' ? 68 : 67, message.type === 'discover' ? 67 : 68, writeDhcp(message)),
  to: everybody,
});

const frames: Frame[] = [
  { to: everybody, from: a, vlan: null, body: { kind: 'arp', asks: true, senderMac: a, senderIp: ipA, targetIp: ipB } },
  { to: a, from: b, vlan: 20, body: { kind: 'arp', asks: false, senderMac: b, senderIp: ipB, targetIp: ipA } },
  { to: bridgeGroup, from: a, vlan: null, body: { kind: 'bpdu', root: a, cost: 4, bridge: b, port: 3, change: true } },
  ip({ kind: 'icmp', type: 'echo', id: 9 }),
  ip({ kind: 'icmp', type: 'echo-reply', id: 9 }),
  ip({
    kind: 'icmp',
    type: 'port-unreachable',
    source: ipB,
    destination: ipA,
    sourcePort: 5,
    destinationPort: 6,
    bytes: text('what nobody wanted'),
  }),
  dhcp(discover),
  dhcp({ ...discover, type: 'ack', yourIp: ipA, serverIp: ipB, mask: 0xffffff00, router: ipB, leaseSeconds: 600 }),
  tcp(['syn'], 100, 0),
  tcp(['psh', 'ack'], 101, 1, text('PUT /x HTTP/1.1\r\ncontent-length: 0\r\n\r\n')),
  tcp(['fin', 'ack'], 138, 1),
  tcp(['rst'], 139, 0),
  udp(5004, 5004, writeSession({ kind: 'invite', token: 1, ssrc: 2, name: 'Faders' })),
  udp(5005, 5005, writeSession({ kind: 'accept', token: 1, ssrc: 3, name: 'Mixer' })),
  udp(5005, 5005, writeMidiPacket({ seq: 1, timestamp: 10, ssrc: 2, messages: [{ delta: 0, bytes: [0xb2, 7, 90] }] })),
  { ...udp(5353, 5353, text('junk')), to: groupMac(0xe00000fb) },
];
const capture = () =>
  writeCapture(
    frames.map((frame, at) => ({ at: 1_795_600_000_000_000 + at, bytes: writeFrame(frame) })),
    'test',
  );

test('our own reader finds every frame of a capture that we wrote', () => {
  const seen: unknown[] = [];
  const reader = new CaptureReader((frame) => seen.push(...readFrame(frame)));
  reader.push(capture());
  expect(reader.end()).toMatchObject({ format: 'pcapng', frames: frames.length, fault: null });
  expect(seen).toContainEqual({ by: 'arp', mac: b, ip: '10.61.20.200' });
  expect(seen).toContainEqual({
    by: 'dhcp',
    mac: a,
    ip: '10.61.20.31',
    name: 'desk-2',
    prefix: 24,
    method: 'dhcp',
  } as never);
});

test('frames are no shorter than the wire allows', () => {
  for (const frame of frames) expect(writeFrame(frame).length).toBeGreaterThanOrEqual(60);
});

test.skipIf(!hasTshark)('a protocol analyser finds nothing malformed and every checksum right (needs tshark)', () => {
  const file = join(dir, 'ours.pcapng');
  writeFileSync(file, capture());
  const checks = ['ip', 'tcp', 'udp'].flatMap((name) => ['-o', `${name}.check_checksum:TRUE`]);
  const fields = [
    'frame.protocols',
    '_ws.malformed',
    'ip.checksum.status',
    'tcp.checksum.status',
    'udp.checksum.status',
    'icmp.checksum.status',
    'stp.root.cost',
    'dhcp.ip.your',
    'rtpmidi.channel_status',
    'frame.time_epoch',
  ];
  const told = execFileSync(
    'tshark',
    ['-r', file, ...checks, '-T', 'fields', ...fields.flatMap((field) => ['-e', field])],
    {
      encoding: 'utf8',
      stdio: ['ignore', 'pipe', 'ignore'],
    },
  );
  const rows = told
    .trimEnd()
    .split('\n')
    .map((line) => line.split('\t'));
  expect(rows).toHaveLength(frames.length);
  // junk to the port of names is the one that is malformed, which proves that the mark is told
  expect(rows.map(([, malformed]) => malformed !== '')).toEqual(frames.map((_, at) => at === frames.length - 1));
  // 1 is good, 2 not checked (a header quoted within another message); 0 would be bad
  const sums = rows.flatMap((row) => row.slice(2, 6).flatMap((cell) => cell.split(',')));
  expect(sums.filter((sum) => sum === '0')).toEqual([]);
  expect(sums.filter((sum) => sum === '1').length).toBeGreaterThan(20);
  const kinds = rows.map(([protocols]) => protocols?.split(':').at(-1));
  for (const kind of ['arp', 'stp', 'dhcp', 'tcp', 'http', 'applemidi']) expect(kinds).toContain(kind);
  expect([rows[2]?.[6], rows[7]?.[7]]).toEqual(['4', '10.61.20.31']);
  expect(rows[14]?.[0]).toContain('rtpmidi');
  expect(rows[0]?.[9]?.startsWith('1795600000')).toBe(true);
});

test('a DHCP message comes back as it went, and garbage is none', () => {
  const number = fc.integer({ min: 1, max: 0xffffffff });
  fc.assert(
    fc.property(
      fc.record(
        {
          type: fc.constantFrom('discover', 'offer', 'request', 'decline', 'ack', 'nak', 'release', 'inform'),
          transaction: number,
          clientMac: fc.constant(a),
          clientIp: number,
          yourIp: number,
          serverIp: number,
          requestedIp: number,
          mask: number,
          router: number,
          leaseSeconds: number,
          hostName: fc.stringMatching(/^[a-z][a-z0-9-]{0,20}$/),
          renewSeconds: number,
          rebindSeconds: number,
          clientId: fc.stringMatching(/^([0-9a-f]{2}){1,20}$/),
          wants: fc.array(fc.integer({ min: 1, max: 254 }), { minLength: 1, maxLength: 20 }),
          broadcast: fc.constant(true),
          seconds: fc.integer({ min: 1, max: 0xffff }),
        },
        { requiredKeys: ['type', 'transaction', 'clientMac', 'clientIp', 'yourIp'] },
      ),
      (message) => {
        const bytes = writeDhcp(message);
        expect(readDhcpMessage(new DataView(bytes.buffer))).toEqual(message);
        expect(readDhcpMessage(new DataView(bytes.buffer, 0, 200))).toBeUndefined();
      },
    ),
  );
});
