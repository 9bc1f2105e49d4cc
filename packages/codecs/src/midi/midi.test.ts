import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import {
  ExclusiveJoiner,
  fullFrame,
  JournalWriter,
  midiFromWords,
  midiWords,
  MtcReader,
  quarterFrame,
  readMtc,
  beginsWithQuarterFrame,
  readRtpMidi,
  readWake,
  Restorer,
  segments,
  SlipReader,
  writeMidiPacket,
  writeSession,
  writeSlip,
  writeWake,
  type MidiMessage,
  type MtcTime,
  type SessionPacket,
} from '../index.ts';
import { casesOf } from '../cases.test-data.ts';

const u32 = fc.nat({ max: 0xffffffff });
const data = fc.nat({ max: 127 });
const message: fc.Arbitrary<MidiMessage> = fc.oneof(
  fc
    .tuple(fc.constantFrom(0x80, 0x90, 0xa0, 0xb0, 0xe0), fc.nat(15), data, data)
    .map(([kind, channel, a, b]) => [kind | channel, a, b]),
  fc.tuple(fc.constantFrom(0xc0, 0xd0), fc.nat(15), data).map(([kind, channel, a]) => [kind | channel, a]),
  data.map((value) => [0xf1, value]),
  fc.array(data, { maxLength: 30 }).map((bytes) => [0xf0, ...bytes, 0xf7]),
  fc.constantFrom([0xf8], [0xfa], [0xfc]),
  data.map((piece) => [0xf1, piece]),
);

