import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { planKeyedIn } from '../bringup/index.ts';
import { planMoveEverywhere, whoStores } from '../links/index.ts';
import { applyChange, type Content, type Show } from '../show/index.ts';
import {
  adapter,
  address,
  device,
  link,
  network,
  service,
  showOf,
  types,
  typeWith,
} from '../show/sample-show.test-data.ts';
import { addressingFacts } from './facts.ts';
import { findAddressing } from './find-addressing.ts';
import { contains, formatIp, mustIp, overlaps, subnetOf } from './ipv4.ts';
import { adapterBeside, harmlessGateway, reachWays } from './reach.ts';
import { recoverSteps } from './recover.ts';
import { suggestRange } from './suggest-range.ts';
import { addressingWords } from './find-addressing.ts';

const six = typeWith('six', {
  name: 'Six',
  kind: 'camera',
  factory: { mode: 'static', ip: '10.9.0.40', prefix: 24, linkLocal6: true },
});
const rig = (rows: Parameters<typeof showOf>[0]): Show =>
  showOf({ types: [...types, six], networks: [network()], ...rows });
const facts = (show: Show) => addressingFacts(show);
const must = <T>(value: T | undefined): T => {
  if (value === undefined) throw new Error('not there');
  return value;
};

test('IPv6 is offered for a first contact, noted as still on, planned off with one change, and gone once that is set', () => {
  const show = rig({
    devices: [device('cam', 'six')],
    interfaces: [{ ...adapter('cam'), mac: '02:1e:70:00:00:7d' }],
    addresses: [address('cam', '10.1.0.31')],
  });
  const ways = (at: Show) => reachWays(at, facts(at), must(at.devices['cam'])).map(({ why }) => why);
  expect(ways(show)).toContain('link_local_6');
  const note = must(findAddressing(show, facts(show)).find(({ code }) => code === 'ipv6_on'));
  expect(addressingWords(note).what).toBe('cam still forms an IPv6 address beside the planned one.');
  const off = applyChange(show, must(note.fixes[0]).change);
  if (!off.ok) expect.fail('the fix did not apply');
  expect(findAddressing(off.show, facts(off.show)).map(({ code }) => code)).not.toContain('ipv6_on');
  // planned off is not off yet
  expect(ways(off.show)).toContain('link_local_6');
  const set = applyChange(off.show, must(planKeyedIn(off.show, facts(off.show), [must(off.show.devices['cam'])])));
  expect(set.ok && ways(set.show)).not.toContain('link_local_6');
});

