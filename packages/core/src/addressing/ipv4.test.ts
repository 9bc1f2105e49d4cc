import fc from 'fast-check';
import ipaddr from 'ipaddr.js';
import { ipKind, unusableKinds } from './ip-kind.ts';
import { describe, expect, test } from 'vitest';
import {
  broadcastOf,
  contains,
  formatIp,
  hostCount,
  hostRange,
  maskOf,
  overlaps,
  parseIp,
  prefixOf,
  subnetOf,
} from './ipv4.ts';
import { likelySlip } from './likely-slip.ts';
import { entryWords } from './words.ts';
import { readIpEntry, readMask } from './read-ip-entry.ts';

/** The same arithmetic in arbitrary precision, written from the definitions and not from our code. */
const reference = {
  mask: (prefix: number) => ((1n << 32n) - 1n) ^ ((1n << BigInt(32 - prefix)) - 1n),
  network: (ip: number, prefix: number) => BigInt(ip) & reference.mask(prefix),
  broadcast: (ip: number, prefix: number) => reference.network(ip, prefix) | ((1n << BigInt(32 - prefix)) - 1n),
};
const ip = fc.integer({ min: 0, max: 2 ** 32 - 1 });
const prefix = fc.integer({ min: 1, max: 32 });

describe('IPv4 arithmetic', () => {
  test('agrees with BigInt for every address and prefix', () => {
    fc.assert(
      fc.property(ip, ip, prefix, (a, b, p) => {
        const subnet = subnetOf(a, p);
        expect(BigInt(maskOf(p))).toBe(reference.mask(p));
        expect(BigInt(subnet.network)).toBe(reference.network(a, p));
        expect(BigInt(broadcastOf(subnet))).toBe(reference.broadcast(a, p));
        expect(contains(subnet, b)).toBe(reference.network(b, p) === reference.network(a, p));
        expect(hostCount(subnet)).toBe(p === 32 ? 1 : p === 31 ? 2 : Number((1n << BigInt(32 - p)) - 2n));
        expect(prefixOf(maskOf(p))).toBe(p);
        expect(parseIp(formatIp(a))).toBe(a);
      }),
      { numRuns: 2000 },
    );
  });

  test('two subnets overlap when an address of one lies in the other', () => {
    fc.assert(
      fc.property(ip, prefix, ip, prefix, (a, p, b, q) => {
        const wider = Math.min(p, q);
        const same = reference.network(a, wider) === reference.network(b, wider);
        expect(overlaps(subnetOf(a, p), subnetOf(b, q))).toBe(same);
      }),
    );
  });

  test('knows the ends of the longest prefixes (RFC 3021)', () => {
    expect(hostRange(subnetOf(10, 31))).toEqual({ first: 10, last: 11 });
    expect(hostRange(subnetOf(10, 32))).toEqual({ first: 10, last: 10 });
    expect(hostRange(subnetOf(10, 30))).toEqual({ first: 9, last: 10 });
  });

  test.each([
    '1.2.3',
    '010.0.0.1',
    '1.2.3.4.5',
    '1.2.3.256',
    ' 1.2.3.4',
    '1.2.3.',
    '1..2.3',
    '0x1.2.3.4',
    '1.2.3.-4',
    '٣.1.1.1',
  ])('refuses %s', (text) => expect(parseIp(text)).toBeUndefined());

  test('a mask with holes has no prefix', () =>
    expect([0xff00ff00, 0xfffffffd, 1].map(prefixOf)).toEqual([undefined, undefined, undefined]));
});

