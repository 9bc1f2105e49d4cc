import { execFileSync, spawn } from 'node:child_process';
import { createSocket } from 'node:dgram';
import { once } from 'node:events';
import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import fc from 'fast-check';
import { afterAll, describe, expect, test } from 'vitest';
import { CaptureReader, readFrame, type CaptureSummary, type Sighting } from '../index.ts';

const dir = mkdtempSync(join(tmpdir(), 'deep-patch-capture-'));
afterAll(() => rmSync(dir, { recursive: true }));
const hasTools = ['text2pcap', 'editcap', 'tshark'].every((tool) => existsSync(`/usr/bin/${tool}`));
const hasDump = existsSync('/usr/bin/tcpdump') && process.getuid?.() === 0;

const mac = (n: number) => [2, 0x1e, 0x70, 0, 0, n];
const macText = (n: number) => `02:1e:70:00:00:${n.toString(16).padStart(2, '0')}`;
const ip = (text: string) => text.split('.').map(Number);
const u16 = (n: number) => [n >> 8, n & 255];
const ethernet = (from: number, type: number, body: number[]) => [
  255,
  255,
  255,
  255,
  255,
  255,
  ...mac(from),
  ...u16(type),
  ...body,
];
const arp = (from: number, own: string, asked: string, asks = true) =>
  ethernet(from, 0x0806, [0, 1, 8, 0, 6, 4, 0, asks ? 1 : 2, ...mac(from), ...ip(own), 0, 0, 0, 0, 0, 0, ...ip(asked)]);

/** IPv4 with a right header checksum (RFC 1071), so that other tools accept it. */
function ipv4(source: string, destination: string, body: number[]): number[] {
  const header = [0x45, 0, ...u16(20 + body.length), 0, 1, 0, 0, 64, 17, 0, 0, ...ip(source), ...ip(destination)];
  let sum = 0;
  for (let at = 0; at < 20; at += 2) sum += ((header[at] ?? 0) << 8) | (header[at + 1] ?? 0);
  while (sum > 0xffff) sum = (sum & 0xffff) + (sum >> 16);
  header.splice(10, 2, ...u16(~sum & 0xffff));
  return [...header, ...body];
}
const udp = (from: number, to: number, body: number[]) => [
  ...u16(from),
  ...u16(to),
  ...u16(8 + body.length),
  0,
  0,
  ...body,
];
const text = (value: string) => [...new TextEncoder().encode(value)];

function dhcpAck(client: number, given: string, server: string): number[] {
  const fixed = [
    2,
    1,
    6,
    0,
    1,
    2,
    3,
    4,
    0,
    0,
    0,
    0,
    0,
    0,
    0,
    0,
    ...ip(given),
    ...ip(server),
    0,
    0,
    0,
    0,
    ...mac(client),
  ];
  const options = [53, 1, 5, 54, 4, ...ip(server), 1, 4, 255, 255, 255, 0, 12, 6, ...text('desk-2'), 255];
  return [...fixed, ...Array.from({ length: 10 + 64 + 128 }, () => 0), 0x63, 0x82, 0x53, 0x63, ...options];
}
const label = (value: string) => [value.length, ...text(value)];
/** An answer that names an address, its second record by a compression pointer to the first name. */
const mdnsAnswer = (name: string, own: string) => [
  ...[0, 0, 0x84, 0, 0, 0, 0, 2, 0, 0, 0, 0],
  ...[...label(name), ...label('local'), 0, 0, 1, 0x80, 1, 0, 0, 0, 120, 0, 4, ...ip(own)],
  ...[0xc0, 12, 0, 1, 0, 1, 0, 0, 0, 120, 0, 4, ...ip('10.61.20.99')],
];

