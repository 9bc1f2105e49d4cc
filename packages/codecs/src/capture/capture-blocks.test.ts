import { expect, test } from 'vitest';
import { CaptureReader, type CapturedFrame, type CaptureSummary } from '../index.ts';

type Order = 'little' | 'big';
const u16 = (value: number, order: Order) =>
  order === 'little' ? [value & 255, value >> 8] : [value >> 8, value & 255];
const u32 = (value: number, order: Order) => {
  const bytes = [(value >>> 24) & 255, (value >>> 16) & 255, (value >>> 8) & 255, value & 255];
  return order === 'little' ? bytes.reverse() : bytes;
};
/** A block of pcapng with a length of its own choice, where that is what is wrong with it. */
const block = (type: number, body: readonly number[], order: Order = 'little', length = 12 + body.length) => [
  ...u32(type, order),
  ...u32(length, order),
  ...body,
  ...u32(length, order),
];
const section = (order: Order = 'little') =>
  block(
    0x0a0d0d0a,
    [...u32(0x1a2b3c4d, order), ...u16(1, order), ...u16(0, order), ...Array<number>(8).fill(255)],
    order,
  );
const interfaceOf = (link: number, snap = 0, order: Order = 'little') =>
  block(1, [...u16(link, order), 0, 0, ...u32(snap, order)], order);
const enhanced = (bytes: readonly number[], order: Order = 'little', index = 0, size = bytes.length) =>
  block(
    6,
    [...u32(index, order), ...Array<number>(8).fill(0), ...u32(size, order), ...u32(size, order), ...bytes],
    order,
  );
const simple = (bytes: readonly number[], original: number) => block(3, [...u32(original, 'little'), ...bytes]);
const pcap = (link: number, order: Order, version = 2) => [
  ...u32(0xa1b2c3d4, order),
  ...u16(version, order),
  ...u16(4, order),
  ...Array<number>(8).fill(0),
  ...u32(65_535, order),
  ...u32(link, order),
];
const record = (bytes: readonly number[], order: Order) => [
  ...Array<number>(8).fill(0),
  ...u32(bytes.length, order),
  ...u32(bytes.length, order),
  ...bytes,
];

type Kept = { readonly link: CapturedFrame['link']; readonly bytes: Uint8Array };

function read(...parts: readonly (readonly number[])[]): { frames: Kept[]; summary: CaptureSummary } {
  const frames: Kept[] = [];
  const reader = new CaptureReader(({ link, view }) => {
    frames.push({ link, bytes: new Uint8Array(view.buffer, view.byteOffset, view.byteLength).slice() });
  });
  const all = parts.flat();
  // in chunks of three bytes, so that nothing may lie in one piece
  for (let at = 0; at < all.length; at += 3) reader.push(Uint8Array.from(all.slice(at, at + 3)));
  return { frames, summary: reader.end() };
}
const faultOf = (...parts: readonly (readonly number[])[]) => read(...parts).summary.fault;
const frame = [1, 2, 3, 4];

test.each([
  [0, 'loopback'],
  [1, 'ethernet'],
  [12, 'raw'],
  [14, 'raw'],
  [101, 'raw'],
  [105, 'radio'],
  [108, 'loopback'],
  [113, 'cooked'],
  [127, 'radiotap'],
  [228, 'raw'],
  [276, 'cooked2'],
] as const)('link type %s is %s, in both formats and both byte orders', (link, name) => {
  for (const order of ['little', 'big'] as const) {
    const expected = [{ link: name, bytes: Uint8Array.from(frame) }];
    expect(read(pcap(link, order), record(frame, order)).frames).toEqual(expected);
    expect(read(section(order), interfaceOf(link, 0, order), enhanced(frame, order)).frames).toEqual(expected);
  }
});

test('a frame of a kind that is not read here is counted and passed over', () => {
  const { frames, summary } = read(pcap(195, 'little'), record(frame, 'little'), record(frame, 'little'));
  expect([frames, summary.frames, summary.skipped, summary.skippedLinks, summary.fault]).toEqual([
    [],
    2,
    2,
    [195],
    null,
  ]);
});

