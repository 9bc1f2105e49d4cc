import { describe, expect, test } from 'vitest';
import { readFrame, writeDhcp, writeFrame, type DhcpMessage, type Frame, type Sighting } from '../index.ts';

const mac = '02:1e:70:00:00:05';
const server = '02:1e:70:00:00:01';
const number = (text: string) => text.split('.').reduce((sum, part) => sum * 256 + Number(part), 0);
const macBytes = mac.split(':').map((part) => parseInt(part, 16));
const see = (frame: readonly number[] | Uint8Array, link: Parameters<typeof readFrame>[0]['link'] = 'ethernet') =>
  readFrame({ link, view: new DataView(Uint8Array.from(frame).buffer) });

/** A datagram as a frame; the link layer before it can be cut off. */
const datagram = (bytes: Uint8Array, ports: readonly [number, number], source: string, from = mac): Uint8Array =>
  writeFrame({
    to: 'ff:ff:ff:ff:ff:ff',
    from,
    vlan: null,
    body: {
      kind: 'ip',
      source: number(source),
      destination: number('255.255.255.255'),
      ttl: 64,
      payload: { kind: 'udp', sourcePort: ports[0], destinationPort: ports[1], bytes },
    },
  } satisfies Frame);

describe('the same packet in every kind of capture', () => {
  const frame = datagram(Uint8Array.of(1, 2), [9000, 9001], '10.61.20.5');
  const packet = [...frame.slice(14)];
  const sighted: Sighting[] = [{ by: 'ip', mac, ip: '10.61.20.5' }];
  const nameless: Sighting[] = [{ by: 'ip', mac: null, ip: '10.61.20.5' }];
  const cooked = (length: number) => [0, 0, 0, 1, 0, length, ...macBytes, 0, 0, 8, 0];
  const cooked2 = (length: number) => [8, 0, 0, 0, 0, 0, 0, 3, 0, 1, 0, length, ...macBytes, 0, 0];

  const snap = [0xaa, 0xaa, 3, 0, 0, 0, 8, 0];
  /** A data frame by radio with our sender as its first, second, third or fourth address, and any flags. */
  const radio = (sender: 2 | 3 | 4, flags: number, kind = 0x08, more: number[] = []) => [
    ...[kind, flags, 0, 0],
    ...[1, 2, 3].flatMap((at) => (at === sender ? macBytes : [9, 9, 9, 9, 9, at])),
    ...[0, 0],
    ...(sender === 4 ? macBytes : []),
    ...more,
    ...snap,
    ...packet,
  ];

  test.each([
    ['a length, LLC and SNAP', 'ethernet', [...frame.slice(0, 12), 0, 36, ...snap, ...packet], sighted],
    ['LLC of another use', 'ethernet', [...frame.slice(0, 12), 0, 36, 0x42, 0x42, 3, 0, 0, 0, 8, 0, ...packet], []],
    ['SNAP of a maker', 'ethernet', [...frame.slice(0, 12), 0, 36, 0xaa, 0xaa, 3, 0, 0, 9, 8, 0, ...packet], []],
    ['radio, from a station', 'radio', radio(2, 0x01), sighted],
    ['radio, among stations', 'radio', radio(2, 0x00), sighted],
    ['radio, from an access point', 'radio', radio(3, 0x02), sighted],
    ['radio, between access points', 'radio', radio(4, 0x03), sighted],
    ['radio, with a class of service', 'radio', radio(2, 0x01, 0x88, [0, 0]), sighted],
    ['radio, with a class and one more field', 'radio', radio(2, 0x81, 0x88, [0, 0, 1, 2, 3, 4]), sighted],
    ['radio, encrypted', 'radio', radio(2, 0x41), []],
    ['radio, data without any', 'radio', radio(2, 0x01, 0x48), []],
    ['radio, a beacon', 'radio', radio(2, 0x00, 0x80), []],
    ['radio behind what the receiver wrote', 'radiotap', [0, 0, 10, 0, 0, 0, 0, 0, 7, 7, ...radio(2, 0x01)], sighted],
    ['radio behind a head of another version', 'radiotap', [1, 0, 8, 0, 0, 0, 0, 0, ...radio(2, 0x01)], []],
    ['ethernet', 'ethernet', [...frame], sighted],
    ['cooked, with the address of the sender', 'cooked', [...cooked(6), ...packet], sighted],
    ['cooked, without one', 'cooked', [...cooked(0), ...packet], nameless],
    ['cooked, second version', 'cooked2', [...cooked2(6), ...packet], sighted],
    ['cooked, second version, without one', 'cooked2', [...cooked2(8), ...packet], nameless],
    ['loopback of one byte order', 'loopback', [2, 0, 0, 0, ...packet], nameless],
    ['loopback of the other', 'loopback', [0, 0, 0, 2, ...packet], nameless],
    ['loopback of another family', 'loopback', [0, 0, 0, 30, ...packet], []],
    ['raw', 'raw', packet, nameless],
    ['raw, of another version', 'raw', [0x65, ...packet.slice(1)], []],
    ['one tag', 'ethernet', [...frame.slice(0, 12), 0x81, 0, 0, 30, ...frame.slice(12)], sighted],
    ['two tags', 'ethernet', [...frame.slice(0, 12), 0x88, 0xa8, 0, 30, 0x81, 0, 0, 9, ...frame.slice(12)], sighted],
    [
      'three tags',
      'ethernet',
      [...frame.slice(0, 12), 0x81, 0, 0, 1, 0x81, 0, 0, 2, 0x81, 0, 0, 3, ...frame.slice(12)],
      [],
    ],
  ] as const)('%s', (_what, link, bytes, expected) => expect(see(bytes, link)).toEqual(expected));

  test.each([
    ['ethernet', 14],
    ['cooked', 16],
    ['cooked2', 20],
    ['loopback', 4],
    ['raw', 0],
  ] as const)('%s, cut off anywhere, tells nothing or the same', (link, head) => {
    const heads = { ethernet: [...frame.slice(0, 14)], cooked: cooked(6), cooked2: cooked2(6), loopback: [2, 0, 0, 0] };
    const whole = [...(link === 'raw' ? [] : heads[link]), ...packet];
    for (let length = 0; length < whole.length; length += 1)
      expect([length, see(whole.slice(0, length), link).length]).toEqual([length, length < head + 20 ? 0 : 1]);
  });

  test('who sends from nowhere, to a group or from itself is nobody’s address', () => {
    for (const source of ['0.0.0.0', '127.0.0.1', '224.0.0.1', '239.1.2.3', '240.0.0.1', '255.255.255.255'])
      expect([source, see(datagram(Uint8Array.of(1), [1, 2], source))]).toEqual([source, []]);
    for (const source of ['1.2.3.4', '126.0.0.1', '128.0.0.1', '223.1.1.1'])
      expect(see(datagram(Uint8Array.of(1), [1, 2], source))).toEqual([{ by: 'ip', mac, ip: source }]);
  });
});