describe('RTP-MIDI', () => {
  test('what is written is read again, whatever the messages and times', () => {
    fc.assert(
      fc.property(
        fc.array(fc.record({ delta: fc.nat({ max: 0x0fffffff }), bytes: message }), { minLength: 1, maxLength: 20 }),
        fc.nat({ max: 0xffff }),
        u32,
        u32,
        (messages, seq, timestamp, ssrc) => {
          const packet = writeMidiPacket({ seq, timestamp, ssrc, messages });
          const read = readRtpMidi(packet);
          const [first, ...rest] = messages;
          const expected = [{ delta: 0, bytes: first?.bytes }, ...rest];
          expect(read).toEqual({ ok: true, packet: { kind: 'midi', seq, timestamp, ssrc, messages: expected } });
          expect(beginsWithQuarterFrame(packet)).toBe(first?.bytes[0] === 0xf1);
        },
      ),
    );
  });

  test('a packet written by hand after RFC 6295 figures 2 and 3: running status, a delta of two bytes, a journal behind', () => {
    const list = [0x90, 60, 100, 0x81, 0x00, 62, 0x40, 0x05, 0x80, 60, 0];
    // channel 1, chapters C, N and T: controller 7 is at 100, note 60 sounds, note 62 ended, pressure 9
    const channel = [0x80, 12, 0x4a, 0x80, 7, 100, 1, 0x77, 60, 0xe4, 0x02, 9];
    const bytes = [
      0x80,
      0x61,
      0x12,
      0x34,
      0,
      0,
      1,
      0,
      0xca,
      0xfe,
      0xba,
      0xbe,
      0x40 | list.length,
      ...list,
      // a system journal of four octets stands before that of the channel
      ...[0x60, 0x12, 0x30, 0x84, 0x04, 0, 0],
      ...channel,
    ];
    expect(readRtpMidi(Uint8Array.from(bytes))).toEqual({
      ok: true,
      packet: {
        kind: 'midi',
        seq: 0x1234,
        timestamp: 256,
        ssrc: 0xcafebabe,
        messages: [
          { delta: 0, bytes: [0x90, 60, 100] },
          { delta: 128, bytes: [0x90, 62, 0x40] },
          { delta: 5, bytes: [0x80, 60, 0] },
        ],
        journal: {
          checkpoint: 0x1230,
          messages: [
            [0xb0, 7, 100],
            [0x90, 60, 100],
            [0x80, 62, 0],
            [0xd0, 9],
          ],
        },
      },
    });
    for (const end of [1, 3, 10, 13, 15, 18])
      expect([end, readRtpMidi(Uint8Array.from(bytes.slice(0, -end))).ok]).toEqual([end, false]);
  });

  test('an extension of the head and padding at the end are no part of the payload (RFC 3550 5.1 and 5.3.1)', () => {
    const head = [0x12, 0x34, 0, 0, 1, 0, 0xca, 0xfe, 0xba, 0xbe];
    const extension = [0xbe, 0xde, 0, 2, 1, 2, 3, 4, 5, 6, 7, 8];
    const list = [3, 0x90, 60, 100];
    const read = (first: number, ...rest: number[]) => readRtpMidi(Uint8Array.from([first, 0x61, ...head, ...rest]));
    const plain = read(0x80, ...list);
    expect(plain.ok).toBe(true);
    expect(read(0x90, ...extension, ...list)).toEqual(plain);
    expect(read(0xa0, ...list, 0, 0, 0, 4)).toEqual(plain);
    expect(read(0xb1, 0, 0, 0, 1, ...extension, ...list, 1)).toEqual(plain);
    expect([read(0xa0, ...list, 200), read(0xa0, ...list, 0), read(0x90, 0xbe, 0xde, 0, 9, ...list)]).toMatchObject([
      { ok: false, fault: 'more padding than there is' },
      { ok: false, fault: 'more padding than there is' },
      { ok: false, fault: 'ends early' },
    ]);
  });

  test('a quarter frame is told behind a head with extension, a long list and a first delta; what is cut short is none', () => {
    const head = [0x61, 0x12, 0x34, 0, 0, 1, 0, 0xca, 0xfe, 0xba, 0xbe];
    const extended = [0x91, ...head, 0, 0, 0, 1, 0xbe, 0xde, 0, 1, 9, 9, 9, 9];
    const tells = (...bytes: number[]) => beginsWithQuarterFrame(Uint8Array.from(bytes));
    expect(tells(...extended, 0xa0, 4, 0x81, 0x00, 0xf1, 0x25)).toBe(true);
    expect(tells(...extended, 0xa0, 4, 0x81, 0x00, 0x90, 0xf1)).toBe(false);
    const whole = [...extended, 0xa0, 4, 0x81, 0x00, 0xf1];
    for (let length = 0; length < whole.length; length += 1) expect(tells(...whole.slice(0, length))).toBe(false);
    expect(tells(...whole)).toBe(true);
    // where the payload would be if the marks of a session command were a head with fifteen sources and an extension
    expect(tells(0xff, 0xff, ...Array<number>(75).fill(0), 0xf1)).toBe(false);
  });

  test('session commands come back as they went', () => {
    const packets: SessionPacket[] = [
      { kind: 'invite', token: 7, ssrc: 0xffffffff, name: 'Fader bank, öst' },
      { kind: 'accept', token: 7, ssrc: 1, name: 'Mixer' },
      { kind: 'refuse', token: 7, ssrc: 1, name: '' },
      { kind: 'leave', token: 7, ssrc: 1, name: '' },
      { kind: 'clock', ssrc: 9, count: 2, times: [1, 2 ** 40 + 5, 3] },
      { kind: 'feedback', ssrc: 9, seq: 65_535 },
      { kind: 'rate', ssrc: 9, rate: 1000 },
    ];
    for (const packet of packets) expect(readRtpMidi(writeSession(packet))).toEqual({ ok: true, packet });
    expect([...writeSession({ kind: 'invite', token: 1, ssrc: 2, name: 'a' })]).toEqual([
      ...[0xff, 0xff, 0x49, 0x4e, 0, 0, 0, 2, 0, 0, 0, 1, 0, 0, 0, 2, 0x61, 0],
    ]);
  });

  test('hostile packets are told from good ones and never throw', () => {
    for (const bytes of [
      [],
      [0xff, 0xff],
      [0xff, 0xff, 0x49, 0x4e, 0, 0, 0, 3, 0, 0, 0, 0, 0, 0, 0, 0],
      [0x80, 0x61, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0x0f, 0x90],
      [0x80, 0x61, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 2, 60, 100],
      [0x80, 0x61, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 2, 0xf0, 1],
      [0x80, 0x21, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0],
    ])
      expect([bytes, readRtpMidi(Uint8Array.from(bytes)).ok]).toEqual([bytes, false]);
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 80 }), (bytes) => {
        bytes.set([0x80, 0x61].slice(0, bytes.length));
        expect(typeof readRtpMidi(bytes).ok).toBe('boolean');
      }),
      { numRuns: 2000 },
    );
  });
});

