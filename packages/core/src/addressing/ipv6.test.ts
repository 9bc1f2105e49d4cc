import fc from 'fast-check';
import ipaddr from 'ipaddr.js';
import { describe, expect, test } from 'vitest';
import { formatIpv6, isLinkLocal6, linkLocalOf, macOfLinkLocal, parseIpv6, sameIpv6 } from './ipv6.ts';

const group = fc.oneof(fc.constant(0), fc.constant(0), fc.integer({ min: 0, max: 0xffff }));
const address = fc.array(group, { minLength: 8, maxLength: 8 });

describe('IPv6 against a second implementation', () => {
  test('what is written is the form of RFC 5952 and reads back the same', () => {
    fc.assert(
      fc.property(address, (groups) => {
        const text = formatIpv6(groups);
        expect(text).toBe(new ipaddr.IPv6(groups).toRFC5952String());
        expect(parseIpv6(text)).toEqual(groups);
      }),
      { numRuns: 2000 },
    );
  });

  test('the same texts are read and refused, with the same value', () => {
    const pieces = fc.constantFrom('0', '1', 'fe80', 'FFFF', '00ab', '12345', '::', ':', '', '10.61.20.5', 'g');
    fc.assert(
      fc.property(fc.array(pieces, { maxLength: 10 }), (parts) => {
        const text = parts.join(':').replace(/:{3,}/g, '::');
        const own = parseIpv6(text);
        // the other one reads ::a.b.c.d as ::ffff:a.b.c.d, against RFC 4291 section 2.5.5.1
        if (/^::\d+\.\d+\.\d+\.\d+$/.test(text)) return;
        if (ipaddr.IPv6.isValid(text)) expect(own).toEqual(ipaddr.IPv6.parse(text).parts);
        else expect(own).toBeUndefined();
      }),
      { numRuns: 3000 },
    );
  });

  test('an adapter’s link-local address follows from its MAC, and the MAC from it', () => {
    // the example of RFC 4291 appendix A: 34-56-78-9A-BC-DE gives 3656:78ff:fe9a:bcde
    expect(formatIpv6(linkLocalOf('34:56:78:9a:bc:de') ?? [])).toBe('fe80::3656:78ff:fe9a:bcde');
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 0, max: 255 }), { minLength: 6, maxLength: 6 }), (bytes) => {
        const mac = bytes.map((byte) => byte.toString(16).padStart(2, '0')).join(':');
        const own = linkLocalOf(mac) ?? [];
        expect([macOfLinkLocal(own), isLinkLocal6(own)]).toEqual([mac, true]);
        expect(new ipaddr.IPv6([...own]).range()).toBe('linkLocal');
      }),
    );
    expect([linkLocalOf('34:56'), macOfLinkLocal(parseIpv6('fe80::1') ?? [])]).toEqual([undefined, undefined]);
  });

  test('two ways of writing one address are the same address', () => {
    const [a, b] = [parseIpv6('FE80:0:0:0:1E:7000:0:7D%en0'), parseIpv6('fe80::1e:7000:0:7d')];
    expect(a && b && sameIpv6(a, b)).toBe(true);
  });
});