describe('what DHCP tells', () => {
  const base = { transaction: 7, clientMac: mac, clientIp: 0, yourIp: 0 };
  const told = (message: DhcpMessage, source: string, from: string) =>
    see(datagram(writeDhcp(message), source === '0.0.0.0' ? [68, 67] : [67, 68], source, from)).filter(
      ({ by }) => by === 'dhcp',
    );
  const given = {
    ...base,
    yourIp: number('10.61.20.100'),
    serverIp: number('10.61.20.1'),
    mask: number('255.255.254.0'),
  };

  test('an acknowledgement gives the address with its mask, and shows the server', () => {
    expect(told({ ...given, type: 'ack', hostName: 'desk' }, '10.61.20.1', server)).toEqual([
      { by: 'dhcp', mac, ip: '10.61.20.100', name: 'desk', prefix: 23, method: 'dhcp' },
      { by: 'dhcp', mac: server, ip: '10.61.20.1', role: 'dhcp_server' },
    ]);
  });

  test('an offer gives nothing yet; behind a relay the server’s own MAC address is not known', () => {
    expect(told({ ...given, type: 'offer' }, '10.61.99.1', server)).toEqual([
      { by: 'dhcp', mac, ip: null },
      { by: 'dhcp', mac: null, ip: '10.61.20.1', role: 'dhcp_server' },
    ]);
  });

  test('a request that names a server is no sight of it, and what was declined tells nothing', () => {
    const asking = { ...base, serverIp: number('10.61.20.1'), requestedIp: number('10.61.20.100') };
    expect(told({ ...asking, type: 'request' }, '0.0.0.0', mac)).toEqual([{ by: 'dhcp', mac, ip: null }]);
    expect(told({ ...asking, type: 'decline' }, '0.0.0.0', mac)).toEqual([]);
  });

  test('an option of length zero ends nothing, even where it says the kind', () => {
    const bytes = [...writeDhcp({ ...given, type: 'ack' })];
    const empty = [...bytes.slice(0, 240), 80, 0, ...bytes.slice(240)];
    expect(see(datagram(Uint8Array.from(empty), [67, 68], '10.61.20.1', server))).toEqual(
      see(datagram(Uint8Array.from(bytes), [67, 68], '10.61.20.1', server)),
    );
    const kindless = [...bytes.slice(0, 240), 53, 0, 255];
    expect(see(datagram(Uint8Array.from(kindless), [67, 68], '10.61.20.1', server)).map(({ by }) => by)).toEqual([
      'ip',
    ]);
  });

  test('without its cookie, or on other ports, a message is none', () => {
    const bytes = writeDhcp({ ...given, type: 'ack' });
    const spoilt = Uint8Array.from(bytes);
    spoilt[239] = 0;
    const of = (message: Uint8Array, ports: readonly [number, number]) =>
      see(datagram(message, ports, '10.61.20.1', server)).map(({ by }) => by);
    expect([of(spoilt, [67, 68]), of(bytes, [67, 69]), of(bytes, [67, 68])]).toEqual([
      ['ip'],
      ['ip'],
      ['ip', 'dhcp', 'dhcp'],
    ]);
  });
});