describe('MIDI in words', () => {
  test('channel messages are the same in words and back', () => {
    fc.assert(
      fc.property(message, (bytes) => {
        if ((bytes[0] ?? 0) < 0xf0) expect(midiFromWords(midiWords(bytes))).toEqual(bytes);
      }),
    );
    expect(midiWords([0xe0, 0, 64])).toBe('pitch-bend 1 0');
    for (const wrong of ['', 'note-on', 'note-on 17 1 1', 'note-on 1 128 0', 'control-change 1 7', 'hum 1 2 3'])
      expect([wrong, midiFromWords(wrong)]).toEqual([wrong, undefined]);
  });
});

describe('MIDI time code', () => {
  const time: fc.Arbitrary<MtcTime> = fc.record({
    hours: fc.nat(23),
    minutes: fc.nat(59),
    seconds: fc.nat(59),
    frames: fc.nat(23),
    rate: fc.constantFrom(0, 1, 2, 3),
  });
  test('eight quarter frames or one full frame tell the time, in either direction, and nothing before they are whole', () => {
    fc.assert(
      fc.property(time, fc.boolean(), (wanted, backwards) => {
        const pieces = [0, 1, 2, 3, 4, 5, 6, 7].map((piece) => quarterFrame(piece, wanted));
        const reader = new MtcReader();
        const told = (backwards ? [...pieces].reverse() : pieces).map((each) => reader.push(each));
        expect([told.slice(0, 7).every((each) => each === undefined), told[7]]).toEqual([true, wanted]);
        expect(new MtcReader().push(fullFrame(wanted))).toEqual(wanted);
      }),
    );
  });
  test('a gap starts the count anew', () => {
    const reader = new MtcReader();
    const at: MtcTime = { hours: 1, minutes: 2, seconds: 3, frames: 4, rate: 1 };
    for (const piece of [0, 1, 2, 5, 6, 7]) expect(reader.push(quarterFrame(piece, at))).toBeUndefined();
  });

  test('a full frame starts anew: pieces from before it are of another time', () => {
    const reader = new MtcReader();
    const [old, at]: [MtcTime, MtcTime] = [
      { hours: 1, minutes: 2, seconds: 3, frames: 4, rate: 1 },
      { hours: 9, minutes: 8, seconds: 7, frames: 6, rate: 1 },
    ];
    for (const piece of [0, 1, 2, 3]) reader.push(quarterFrame(piece, old));
    expect(reader.push(fullFrame(at))).toEqual(at);
    for (const piece of [4, 5, 6, 7]) expect(reader.push(quarterFrame(piece, at))).toBeUndefined();
    // another universal message is no jump
    for (const piece of [0, 1, 2, 3]) reader.push(quarterFrame(piece, at));
    reader.push([0xf0, 0x7f, 0x7f, 0x06, 0x02, 0xf7]);
    expect([4, 5, 6, 7].map((piece) => reader.push(quarterFrame(piece, at))).at(-1)).toEqual(at);
  });

  test('a time that was told is not told again from pieces left over', () => {
    const reader = new MtcReader();
    const time: MtcTime = { hours: 23, minutes: 59, seconds: 58, frames: 24, rate: 3 };
    const all = (order: number[]) => order.map((piece) => reader.push(quarterFrame(piece, time)));
    const forwards = [0, 1, 2, 3, 4, 5, 6, 7];
    expect(all(forwards)).toEqual([...Array<undefined>(7).fill(undefined), time]);
    expect(all(forwards)).toEqual([...Array<undefined>(7).fill(undefined), time]);
    expect(all([7])).toEqual([undefined]);
    const backwards = new MtcReader();
    expect(
      forwards
        .toReversed()
        .map((piece) => backwards.push(quarterFrame(piece, time)))
        .at(-1),
    ).toEqual(time);
    for (const [at, value] of [
      [1, 0x7e],
      [3, 2],
      [4, 2],
    ] as const)
      expect(reader.push(fullFrame(time).map((byte, n) => (n === at ? value : byte)))).toBeUndefined();
    expect([reader.push(fullFrame(time)), reader.push(fullFrame(time).slice(1)), reader.push([0x90, 1, 2])]).toEqual([
      time,
      undefined,
      undefined,
    ]);
  });
});

