import { execFileSync } from 'node:child_process';
import { existsSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import fc from 'fast-check';
import { afterAll, expect, test } from 'vitest';
import {
  anatomyOf,
  bridgeGroup,
  everybody,
  writeCapture,
  writeDhcp,
  writeFrame,
  writeMidiPacket,
  writeOsc,
  writeSession,
  writeWake,
  type Frame,
  type Ip,
} from '../index.ts';

const dir = mkdtempSync(join(tmpdir(), 'deep-patch-anatomy-'));
afterAll(() => rmSync(dir, { recursive: true }));
const hasTshark = existsSync('/usr/bin/tshark');

const [a, b] = ['02:1e:70:00:00:01', '02:1e:70:00:00:02'];
const text = (value: string) => new TextEncoder().encode(value);
const ip = (payload: Ip['payload'], vlan: number | null = null): Frame => ({
  ...{ to: b, from: a, vlan },
  body: { kind: 'ip', source: 0x0a3d141f, destination: 0x0a3d14c8, ttl: 64, payload },
});
const udp = (sourcePort: number, destinationPort: number, bytes: Uint8Array, vlan: number | null = null) =>
  ip({ kind: 'udp', sourcePort, destinationPort, bytes }, vlan);
const question = Uint8Array.of(
  0,
  7,
  0,
  0,
  0,
  1,
  0,
  0,
  0,
  0,
  0,
  0,
  4,
  ...text('desk'),
  5,
  ...text('local'),
  0,
  0,
  1,
  0,
  1,
);
const cue = {
  address: '/desk/cue/31/start',
  args: [
    { type: 'f', value: 2.5 },
    { type: 's', value: 'tide' },
  ],
} as const;

const frames: readonly Frame[] = [
  {
    to: everybody,
    from: a,
    vlan: 20,
    body: { kind: 'arp', asks: true, senderMac: a, senderIp: 0x0a3d141f, targetIp: 0x0a3d14c8 },
  },
  { to: bridgeGroup, from: a, vlan: null, body: { kind: 'bpdu', root: a, cost: 4, bridge: b, port: 3, change: true } },
  { to: b, from: a, vlan: null, body: { kind: 'probe', asks: true, id: 9 } },
  ip({ kind: 'icmp', type: 'echo', id: 77 }),
  ip({
    kind: 'icmp',
    type: 'port-unreachable',
    source: 1,
    destination: 2,
    sourcePort: 3,
    destinationPort: 4,
    bytes: text('x'),
  }),
  ip({
    kind: 'tcp',
    sourcePort: 50_000,
    destinationPort: 80,
    flags: ['ack', 'psh'],
    seq: 9,
    ack: 4,
    bytes: text('GET /a HTTP/1.1\r\nhost: x\r\n\r\n'),
  }),
  udp(9000, 8300, writeOsc(cue), 30),
  udp(9000, 8300, writeOsc({ time: 1n, elements: [cue, { time: 1n, elements: [{ address: '/in', args: [] }] }] })),
  udp(
    68,
    67,
    writeDhcp({ type: 'discover', transaction: 7, clientMac: a, clientIp: 0, yourIp: 0, hostName: 'desk-2' }),
  ),
  udp(5353, 5353, question),
  udp(5004, 5004, writeSession({ kind: 'invite', token: 1, ssrc: 2, name: 'Faders' })),
  udp(5005, 5005, writeSession({ kind: 'clock', ssrc: 2, count: 1, times: [10, 20] })),
  udp(5005, 5005, writeMidiPacket({ seq: 1, timestamp: 2, ssrc: 3, messages: [{ delta: 0, bytes: [0xb2, 7, 90] }] })),
  udp(9, 9, writeWake('02:00:00:00:00:01')),
  udp(4000, 4001, Uint8Array.of(1, 2, 3, 200)),
];

/** Name and value of a field in a frame, without the layer where it stands. */
const valueOf = (frame: Frame, name: string): string | undefined =>
  anatomyOf(writeFrame(frame))
    .flatMap(({ parts }) => parts)
    .find((part) => part.name === name)?.value;

test('every protocol of the bench is told by name, with what its fields say', () => {
  const names = frames.map((frame) =>
    anatomyOf(writeFrame(frame))
      .map(({ name }) => name)
      .join(' · '),
  );
  expect(names).toEqual([
    'Ethernet · VLAN tag · ARP · Padding',
    'Ethernet · LLC · Spanning tree · Padding',
    'Ethernet · Data',
    'Ethernet · IPv4 · ICMP · Padding',
    'Ethernet · IPv4 · ICMP',
    'Ethernet · IPv4 · TCP · Text',
    'Ethernet · VLAN tag · IPv4 · UDP · OSC message',
    'Ethernet · IPv4 · UDP · OSC bundle · OSC message · OSC bundle · OSC bundle · OSC message',
    'Ethernet · IPv4 · UDP · DHCP',
    'Ethernet · IPv4 · UDP · DNS',
    'Ethernet · IPv4 · UDP · MIDI session',
    'Ethernet · IPv4 · UDP · MIDI session',
    'Ethernet · IPv4 · UDP · RTP · MIDI · Padding',
    'Ethernet · IPv4 · UDP · Wake on LAN',
    'Ethernet · IPv4 · UDP · Data · Padding',
  ]);
  const said = (at: number, name: string) => valueOf(frames[at] as Frame, name);
  expect([said(0, 'sender’s address'), said(0, 'asks or answers')]).toEqual(['10.61.20.31', '1 who has it?']);
  expect([said(5, 'flags'), said(5, 'line 1')]).toEqual(['PSH, ACK', 'GET /a HTTP/1.1']);
  expect([said(6, 'address'), said(6, 'value 1, f'), said(6, 'value 2, s')]).toEqual([cue.address, '2.5', 'tide']);
  expect([said(6, 'priority and VLAN'), said(7, 'time')]).toEqual(['priority 0, VLAN 30', 'at once']);
  expect([said(8, 'option 53, message'), said(8, 'option 12, host name')]).toEqual(['discover', 'desk-2']);
  expect([said(9, 'question'), said(10, 'name'), said(12, 'messages')]).toEqual([
    'desk.local: address?',
    'Faders',
    'control-change 3 7 90',
  ]);
});

test('every byte belongs to one field, in order, whatever is cut off or damaged, and nothing is thrown', () => {
  let runs = 0;
  fc.assert(
    fc.property(
      fc.constantFrom(...frames),
      fc.option(fc.nat(400), { nil: undefined }),
      fc.array(fc.tuple(fc.nat(400), fc.nat(255)), { maxLength: 6 }),
      (frame, cut, wounds) => {
        runs += 1;
        const bytes = writeFrame(frame).slice(0, cut);
        for (const [at, value] of wounds) if (at < bytes.length) bytes[at] = value;
        let next = 0;
        for (const { at, length } of anatomyOf(bytes).flatMap(({ parts }) => parts)) {
          expect(at).toBe(next);
          next += length;
        }
        expect(next).toBe(bytes.length);
      },
    ),
    { numRuns: 3000 },
  );
  expect(runs).toBe(3000);
});

test.skipIf(!hasTshark)('an independent reader finds the same values in the same frames (needs tshark)', () => {
  const file = join(dir, 'all.pcapng');
  writeFileSync(
    file,
    writeCapture(
      frames.map((frame, at) => ({ at, bytes: writeFrame(frame) })),
      'test',
    ),
  );
  const fields = {
    'eth.src': 'from',
    'ip.ttl': 'hops left',
    'udp.dstport': 'to port',
    'tcp.seq_raw': 'sequence number',
    'osc.message.header.path': 'address',
    'arp.src.proto_ipv4': 'sender’s address',
    'dhcp.option.hostname': 'option 12, host name',
  } as const;
  const told = execFileSync(
    'tshark',
    [
      '-r',
      file,
      '--enable-heuristic',
      'osc_udp',
      '-T',
      'fields',
      ...Object.keys(fields).flatMap((field) => ['-e', field]),
    ],
    { encoding: 'utf8', stdio: ['ignore', 'pipe', 'ignore'] },
  );
  let compared = 0;
  for (const [at, line] of told.split('\n').filter(Boolean).entries())
    for (const [column, theirs] of line.split('\t').entries()) {
      const [own] = theirs.split(',');
      const frame = frames[at];
      // of what an error message quotes only the head is there
      if (!own || !frame || anatomyOf(writeFrame(frame)).some((layer) => layer.name === 'ICMP')) continue;
      const name = Object.values(fields)[column] ?? '';
      expect([at, name, valueOf(frame, name)]).toEqual([at, name, own]);
      compared += 1;
    }
  expect(compared).toBeGreaterThan(30);
});