describe('what multicast DNS tells', () => {
  const name = (text: string) => [...text.split('.').flatMap((part) => [part.length, ...Buffer.from(part)]), 0];
  const answer = (owner: number[], type: number, data: number[]) => [
    ...owner,
    0,
    type,
    128,
    1,
    0,
    0,
    0,
    120,
    0,
    data.length,
    ...data,
  ];
  const head = (flags: number, questions: number, answers: number) => [
    0,
    0,
    flags,
    0,
    0,
    questions,
    0,
    answers,
    0,
    0,
    0,
    0,
  ];
  const told = (body: number[], source = '10.61.20.5', port = 5353) =>
    see(datagram(Uint8Array.from(body), [port, 5353], source)).filter(({ by }) => by === 'mdns');
  const own = answer(name('desk.local'), 1, [10, 61, 20, 5]);

  test('its own name with its MAC address; what it says of others without', () => {
    const other = answer(name('lamp.LOCAL'), 1, [10, 61, 20, 9]);
    expect(told([...head(0x84, 0, 2), ...own, ...other])).toEqual([
      { by: 'mdns', mac, ip: '10.61.20.5', name: 'desk' },
      { by: 'mdns', mac: null, ip: '10.61.20.9', name: 'lamp' },
    ]);
  });

  test('questions are stepped over, pointers followed backwards only, other records passed by', () => {
    const question = [...name('desk.local'), 0, 1, 0, 1];
    const pointing = answer([0xc0, 12], 1, [10, 61, 20, 5]);
    const text = answer(name('x.local'), 16, [1, 65]);
    expect(told([...head(0x84, 1, 2), ...question, ...text, ...pointing])).toEqual([
      { by: 'mdns', mac, ip: '10.61.20.5', name: 'desk' },
    ]);
    const forwards = answer([0xc0, 200], 1, [10, 61, 20, 5]);
    expect(told([...head(0x84, 0, 1), ...forwards])).toEqual([]);
  });

  test('a question, another port, a nameless record and one that is cut off tell nothing', () => {
    expect(told([...head(0, 0, 1), ...own])).toEqual([]);
    expect(told([...head(0x84, 0, 1), ...own], '10.61.20.5', 5354)).toEqual([]);
    expect(told([...head(0x84, 0, 1), ...answer(name('local').slice(-1), 1, [10, 61, 20, 5])])).toEqual([]);
    for (let length = 0; length < own.length; length += 1)
      expect(told([...head(0x84, 0, 1), ...own.slice(0, length)])).toEqual([]);
  });
});