test('the packet block of before 2007 is read, its interface number in two bytes', () => {
  for (const order of ['little', 'big'] as const) {
    const old = (index: number, size = frame.length) =>
      block(
        2,
        [
          ...u16(index, order),
          ...u16(7, order),
          ...Array<number>(8).fill(0),
          ...u32(size, order),
          ...u32(size, order),
          ...frame,
        ],
        order,
      );
    const head = [section(order), interfaceOf(1, 0, order), interfaceOf(113, 0, order)] as const;
    expect(read(...head, old(1), old(0)).frames.map(({ link }) => link)).toEqual(['cooked', 'ethernet']);
    expect([faultOf(...head, old(2))?.code, faultOf(...head, old(0, 5))?.code]).toEqual([
      'no_interface',
      'length_impossible',
    ]);
    expect(faultOf(...head, block(2, [0, 0, 0, 0], order, 16))?.code).toBe('length_impossible');
  }
});

test('simple packets are cut at the snapshot length of the first interface, blocks of other kinds passed by', () => {
  const whole = [section(), interfaceOf(1, 3), block(4, [0, 0, 0, 0]), simple(frame, 9)];
  expect(read(...whole).frames.map(({ bytes }) => [...bytes])).toEqual([[1, 2, 3]]);
  expect(read(section(), interfaceOf(1), simple(frame, 4)).frames.map(({ bytes }) => [...bytes])).toEqual([frame]);
});

test('a new section forgets the interfaces of the one before', () => {
  const start = [...section(), ...interfaceOf(1), ...enhanced(frame)];
  const { frames, summary } = read(start, section('big'), enhanced(frame, 'big'));
  expect([frames.length, summary.fault]).toEqual([1, { code: 'no_interface', at: start.length + 28 }]);
  expect(read(start, section('big'), interfaceOf(101, 0, 'big'), enhanced(frame, 'big')).frames).toHaveLength(2);
});

test.each([
  ['a version of pcap that nobody wrote', [pcap(1, 'big', 3)], { code: 'version_unknown', at: 0 }],
  ['no capture at all', [[1, 2, 3, 4]], { code: 'not_a_capture', at: 0 }],
  ['a section of neither byte order', [block(0x0a0d0d0a, Array<number>(16).fill(1))], { code: 'not_a_capture', at: 0 }],
  [
    'a length that is no whole of four',
    [section(), block(4, [0], 'little', 13)],
    { code: 'length_impossible', at: 28 },
  ],
  ['a length below its own frame', [section(), block(4, [], 'little', 8)], { code: 'length_impossible', at: 28 }],
  [
    'a length that no block has',
    [section(), block(4, [], 'little', 2 ** 20 + 4)],
    { code: 'length_impossible', at: 28 },
  ],
  ['two lengths', [section(), block(4, [0, 0, 0, 0]).with(-4, 12)], { code: 'length_impossible', at: 28 }],
  ['an interface without its fields', [section(), block(1, [1, 0, 0, 0])], { code: 'length_impossible', at: 28 }],
  ['a packet without its fields', [section(), block(6, [0, 0, 0, 0])], { code: 'length_impossible', at: 28 }],
  ['a simple packet without its length', [section(), block(3, [])], { code: 'length_impossible', at: 28 }],
  ['a packet of no interface', [section(), enhanced(frame)], { code: 'no_interface', at: 28 }],
  [
    'a packet longer than its block',
    [section(), interfaceOf(1), enhanced(frame, 'little', 0, 5)],
    { code: 'length_impossible', at: 48 },
  ],
  [
    'a record that no tool writes',
    [pcap(1, 'big'), record([], 'big').with(9, 255)],
    { code: 'record_too_long', at: 24 },
  ],
  ['an end within a record', [pcap(1, 'big'), record(frame, 'big').slice(0, 18)], { code: 'ends_early', at: 24 }],
] as const)('%s ends the reading and says where', (_what, parts, fault) => expect(faultOf(...parts)).toEqual(fault));

test('after a fault nothing more is read', () => {
  const { frames, summary } = read(section(), enhanced(frame), section(), interfaceOf(1), enhanced(frame));
  expect([frames, summary.frames, summary.fault?.code]).toEqual([[], 0, 'no_interface']);
});