describe('reaching a unit', () => {
  test('the computer’s setting is beside the target and on nobody', () => {
    const host = fc.integer({ min: 1, max: 254 });
    fc.assert(
      fc.property(host, fc.uniqueArray(host, { maxLength: 60 }), fc.option(host), (target, used, gateway) => {
        const show = rig({
          networks: [network({ gateway: gateway === null ? null : `10.1.0.${gateway}` })],
          devices: used.map((n) => device(`u${n}`, 'host')),
          interfaces: used.map((n) => adapter(`u${n}`)),
          addresses: used.map((n) => address(`u${n}`, `10.1.0.${n}`)),
        });
        const setting = must(adapterBeside(facts(show), mustIp(`10.1.0.${target}`), 24));
        const own = mustIp(setting.ip) & 255;
        expect(contains(subnetOf(mustIp('10.1.0.0'), 24), mustIp(setting.ip))).toBe(true);
        expect([target, gateway, 0, 255, ...used]).not.toContain(own);
      }),
    );
    const full = rig({
      networks: [network({ network: '10.1.0.0', prefix: 30 })],
      devices: [device('a', 'host')],
      interfaces: [adapter('a')],
      addresses: [address('a', '10.1.0.2')],
    });
    expect(adapterBeside(facts(full), mustIp('10.1.0.1'), 30)).toBeUndefined();
  });

  test('the likeliest place first: plan, factory, server, itself, IPv6', () => {
    const show = rig({
      networks: [network({ poolFrom: '10.1.0.100', poolTo: '10.1.0.150' })],
      devices: [device('a', 'six'), device('b', 'host')],
      interfaces: [{ ...adapter('a'), mac: '34:56:78:9a:bc:de' }, adapter('b')],
      addresses: [address('a', '10.1.0.31'), address('b', null, { method: 'dhcp' })],
    });
    const ways = (id: string) =>
      reachWays(show, facts(show), must(show.devices[id])).map(({ why, at, range }) => [why, at ?? range]);
    expect(ways('a')).toEqual([
      ['planned', '10.1.0.31'],
      ['factory', '10.9.0.40'],
      ['link_local_6', 'fe80::3656:78ff:fe9a:bcde'],
    ]);
    expect(ways('b')).toEqual([
      ['leased', '10.1.0.100 to 10.1.0.150'],
      ['self_assigned', '169.254.0.0/16'],
    ]);
  });

  test('a unit whose address nobody knows is reached the most harmless way first, and its address is keyed in last', () => {
    const all = ['system', 'usb', 'menu', 'search'].map((way) => ({
      way,
      note: way === 'menu' ? 'under its lid' : '',
    }));
    const made = rig({
      devices: [device('a', 'six')],
      interfaces: [adapter('a')],
      addresses: [address('a', '10.1.0.31')],
    });
    const six = must(made.types['six']);
    const stepsOf = (patch: object, devicePatch: object = {}) => {
      const show = {
        ...made,
        types: { ...made.types, six: { ...six, ...patch } as typeof six },
        devices: { a: { ...must(made.devices['a']), ...devicePatch } },
      };
      return recoverSteps(show, facts(show), must(show.devices['a']));
    };
    // a computer has a screen of its own, and is not reset
    expect(stepsOf({ ways: all }).map(({ kind }) => kind)).toEqual([
      ...['display', 'search', 'ranges', 'usb', 'local_screen', 'key_in'],
    ]);
    const steps = stepsOf(
      { ways: all.slice(1), erases: ['scenes'], adapters: [{ key: 'lan', label: 'network' }] },
      { savedOn: '2026-08-01' },
    );
    expect(steps.map(({ kind }) => kind)).toEqual([...['display', 'search', 'ranges', 'usb', 'reset', 'key_in']]);
    expect(steps).toContainEqual({ kind: 'display', note: 'under its lid' });
    expect(steps).toContainEqual({ kind: 'reset', erases: ['scenes'], savedOn: '2026-08-01' });
    expect(steps.at(-1)).toEqual({ kind: 'key_in', ips: ['10.1.0.31'] });
    // a program is not reset either, and without a search IPv6 finds it where its MAC address is known
    expect(stepsOf({ ways: [], form: 'program' }).map(({ kind }) => kind)).toEqual(['ranges', 'key_in']);
    const withMac = { ...made, interfaces: { ...made.interfaces } };
    const row = must(Object.values(withMac.interfaces)[0]);
    withMac.interfaces[row.id] = { ...row, mac: '34:56:78:9a:bc:de' };
    const bySix = recoverSteps(
      { ...withMac, types: { ...made.types, six: { ...six, ways: [] } } },
      facts(withMac),
      must(withMac.devices['a']),
    );
    expect(bySix[0]).toEqual({ kind: 'search', note: 'it answers at fe80::3656:78ff:fe9a:bcde' });
  });

  test('a gateway for a menu that refuses an empty field is one that nobody has', () => {
    const show = rig({
      devices: [device('a', 'host')],
      interfaces: [adapter('a')],
      addresses: [address('a', '10.1.0.254')],
    });
    expect(harmlessGateway(facts(show), 'net')).toBe('10.1.0.253');
  });
});