const frames = [
  arp(1, '10.61.20.31', '10.61.20.200'),
  arp(2, '0.0.0.0', '10.61.20.32'),
  [...ethernet(3, 0x8100, [0, 20, 8, 6]), ...arp(3, '10.61.20.33', '10.61.20.1', false).slice(14)],
  ethernet(9, 0x0800, ipv4('10.61.20.1', '255.255.255.255', udp(67, 68, dhcpAck(4, '10.61.20.121', '10.61.20.1')))),
  ethernet(5, 0x0800, ipv4('10.61.20.34', '224.0.0.251', udp(5353, 5353, mdnsAnswer('Camera-4', '10.61.20.34')))),
  ethernet(6, 0x0800, ipv4('10.61.20.71', '10.61.20.200', udp(4710, 9000, [1, 2, 3, 4]))),
];
const expected: Sighting[] = [
  { by: 'arp', mac: macText(1), ip: '10.61.20.31' },
  { by: 'arp', mac: macText(2), ip: null },
  { by: 'arp', mac: macText(3), ip: '10.61.20.33' },
  { by: 'ip', mac: macText(9), ip: '10.61.20.1' },
  { by: 'dhcp', mac: macText(4), ip: '10.61.20.121', name: 'desk-2', prefix: 24, method: 'dhcp' },
  { by: 'dhcp', mac: macText(9), ip: '10.61.20.1', role: 'dhcp_server' },
  { by: 'ip', mac: macText(5), ip: '10.61.20.34' },
  { by: 'mdns', mac: macText(5), ip: '10.61.20.34', name: 'Camera-4' },
  { by: 'mdns', mac: null, ip: '10.61.20.99', name: 'Camera-4' },
  { by: 'ip', mac: macText(6), ip: '10.61.20.71' },
];

function read(bytes: Uint8Array, chunk = bytes.length): { seen: Sighting[]; summary: CaptureSummary } {
  const seen: Sighting[] = [];
  const reader = new CaptureReader((frame) => seen.push(...readFrame(frame)));
  for (let at = 0; at < bytes.length; at += Math.max(1, chunk))
    reader.push(bytes.subarray(at, at + Math.max(1, chunk)));
  return { seen, summary: reader.end() };
}

/** The frames as pcap by hand, for machines without the tools. */
function plainPcap(little = true): Uint8Array {
  const size = 24 + frames.reduce((sum, frame) => sum + 16 + frame.length, 0);
  const bytes = new Uint8Array(size);
  const view = new DataView(bytes.buffer);
  [0xa1b2c3d4, 0x00020004, 0, 0, 65_535, 1].forEach((value, at) => view.setUint32(at * 4, value, little));
  view.setUint16(4, 2, little);
  view.setUint16(6, 4, little);
  let at = 24;
  for (const frame of frames) {
    view.setUint32(at + 8, frame.length, little);
    view.setUint32(at + 12, frame.length, little);
    bytes.set(frame, at + 16);
    at += 16 + frame.length;
  }
  return bytes;
}

