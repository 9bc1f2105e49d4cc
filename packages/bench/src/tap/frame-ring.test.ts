import fc from 'fast-check';
import { expect, test } from 'vitest';
import type { Frame } from '@deep-patch/codecs';
import { FrameRing } from './frame-ring.ts';

const address = fc.nat(2 ** 32 - 1);
const port = fc.nat(65_535);
const mac = fc.constantFrom('02:00:00:00:00:01', '02:00:00:00:00:02', 'ff:ff:ff:ff:ff:ff');
const bytes = fc.uint8Array({ maxLength: 80 });
const payload = fc.oneof(
  fc.record({ kind: fc.constant('udp' as const), sourcePort: port, destinationPort: port, bytes }),
  fc.record({
    kind: fc.constant('tcp' as const),
    sourcePort: port,
    destinationPort: port,
    flags: fc.constant(['ack' as const]),
    seq: address,
    ack: address,
    bytes,
  }),
  fc.record({ kind: fc.constant('icmp' as const), type: fc.constant('echo' as const), id: port }),
);
const body: fc.Arbitrary<Frame['body']> = fc.oneof(
  {
    weight: 9,
    arbitrary: fc.record({
      kind: fc.constant('ip' as const),
      source: address,
      destination: address,
      ttl: fc.nat(255),
      payload,
    }),
  },
  { weight: 1, arbitrary: fc.record({ kind: fc.constant('probe' as const), asks: fc.boolean(), id: port }) },
);
const frame: fc.Arbitrary<Frame> = fc.record({
  to: mac,
  from: mac,
  vlan: fc.option(fc.integer({ min: 1, max: 4094 })),
  body,
});

test('the last frames are kept as they came, whatever they are, and found again by their numbers', () => {
  let runs = 0;
  fc.assert(
    fc.property(
      fc.array(frame, { minLength: 1, maxLength: 40 }),
      fc.integer({ min: 1, max: 1500 }),
      fc.integer({ min: 1, max: 4000 }),
      (some, most, count) => {
        runs += 1;
        const ring = new FrameRing(most);
        const frames = Array.from({ length: count }, (_, at) => some[at % some.length] ?? some[0]).filter(
          (each) => each !== undefined,
        );
        const numbers = frames.map((each, at) => ring.push(at, each));
        expect(ring.last()).toEqual(frames.map((each, at) => ({ at, frame: each })).slice(-most));
        expect(numbers.slice(-most).map((number) => ring.frame(number))).toEqual(frames.slice(-most));
        const first = numbers.find((number) => ring.frame(number)) ?? 0;
        expect(frames.length - first).toBeLessThan(most + 2000);
        expect([ring.frame(first), ring.frame(first - 1), ring.frame(frames.length)]).toEqual([
          frames[first],
          undefined,
          undefined,
        ]);
      },
    ),
    { numRuns: 60 },
  );
  expect(runs).toBe(60);
});

test('what was handed in may be used for something else: the bytes are its own', () => {
  const ring = new FrameRing(4);
  const shared = Uint8Array.of(1, 2, 3);
  const datagram = { kind: 'udp', sourcePort: 1, destinationPort: 2, bytes: shared } as const;
  ring.push(0, {
    to: 'a',
    from: 'b',
    vlan: null,
    body: { kind: 'ip', source: 1, destination: 2, ttl: 3, payload: datagram },
  });
  shared.fill(9);
  expect(ring.last()).toMatchObject([{ frame: { body: { payload: { bytes: Uint8Array.of(1, 2, 3) } } } }]);
});

test('however long the frames are, the bytes that are kept have a limit, and the newest are there', () => {
  const ring = new FrameRing(20_000);
  const long = new Uint8Array(60_000);
  const body = { kind: 'ip', source: 1, destination: 2, ttl: 3 } as const;
  for (let at = 0; at < 2000; at += 1)
    ring.push(at, {
      to: 'a',
      from: 'b',
      vlan: null,
      body: { ...body, payload: { kind: 'udp', sourcePort: at, destinationPort: 2, bytes: long } },
    });
  const kept = ring.last();
  expect(kept.length * long.length).toBeLessThan(40 << 20);
  expect(kept.length * long.length).toBeGreaterThan(16 << 20);
  expect(kept.at(-1)).toMatchObject({ at: 1999, frame: { body: { payload: { sourcePort: 1999 } } } });
});
