import { AUTHORITATIVE_ANSWER, decode, encode, type Answer, type Packet, type Question } from 'dns-packet';
import { readRtpMidi } from '@deep-patch/codecs';
import { demoShow } from '@deep-patch/demo';
import { afterEach, describe, expect, test } from 'vitest';
import { demoBench, stopBenches } from '../../demo-bench.test-data.ts';
import { startScheduler, type Scheduler } from '../../ether/scheduler.ts';
import { Site } from '../../site/site.ts';
import { namesGroup, namesPort } from './name-service.ts';
import { responseTo, type Offers } from './records.ts';

const offers: Offers = {
  host: 'Desk.local',
  ips: ['10.1.0.60'],
  services: [{ type: '_osc._udp.local', instance: 'Desk._osc._udp.local', port: 8000, text: 'version=7.4' }],
};
const ask = (questions: Question[], answers: Answer[] = []): Packet => ({ type: 'query', questions, answers });
const said = (query: Packet) => {
  const response = responseTo(query, offers);
  const short = (records: readonly Answer[] = []) => records.map(({ name, type }) => `${type} ${name}`);
  return response && { answers: short(response.answers), more: short(response.additionals), shared: response.shared };
};

describe('answers (RFC 6762, RFC 6763)', () => {
  test.each([
    [
      'a type',
      { name: '_osc._udp.local', type: 'PTR' },
      ['PTR _osc._udp.local'],
      ['SRV Desk._osc._udp.local', 'TXT Desk._osc._udp.local', 'A Desk.local'],
      true,
    ],
    [
      'a type in capitals',
      { name: '_OSC._UDP.local', type: 'PTR' },
      ['PTR _osc._udp.local'],
      ['SRV Desk._osc._udp.local', 'TXT Desk._osc._udp.local', 'A Desk.local'],
      true,
    ],
    [
      'all types',
      { name: '_services._dns-sd._udp.local', type: 'PTR' },
      ['PTR _services._dns-sd._udp.local'],
      [],
      true,
    ],
    [
      'where an instance is',
      { name: 'Desk._osc._udp.local', type: 'SRV' },
      ['SRV Desk._osc._udp.local'],
      ['A Desk.local'],
      false,
    ],
    ['what it says of itself', { name: 'Desk._osc._udp.local', type: 'TXT' }, ['TXT Desk._osc._udp.local'], [], false],
    ['an address', { name: 'desk.local', type: 'A' }, ['A Desk.local'], [], false],
  ] as [string, Question, string[], string[], boolean][])('to %s', (_what, question, answers, more, shared) =>
    expect(said(ask([question]))).toEqual({ answers, more, shared }),
  );

  test('nothing to what is not offered, to answers of others, and to who knows it already with half of its life left', () => {
    const browse: Question = { name: '_osc._udp.local', type: 'PTR' };
    const known = (ttl: number): Answer => ({ ...browse, type: 'PTR', ttl, data: 'Desk._osc._udp.local' });
    expect([
      said(ask([{ name: '_http._tcp.local', type: 'PTR' }])),
      said(ask([{ name: '_osc._udp.local', type: 'A' }])),
      said({ type: 'response', questions: [browse] }),
      said(ask([browse], [known(2250)])),
    ]).toEqual([undefined, undefined, undefined, undefined]);
    expect(said(ask([browse], [known(2249)]))?.answers).toEqual(['PTR _osc._udp.local']);
  });
});

const running: Scheduler[] = [];
afterEach(() => running.splice(0).forEach((scheduler) => scheduler.stop()));
afterEach(stopBenches);

test('on the wire they are authoritative, own records replace older ones, and shared answers come 20 to 120 ms later', async () => {
  const scheduler = startScheduler(20);
  running.push(scheduler);
  const show = demoShow();
  const site = new Site({ show, passwords: {} }, scheduler, () => 0.5);
  site.power(Object.keys(show.devices), true);
  await site.settled();
  const laptop = site.standins.get('laptop')?.host ?? expect.fail('no laptop');
  const heard: { at: number; packet: Packet }[] = [];
  laptop.join(namesGroup);
  laptop.tapInto(namesPort, ({ bytes }) => {
    const packet = decode(Buffer.from(bytes));
    if (packet.type === 'response') heard.push({ at: scheduler.now(), packet });
  });
  const asked = scheduler.now();
  const query = encode(ask([{ name: '_osc._udp.local', type: 'PTR' }]));
  await laptop.sendUdp(namesGroup, { from: namesPort, to: namesPort }, new Uint8Array(query));
  await new Promise<void>((done) => void scheduler.after(400, done));
  expect(heard.length).toBeGreaterThan(1);
  for (const { at, packet } of heard) {
    expect((packet.flags ?? 0) & AUTHORITATIVE_ANSWER).toBe(AUTHORITATIVE_ANSWER);
    expect([at - asked >= 20, at - asked < 180]).toEqual([true, true]);
    for (const record of [...(packet.answers ?? []), ...(packet.additionals ?? [])])
      expect([record.type, 'flush' in record && record.flush === true]).toEqual([record.type, record.type !== 'PTR']);
  }
  expect(new Set(heard.map(({ at }) => at)).size).toBeGreaterThan(1);
});

test('what is offered no more is taken back at once; what loses its power says goodbye to nobody, in no protocol', async () => {
  const { site, act, power, face, eventually } = await demoBench();
  const made = site();
  const isInSession = async () => /^00:/.test((await face('media'))['time code'] ?? '');
  expect(await eventually(isInSession)).toBe(true);
  const laptop = made.standins.get('laptop')?.host ?? expect.fail('no laptop');
  const gone: string[] = [];
  laptop.join(namesGroup);
  laptop.tapInto(namesPort, ({ bytes }) => {
    const { type, answers = [] } = decode(Buffer.from(bytes));
    if (type !== 'response') return;
    for (const answer of answers) if ('ttl' in answer && answer.ttl === 0) gone.push(`${answer.type} ${answer.name}`);
  });
  const leaves: string[] = [];
  for (const [id, { host }] of made.standins)
    host.watchSent(({ body }) => {
      if (body.kind !== 'ip' || body.payload.kind !== 'udp') return;
      const read = readRtpMidi(body.payload.bytes);
      if (read.ok && read.packet.kind === 'leave') leaves.push(id);
    });
  const after = async (happens: () => Promise<unknown>) => {
    gone.length = leaves.length = 0;
    await happens();
    await new Promise<void>((done) => void made.scheduler.after(300, done));
    return [[...gone].sort(), [...new Set(leaves)]];
  };
  const name = 'Media server._osc._udp.local';
  const osc = ['PTR _osc._udp.local', `SRV ${name}`, `TXT ${name}`];
  const [names, midi] = await after(() => act({ act: 'application', deviceId: 'media', state: 'closed' }));
  expect([names, midi]).toEqual([expect.arrayContaining(osc), ['media']]);
  expect(await after(() => act({ act: 'application', deviceId: 'media', state: 'ready' }))).toEqual([[], []]);
  expect(await eventually(isInSession)).toBe(true);
  // it comes again at once with what was keyed in: nothing was gone
  const rename = { of: 'service', key: 'osc', sendTo: '10.61.20.9' } as const;
  expect((await after(() => act({ act: 'key_in', deviceId: 'desk', change: rename })))[0]).toEqual([]);
  for (const id of ['media', 'mixer', 'timecode'])
    expect([id, await after(() => power(id, false))]).toEqual([id, [[], []]]);
});