const streams = casesOf(10_000);

test(`${streams} damaged streams: a piece of time code is read for what it is or not at all, and none crashes`, () => {
  let [cases, pieces, times] = [0, 0, 0];
  const good = Array.from({ length: 24 }, (_, n) =>
    quarterFrame(n % 8, { hours: 10, minutes: 4, seconds: 31, frames: 8, rate: 1 as const }),
  );
  const damage = fc.array(
    fc.tuple(fc.integer({ min: 0, max: 23 }), fc.array(fc.integer({ min: 0, max: 255 }), { maxLength: 12 })),
    { maxLength: 8 },
  );
  fc.assert(
    fc.property(damage, fc.boolean(), (wrong, isBackwards) => {
      cases += 1;
      const stream: MidiMessage[] = isBackwards ? good.toReversed() : [...good];
      for (const [at, bytes] of wrong) stream[at] = bytes;
      const reader = new MtcReader();
      for (const message of stream) {
        const piece = readMtc(message);
        if (piece) pieces += 1;
        if (piece?.kind === 'quarter') expect([piece.piece < 8, piece.value < 16]).toEqual([true, true]);
        if (reader.push(message)) times += 1;
      }
    }),
    { numRuns: streams },
  );
  expect([cases, pieces > streams * 10, times > streams / 2]).toEqual([streams, true, true]);
});

describe('damage in a MIDI packet is told with its place', () => {
  const head = [0x80, 0x61, 0, 1, 0, 0, 0, 2, 0, 0, 0, 3];
  const of = (...list: number[]) => readRtpMidi(Uint8Array.from([...head, list.length, ...list]));

  test.each([
    ['a status without its data', [0x90, 60], 15],
    ['data without a status', [60, 100], 13],
    ['a time that does not end', [0x90, 60, 100, 0x80, 0x80, 0x80, 0x80, 0], 20],
  ] as const)('%s', (_what, list, at) => expect(of(...list)).toMatchObject({ ok: false, at }));

  test.each([
    ['nothing', [], 0, 'ends early'],
    ['a head alone', head, 12, 'ends early'],
    ['another version', [0x40, ...head.slice(1), 0], 0, 'not version 2 of RTP'],
    ['another payload', [0x80, 0x60, ...head.slice(2), 0], 1, 'not the payload type of MIDI'],
    ['a list longer than the packet', [...head, 5, 0x90, 60], 15, 'ends early'],
    ['a long list without its length', [...head, 0x80], 13, 'ends early'],
    ['sources that are not there', [0x81, ...head.slice(1), 0], 13, 'ends early'],
    ['an unknown command of a session', [255, 255, 0x5a, 0x5a, 0, 0, 0, 2], 2, 'unknown command "ZZ"'],
    ['an invitation that ends early', [255, 255, 0x49, 0x4e, 0, 0, 0, 2], 8, 'ends early'],
  ] as const)('%s', (_what, bytes, at, fault) =>
    expect(readRtpMidi(Uint8Array.from(bytes))).toEqual({ ok: false, at, fault }),
  );

  test('an empty list is a packet without messages', () => {
    expect(of()).toEqual({ ok: true, packet: { kind: 'midi', seq: 1, timestamp: 2, ssrc: 3, messages: [] } });
  });
});