describe('captures', () => {
  test.each([
    ['little-endian', true],
    ['big-endian', false],
  ])('pcap, %s, in chunks of any size', (_order, little) => {
    for (const chunk of [1, 7, 64, 100_000]) {
      const { seen, summary } = read(plainPcap(little), chunk);
      expect(seen).toEqual(expected);
      expect(summary).toMatchObject({ format: 'pcap', frames: frames.length, fault: null });
    }
  });

  test.skipIf(!hasTools)('files of a real tool in every format it writes (needs text2pcap and editcap)', () => {
    const dump = frames
      .map((frame) =>
        frame
          .map(
            (byte, at) =>
              `${at % 16 === 0 ? `${at.toString(16).padStart(6, '0')} ` : ''}${byte.toString(16).padStart(2, '0')}${at % 16 === 15 ? '\n' : ' '}`,
          )
          .join(''),
      )
      .join('\n\n');
    const [hex, plain] = [join(dir, 'frames.txt'), join(dir, 'frames.pcap')];
    writeFileSync(hex, `${dump}\n`);
    execFileSync('text2pcap', ['-q', '-F', 'pcap', hex, plain]);
    for (const format of ['pcap', 'nsecpcap', 'pcapng', 'modpcap']) {
      const file = join(dir, `frames.${format}`);
      execFileSync('editcap', ['-F', format, plain, file]);
      const { seen, summary } = read(readFileSync(file), 50);
      // one of them has longer record headers of its own and must be refused, not misread
      if (format === 'modpcap') expect(summary.fault?.code).toBe('not_a_capture');
      else expect([format, seen, summary.frames]).toEqual([format, expected, frames.length]);
    }
    // what an independent dissector says about the same file
    const fields = ['arp.src.hw_mac', 'arp.src.proto_ipv4', 'dhcp.ip.your', 'dhcp.option.hostname', 'dns.resp.name'];
    const told = execFileSync('tshark', ['-r', plain, '-T', 'fields', ...fields.flatMap((field) => ['-e', field])], {
      encoding: 'utf8',
    });
    const rows = told.split('\n').map((line) => line.split('\t'));
    expect(rows[0]?.slice(0, 2)).toEqual([macText(1), '10.61.20.31']);
    expect(rows[2]?.slice(0, 2)).toEqual([macText(3), '10.61.20.33']);
    expect(rows[3]?.slice(2, 4)).toEqual(['10.61.20.121', 'desk-2']);
    expect(rows[4]?.[4]).toMatch(/^Camera-4\.local,Camera-4\.local$/);
  });

  test.skipIf(!hasDump)('a live capture of loopback is read to its last frame (needs tcpdump as root)', async () => {
    const file = join(dir, 'live.pcap');
    const [receiver, sender] = [createSocket('udp4'), createSocket('udp4')];
    await new Promise<void>((done) => receiver.bind(0, '127.0.0.1', done));
    const { port } = receiver.address();
    const dump = spawn('tcpdump', ['-i', 'lo', '-n', '-U', '-c', '5', '-w', file, 'udp', 'port', String(port)], {
      stdio: ['ignore', 'ignore', 'pipe'],
    });
    await once(dump.stderr, 'data');
    const ended = once(dump, 'exit');
    const timer = setInterval(() => sender.send('tide', port, '127.0.0.1'), 20);
    await ended;
    clearInterval(timer);
    receiver.close();
    sender.close();
    const { seen, summary } = read(readFileSync(file));
    expect([summary.frames, summary.fault, seen]).toEqual([5, null, []]);
  });

  test('a cut file says how far it got and keeps what it read', () => {
    const whole = plainPcap();
    fc.assert(
      fc.property(fc.integer({ min: 0, max: whole.length - 1 }), (cut) => {
        const { seen, summary } = read(whole.subarray(0, cut));
        const ends = frames.reduce<number[]>((all, frame) => [...all, (all.at(-1) ?? 24) + 16 + frame.length], [24]);
        const complete = Math.max(0, ends.filter((end) => end <= cut).length - 1);
        expect(summary.frames).toBe(complete);
        expect(seen).toEqual(expected.slice(0, seen.length));
        if (!ends.includes(cut)) expect(summary.fault?.code).toBe(cut < 24 ? 'not_a_capture' : 'ends_early');
      }),
    );
  });

  test('hostile bytes never throw, never hold much and never run long', () => {
    const whole = plainPcap();
    fc.assert(
      fc.property(
        fc.array(fc.record({ at: fc.nat(whole.length - 1), byte: fc.integer({ min: 0, max: 255 }) }), {
          minLength: 1,
          maxLength: 12,
        }),
        fc.integer({ min: 1, max: 200 }),
        (wounds, chunk) => {
          const bytes = whole.slice();
          for (const { at, byte } of wounds) bytes[at] = byte;
          const { seen, summary } = read(bytes, chunk);
          expect(summary.frames).toBeLessThanOrEqual(frames.length + bytes.length / 16);
          for (const { ip: found } of seen) expect(found ?? '0.0.0.0').toMatch(/^\d{1,3}(\.\d{1,3}){3}$/);
        },
      ),
      { numRuns: 3000 },
    );
    for (const bytes of [new Uint8Array(0), new Uint8Array(5000), new TextEncoder().encode('not a capture at all')])
      expect(read(bytes).summary.fault?.code).toBe('not_a_capture');
  });

  test('a record or block that claims to be huge is refused at once', () => {
    const pcap = plainPcap();
    new DataView(pcap.buffer).setUint32(24 + 8, 0x7fffffff, true);
    expect(read(pcap).summary.fault).toEqual({ code: 'record_too_long', at: 24 });
    const block = new Uint8Array(40);
    const view = new DataView(block.buffer);
    [0x0a0d0d0a, 0xfffffff0, 0x1a2b3c4d].forEach((value, at) => view.setUint32(at * 4, value));
    expect(read(block).summary.fault).toEqual({ code: 'length_impossible', at: 0 });
  });
});
