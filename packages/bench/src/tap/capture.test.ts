import { execFileSync } from 'node:child_process';
import { existsSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, expect, test } from 'vitest';
import { demoBench, stopBenches } from '../demo-bench.test-data.ts';

afterEach(stopBenches);

const hasTshark = existsSync('/usr/bin/tshark');
const most = 20_000;
const checks = ['ip', 'tcp', 'udp'].flatMap((name) => ['-o', `${name}.check_checksum:TRUE`]);
const fields = [
  'frame.protocols',
  '_ws.malformed',
  'ip.checksum.status',
  'tcp.checksum.status',
  'udp.checksum.status',
  'icmp.checksum.status',
  'tcp.analysis.duplicate_ack',
  'tcp.analysis.retransmission',
  'tcp.analysis.out_of_order',
  'ip.addr',
  'udp.payload',
] as const;
/** A time stamp of one message: the analyser calls a lone one malformed though it is right. */
const isLoneQuarterFrame = (payload = '') => /^80e1.{20}(02|42)f1/.test(payload);

test.skipIf(!hasTshark)(
  '20,000 frames of the demo at work: every checksum right, nothing malformed, nothing twice on a wire (needs tshark)',
  async () => {
    const { bench, sounding, show, site, act, state, eventually } = await demoBench();
    const made = site();
    let frames = 0;
    for (const { host, computer } of made.standins.values()) if (!computer) host.watchSent(() => (frames += 1));
    const pass = (ms: number) => new Promise<void>((done) => void made.scheduler.after(ms, done));
    await act({ act: 'watch', everySeconds: 15 });
    while (frames < most) {
      for (const id of Object.keys(show.links)) await sounding(id);
      await pass(20_000);
    }
    await act({ act: 'scan', deviceId: 'laptop' });
    expect(await eventually(async () => (await state()).scan?.running === false)).toBe(true);
    const dir = mkdtempSync(join(tmpdir(), 'deep-patch-capture-'));
    try {
      const file = join(dir, 'demo.pcapng');
      const capture = (await bench.handle({ kind: 'capture', showId: show.id })) as string;
      writeFileSync(file, Buffer.from(capture, 'base64'));
      const told = execFileSync(
        'tshark',
        [
          '-r',
          file,
          ...checks,
          '--enable-heuristic',
          'osc_udp',
          '-T',
          'fields',
          ...fields.flatMap((field) => ['-e', field]),
        ],
        { encoding: 'utf8', stdio: ['ignore', 'pipe', 'ignore'], maxBuffer: 1 << 28 },
      );
      const rows = told
        .split('\n')
        .filter(Boolean)
        .map(
          (line) =>
            Object.fromEntries(line.split('\t').map((cell, at) => [fields[at], cell])) as Record<
              (typeof fields)[number],
              string
            >,
        );
      expect(rows.length).toBeGreaterThanOrEqual(most);
      const kinds = new Set(rows.flatMap((row) => row['frame.protocols'].split(':')));
      for (const kind of ['arp', 'stp', 'icmp', 'tcp', 'http', 'osc', 'mdns'])
        expect([kind, kinds.has(kind)]).toEqual([kind, true]);
      const malformed = rows.filter((row) => row['_ws.malformed'] !== '' && !isLoneQuarterFrame(row['udp.payload']));
      expect(malformed.slice(0, 5)).toEqual([]);
      // 1 is good; of what an error message quotes only the head is there, so its checksum cannot be told (2)
      for (const field of fields.filter((name) => name.endsWith('checksum.status'))) {
        const bad = rows.filter((row) => {
          const isQuoted = field === 'udp.checksum.status' && row['frame.protocols'].endsWith('icmp:ip:udp');
          return !(isQuoted ? /^2$/ : /^(1(,1)*)?$/).test(row[field]);
        });
        expect([field, bad.slice(0, 3)]).toEqual([field, []]);
      }
      // the camera on the boat is reached over the air, where a frame may be lost and sent again
      const wired = rows.filter((row) => !row['ip.addr'].includes('10.61.20.34'));
      for (const field of [
        'tcp.analysis.duplicate_ack',
        'tcp.analysis.retransmission',
        'tcp.analysis.out_of_order',
      ] as const)
        expect([field, wired.filter((row) => row[field] !== '').slice(0, 5)]).toEqual([field, []]);
    } finally {
      rmSync(dir, { recursive: true });
    }
  },
  90_000,
);