describe('what gets lost', () => {
  const sounding = (messages: readonly MidiMessage[]): string[] => {
    const state = new Map<string, string>();
    for (const [status = 0, a = 0, b = 0] of messages) {
      const kind = status >> 4;
      const channel = status & 15;
      if (kind === 8 || kind === 9) state.set(`note ${channel} ${a}`, kind === 9 && b > 0 ? `${b}` : 'off');
      else if (kind === 10 || kind === 11) state.set(`${kind} ${channel} ${a}`, `${b}`);
      else if (kind < 15) state.set(`${kind} ${channel}`, `${a} ${kind === 14 ? b : ''}`);
    }
    return [...state]
      .filter(([, value]) => value !== 'off')
      .map((entry) => entry.join(': '))
      .sort();
  };
  /** Everything that a channel keeps; controllers from 120 on are orders. */
  const kept = fc
    .tuple(fc.constantFrom(0x80, 0x90, 0xa0, 0xb0, 0xc0, 0xd0, 0xe0), fc.nat(15), fc.nat(119), data)
    .map(([kind, channel, a, b]): MidiMessage =>
      kind === 0xc0 || kind === 0xd0 ? [kind | channel, a] : [kind | channel, a, b],
    );

  test('after any losses the next packet leaves the receiver where the sender is, confirmed or not', () => {
    let runs = 0;
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.array(kept, { maxLength: 12 }), fc.boolean(), fc.boolean()), { maxLength: 40 }),
        fc.nat({ max: 0xffff }),
        (packets, first) => {
          runs += 1;
          const writer = new JournalWriter();
          const restorer = new Restorer();
          const [sent, got]: [MidiMessage[], MidiMessage[]] = [[], []];
          let last: number | undefined;
          for (const [at, [messages, arrives, confirms]] of [...packets, [[], true, true] as const].entries()) {
            const seq = (first + at) & 0xffff;
            const packet = writeMidiPacket({
              seq,
              timestamp: 0,
              ssrc: 1,
              messages: messages.map((bytes) => ({ delta: 0, bytes })),
              journal: writer.bytes(seq),
            });
            writer.push(seq, messages);
            sent.push(...messages);
            if (!arrives) continue;
            const read = readRtpMidi(packet);
            if (!read.ok || read.packet.kind !== 'midi') throw new Error('unreadable');
            if (last === undefined || seq !== ((last + 1) & 0xffff))
              got.push(...restorer.missing(read.packet.journal?.messages ?? []));
            for (const { bytes } of read.packet.messages) {
              restorer.push(bytes);
              got.push(bytes);
            }
            last = seq;
            if (confirms) writer.confirm(seq);
          }
          expect(sounding(got)).toEqual(sounding(sent));
        },
      ),
      { numRuns: 300 },
    );
    expect(runs).toBe(300);
  });

  test('a journal covers what is not confirmed, marks what the last packet brought, and ends notes that are silenced', () => {
    const writer = new JournalWriter();
    expect(writer.bytes(7)).toEqual([0x80, 0, 7]);
    writer.push(65_535, [[0x93, 60, 100]]);
    writer.push(0, [
      [0xc3, 5],
      [0xe3, 0, 64],
      [0xa3, 60, 1],
    ]);
    // packet 1: program, bend and pressure of a key came just before it, the note earlier
    const channel = [
      0x18,
      3 + 3 + 2 + 4 + 3,
      0x99,
      ...[5, 0, 0],
      ...[0, 64],
      ...[0x81, 0xf1, 0xbc, 0xe4],
      ...[0, 60, 1],
    ];
    expect(writer.bytes(1)).toEqual([0x20, 255, 255, ...channel]);
    writer.confirm(65_534);
    expect(writer.bytes(1).slice(1, 3)).toEqual([255, 255]);
    writer.confirm(65_535);
    expect(writer.bytes(2)).toEqual([0xa0, 0, 0, 0x98, 11, 0x91, ...[0x85, 0, 0], ...[0x80, 64], ...[0x80, 0xbc, 1]]);
    writer.confirm(0);
    writer.push(1, [
      [0x90, 1, 1],
      [0xb0, 123, 0],
    ]);
    expect(writer.bytes(2)).toEqual([0x80, 0, 1]);
    const restorer = new Restorer();
    for (const message of [
      [0x90, 1, 1],
      [0x91, 1, 1],
      [0xb0, 120, 0],
    ])
      restorer.push(message);
    expect(
      restorer.missing([
        [0x80, 1, 0],
        [0x81, 1, 0],
      ]),
    ).toEqual([[0x81, 1, 0]]);
    expect(restorer.missing([[0x81, 1, 0]])).toEqual([]);
  });

  test('all 128 notes of a channel fit, sounding or ended', () => {
    for (const kind of [0x90, 0x80]) {
      const notes = Array.from({ length: 128 }, (_, note): MidiMessage => [kind, note, kind === 0x80 ? 0 : 64]);
      for (const count of [127, 128]) {
        const writer = new JournalWriter();
        writer.push(4, notes.slice(0, count));
        const read = readRtpMidi(
          writeMidiPacket({ seq: 5, timestamp: 0, ssrc: 0, messages: [], journal: writer.bytes(5) }),
        );
        expect(read.ok && read.packet.kind === 'midi' && read.packet.journal?.messages).toEqual(notes.slice(0, count));
      }
    }
  });
});