describe('what people type', () => {
  const within = subnetOf(parseIp('10.61.20.0') ?? 0, 24);

  test.each([
    ['10.61.20.5', '10.61.20.5', null],
    [' 10.61.20.5 / 24 ', '10.61.20.5', 24],
    ['10.61.20.5 255.255.255.0', '10.61.20.5', 24],
    ['10.61.20.5/255.255.0.0', '10.61.20.5', 16],
    ['33', '10.61.20.33', null],
    ['.33', '10.61.20.33', null],
  ])('reads %s', (typed, address, p) =>
    expect(readIpEntry(typed, within)).toEqual({ ok: true, ip: parseIp(address), prefix: p }),
  );

  test.each([
    ['', 'empty', null],
    ['10.61.20', 'too_few_parts', null],
    ['10.61.20.1.5', 'too_many_parts', null],
    ['10.61.20.333', 'part_out_of_range', null],
    ['10.61..20.5', 'empty_part', '10.61.20.5'],
    ['10.61.020.5', 'leading_zero', '10.61.20.5'],
    ['10,61,20,5', 'stray_characters', '10.61.20.5'],
    ['1O.61.20.5', 'stray_characters', '10.61.20.5'],
    ['10.61.20.5/33', 'bad_prefix', null],
    ['10.61.20.5 255.255.0.255', 'mask_not_contiguous', '10.61.20.5/16'],
    ['10.61.20.5 255.255.255', 'too_few_parts', null],
  ])('says what is wrong with "%s"', (typed, fault, guess) =>
    expect(readIpEntry(typed)).toEqual({ ok: false, fault, text: typed, guess }),
  );

  test('a guess is always readable and never the text itself', () => {
    fc.assert(
      fc.property(fc.stringMatching(/^[0-9.,/ oOlI]{0,20}$/), (typed) => {
        const entry = readIpEntry(typed);
        if (!entry.ok && entry.guess !== null) expect(readIpEntry(entry.guess).ok).toBe(true);
      }),
    );
  });

  test('the strict reader accepts what a second implementation reads as four decimal numbers, with the same value', () => {
    const part = fc.oneof(fc.integer({ min: 0, max: 300 }).map(String), fc.constantFrom('', '01', 'x', '1e1'));
    fc.assert(
      fc.property(fc.array(part, { minLength: 3, maxLength: 5 }), (parts) => {
        const text = parts.join('.');
        const own = parseIp(text);
        expect(own !== undefined).toBe(ipaddr.IPv4.isValidFourPartDecimal(text) && !/(^|\.)0\d/.test(text));
        if (own === undefined) return;
        const other = ipaddr.IPv4.parse(text);
        expect(formatIp(own)).toBe(other.toString());
        for (const length of [8, 16, 20, 24, 30])
          expect(formatIp(subnetOf(own, length).network)).toBe(
            ipaddr.IPv4.networkAddressFromCIDR(`${text}/${length}`).toString(),
          );
      }),
    );
  });

  test('a last figure alone is one of the network, whatever its size', () => {
    const small = subnetOf(parseIp('10.61.20.128') ?? 0, 26);
    expect(readIpEntry('.130', small)).toEqual({ ok: true, ip: parseIp('10.61.20.130'), prefix: null });
    for (const typed of ['5', '127', '192']) {
      const entry = readIpEntry(typed, small);
      expect(entry).toMatchObject({ ok: false, fault: 'figure_outside', figures: [129, 190] });
      expect(entry.ok ? '' : entryWords(entry)).toBe(
        'No address of this network ends on that figure. Here the last one goes from 129 to 190.',
      );
    }
  });

  test('within a network, missing parts and a slip in the network part are completed', () => {
    const within = subnetOf(parseIp('10.61.20.0') ?? 0, 24);
    const guess = (typed: string) => {
      const entry = readIpEntry(typed, within);
      return entry.ok ? (entry.meant ?? null) : entry.guess;
    };
    expect(
      ['20.33', '61.20.33', '10.61.33', '10.61.2.33', '10.16.20.33', '10.61.20.33', '10.99.7.33'].map(guess),
    ).toEqual(['10.61.20.33', '10.61.20.33', '10.61.20.33', '10.61.20.33', '10.61.20.33', null, null]);
    expect(readIpEntry('fe80::1e:70ff:fe00:7d')).toMatchObject({ ok: false, fault: 'is_ipv6' });
  });

  test('masks come as prefixes too', () =>
    expect([readMask('/24'), readMask('24'), readMask('255.255.255.252')]).toEqual([24, 24, 30]));

  test.each([
    ['531', '5310', 'dropped'],
    ['53100', '5310', 'doubled'],
    ['5130', '5310', 'transposed'],
    ['5319', '5310', 'changed'],
    ['5310', '5310', undefined],
    ['8000', '5310', undefined],
  ])('%s for %s is %s', (entered, expected, slip) => expect(likelySlip(entered, expected)).toBe(slip));
});

test.each([
  ['0.255.255.255', 'unspecified'],
  ['1.0.0.0', 'public'],
  ['9.255.255.255', 'public'],
  ['10.0.0.0', 'private'],
  ['10.255.255.255', 'private'],
  ['11.0.0.0', 'public'],
  ['100.63.255.255', 'public'],
  ['100.64.0.0', 'shared'],
  ['100.127.255.255', 'shared'],
  ['100.128.0.0', 'public'],
  ['127.0.0.1', 'loopback'],
  ['128.0.0.0', 'public'],
  ['169.253.255.255', 'public'],
  ['169.254.0.0', 'link_local'],
  ['172.15.255.255', 'public'],
  ['172.16.0.0', 'private'],
  ['172.31.255.255', 'private'],
  ['172.32.0.0', 'public'],
  ['192.0.2.9', 'documentation'],
  ['192.167.255.255', 'public'],
  ['192.168.9.9', 'private'],
  ['198.17.255.255', 'public'],
  ['198.18.0.0', 'benchmarking'],
  ['198.19.255.255', 'benchmarking'],
  ['198.20.0.0', 'public'],
  ['198.51.100.1', 'documentation'],
  ['203.0.113.1', 'documentation'],
  ['223.255.255.255', 'public'],
  ['224.0.0.1', 'multicast'],
  ['239.255.255.255', 'multicast'],
  ['240.0.0.0', 'reserved'],
  ['255.255.255.255', 'reserved'],
] as const)('%s is %s by the registries', (ip, kind) => {
  expect([ipKind(parseIp(ip) ?? 0), unusableKinds.has(kind)]).toEqual([
    kind,
    ['unspecified', 'loopback', 'multicast', 'reserved'].includes(kind),
  ]);
});