describe('what a network needs', () => {
  const one = (
    patch: Partial<Content<'networks'>>,
    more: Partial<Content<'addresses'>> = {},
    ip: string | null = '10.1.0.9',
  ) =>
    rig({
      networks: [network(patch)],
      devices: [device('a', 'host')],
      interfaces: [adapter('a')],
      addresses: [address('a', ip, more)],
    });
  const block = (use: 'place' | 'keep_free', first: string, last: string): Content<'blocks'> => ({
    id: 'b',
    networkId: 'net',
    label: 'Block',
    kinds: use === 'place' ? ['show-host'] : [],
    first,
    last,
    use,
  });
  const cases: readonly (readonly [string, Show])[] = [
    ['gateway_missing', one({ needsOutside: true })],
    ['gateway_idle', one({ gateway: '10.1.0.1' })],
    ['no_grant', one({ owner: 'house' })],
    ['not_granted', one({ owner: 'house', granted: [{ first: '10.1.0.60', last: '10.1.0.69' }] })],
    ['on_reserved', { ...one({}), blocks: { b: { ...block('keep_free', '10.1.0.5', '10.1.0.12'), rev: 1 } } }],
    ['network_tight', one({ prefix: 30, growth: 300 }, {}, '10.1.0.1')],
    ['block_tight', { ...one({ growth: 100 }), blocks: { b: { ...block('place', '10.1.0.9', '10.1.0.9'), rev: 1 } } }],
    ['pool_outside', one({ prefix: 25, poolFrom: '10.1.0.100', poolTo: '10.1.0.200' })],
    [
      'pool_over_block',
      {
        ...one({ poolFrom: '10.1.0.20', poolTo: '10.1.0.40' }),
        blocks: { b: { ...block('place', '10.1.0.5', '10.1.0.25'), rev: 1 } },
      },
    ],
    ['no_server', one({}, { method: 'dhcp' })],
    ['link_local_mask', rig({ networks: [network({ network: '169.254.8.0' })] })],
    ['factory_inside', rig({ networks: [network({ network: '10.9.0.0' })], devices: [device('a', 'camera')] })],
    [
      'second_needs_fixed',
      rig({
        networks: [
          network({ poolFrom: '10.1.0.100', poolTo: '10.1.0.110' }),
          network({ id: 'two', name: 'Two', network: '10.2.0.0' }),
        ],
        devices: [device('a', 'host')],
        interfaces: [adapter('a')],
        addresses: [
          address('a', null, { method: 'dhcp' }),
          { ...address('a', '10.2.0.9'), id: 'a-2', networkId: 'two' },
        ],
      }),
    ],
    ['pool_reversed', one({ poolFrom: '10.1.0.40', poolTo: '10.1.0.20' })],
    ['pool_unserved', one({ poolFrom: '10.1.0.20', poolTo: '10.1.0.40' }, { method: 'dhcp' })],
    [
      'pool_small',
      rig({
        networks: [network({ poolFrom: '10.1.0.100', poolTo: '10.1.0.100' })],
        devices: ['a', 'b'].map((id) => device(id, 'host')),
        interfaces: ['a', 'b'].map((id) => adapter(id)),
        addresses: ['a', 'b'].map((id) => address(id, null, { method: 'dhcp' })),
      }),
    ],
  ];

  test.each(cases)('%s is found alone, said whole, and its fix takes it away', (code, show) => {
    const found = findAddressing(show, facts(show));
    // a pool without a router in the plan is a finding of its own
    const own = found.filter((finding) => finding.code === code || finding.code !== 'pool_unserved');
    expect(own.map((finding) => finding.code)).toEqual([code]);
    for (const finding of found) {
      const { what, why, fix } = addressingWords(finding);
      for (const text of [what, why, fix]) expect(text).toMatch(/^\S.*[.!]$/);
      expect(`${what}${why}${fix}`).not.toMatch(/undefined|null|\[object/);
      for (const { change } of finding.fixes) {
        const applied = applyChange(show, change);
        expect(
          applied.ok && findAddressing(applied.show, facts(applied.show)).some(({ key }) => key === finding.key),
        ).toBe(false);
      }
    }
  });
});

test('everybody who stores an address is listed before it moves, and what the plan can follow follows', () => {
  const show = rig({
    networks: [network({ gateway: '10.1.0.60' })],
    devices: [device('host', 'host'), device('desk', 'desk'), device('second', 'desk')],
    interfaces: [adapter('host'), adapter('desk'), adapter('second')],
    addresses: [address('host', '10.1.0.2'), address('desk', '10.1.0.60'), address('second', '10.1.0.61')],
    services: [service('desk'), { ...service('second'), sendTo: '10.1.0.60' }],
    links: [link('desk', { slot: 4 }), link('desk', { id: 'typed', host: '10.1.0.60' })],
  });
  const row = must(show.addresses['desk-a']);
  expect(whoStores(show, row).map(({ kind, where }) => [kind, where])).toEqual([
    ['controller', 'slot 4'],
    ['controller_typed', ''],
    ['reply', 'OSC'],
    ['gateway', 'Control'],
  ]);
  const change = must(planMoveEverywhere(show, row, mustIp('10.1.0.70'), true));
  const applied = applyChange(show, change);
  if (!applied.ok) throw new Error('does not apply');
  expect([
    applied.show.links['typed']?.host,
    applied.show.services['second-s']?.sendTo,
    applied.show.networks['net']?.gateway,
  ]).toEqual(Array.from({ length: 3 }, () => formatIp(mustIp('10.1.0.70'))));
});

test('a range is found beside any that is taken, as long as one private range is left', () => {
  const taken = (...ranges: [ip: string, prefix: number][]) =>
    suggestRange(
      rig({ networks: ranges.map(([ip, prefix], at) => network({ id: `n${at}`, network: ip, prefix })), devices: [] }),
    );
  expect(taken(['10.9.0.0', 16])).toBe('10.61.0.0/24');
  expect(taken(['10.0.0.0', 8])).toBe('172.16.0.0/24');
  expect(taken(['10.0.0.0', 8], ['172.16.0.0', 12])).toBe('192.168.0.0/24');
  expect(taken(['10.0.0.0', 8], ['172.16.0.0', 12], ['192.168.0.0', 16])).toBeUndefined();
});

test('a range for one more network is beside ours, private, and overlaps nothing', () => {
  const first = rig({ networks: [] });
  expect(suggestRange(first)).toBe('10.61.10.0/24');
  const networks = fc.uniqueArray(fc.integer({ min: 0, max: 255 }), { maxLength: 40 });
  fc.assert(
    fc.property(networks, (thirds) => {
      const show = rig({
        networks: thirds.map((third) => network({ id: `n${third}`, network: `10.9.${third}.0` })),
        devices: [device('a', 'camera')],
      });
      const [ip = '', prefix = ''] = (suggestRange(show) ?? '').split('/');
      const own = subnetOf(mustIp(ip), Number(prefix));
      const others = [...thirds.map((third) => `10.9.${third}.0`), '10.9.0.0'].map((text) =>
        subnetOf(mustIp(text), 24),
      );
      expect(others.some((other) => overlaps(other, own))).toBe(false);
    }),
  );
});