describe('system exclusive messages in segments (RFC 6295 3.2)', () => {
  test('are joined whatever their size and whatever real time comes between', () => {
    fc.assert(
      fc.property(fc.array(data, { maxLength: 200 }), fc.integer({ min: 3, max: 60 }), (bytes, most) => {
        const message = [0xf0, ...bytes, 0xf7];
        const parts = segments(message, most);
        expect(parts.every(({ length }) => length <= Math.max(most, 2))).toBe(true);
        const joiner = new ExclusiveJoiner();
        const told = parts.flatMap((part) => [joiner.push([0xf8]), joiner.push(part)]);
        expect(told.filter((each) => each !== undefined && each[0] !== 0xf8)).toEqual([message]);
      }),
    );
  });

  test.each([
    [
      'one that was given up',
      [
        [0xf0, 1, 0xf0],
        [0xf7, 2, 0xf4],
        [0xf7, 3, 0xf7],
      ],
    ],
    [
      'one that another message broke off',
      [
        [0xf0, 1, 0xf0],
        [0x90, 1, 1],
        [0xf7, 2, 0xf7],
      ],
    ],
    [
      'one without its start',
      [
        [0xf7, 2, 0xf0],
        [0xf7, 2, 0xf7],
      ],
    ],
    [
      'one that a new one follows',
      [
        [0xf0, 1, 0xf0],
        [0xf0, 9, 0xf0],
        [0xf7, 0xf4],
      ],
    ],
  ] as [string, MidiMessage[]][])('%s is not told', (_what, parts) => {
    const joiner = new ExclusiveJoiner();
    expect(parts.map((part) => joiner.push(part)).filter((each) => each && each[0] !== 0x90)).toEqual([]);
  });
});

describe('packets in streams and wake messages', () => {
  test('SLIP gives back every packet, in chunks of any size', () => {
    fc.assert(
      fc.property(
        fc.array(fc.uint8Array({ minLength: 1, maxLength: 40 }), { maxLength: 6 }),
        fc.integer({ min: 1, max: 9 }),
        (packets, size) => {
          const stream = packets.flatMap((packet) => [...writeSlip(packet)]);
          const reader = new SlipReader();
          const got: number[][] = [];
          for (let at = 0; at < stream.length; at += size)
            got.push(...reader.push(Uint8Array.from(stream.slice(at, at + size))).map((packet) => [...packet]));
          expect(got).toEqual(packets.map((packet) => [...packet]));
        },
      ),
    );
    const reader = new SlipReader();
    expect(reader.push(new Uint8Array(200_000).fill(1))).toEqual([]);
    expect(reader.push(writeSlip(Uint8Array.of(5)))).toEqual([Uint8Array.of(5)]);
  });

  test('after an escape that hides nothing the byte is taken as it stands, and an END ends the escape', () => {
    const reader = new SlipReader();
    expect(reader.push(Uint8Array.of(0xdb, 7, 0xc0))).toEqual([Uint8Array.of(7)]);
    expect(reader.push(Uint8Array.of(0xdb, 0xc0, 0xdc, 0xc0))).toEqual([Uint8Array.of(0xdc)]);
    expect(reader.push(Uint8Array.of(0xdb, 0xdd, 0xdb, 0xdc, 0xc0))).toEqual([Uint8Array.of(0xdb, 0xc0)]);
    // one byte below the longest is whole, one more is dropped
    expect(reader.push(Uint8Array.from([...new Uint8Array(65_536).fill(1), 0xc0])).map(({ length }) => length)).toEqual(
      [65_536],
    );
    expect(reader.push(Uint8Array.from([...new Uint8Array(65_537).fill(1), 0xc0]))).toEqual([]);
  });

  test('a wake message names the machine it is for, wherever it stands, and nothing else does', () => {
    const bytes = writeWake('02:1e:70:00:00:0a');
    expect([bytes.length, readWake(bytes), readWake(Uint8Array.from([1, 2, ...bytes, 9]))]).toEqual([
      102,
      '02:1e:70:00:00:0a',
      '02:1e:70:00:00:0a',
    ]);
    expect([readWake(bytes.slice(0, 101)), readWake(new Uint8Array(5))]).toEqual([undefined, undefined]);
  });
});
