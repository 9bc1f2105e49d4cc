import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { applyChange, rowsOf, type Content, type Show } from '../show/index.ts';
import { addressingFacts } from '../addressing/index.ts';
import {
  adapter,
  address,
  cable,
  device,
  network,
  rowOf,
  showOf,
  soundRows,
  types,
  typeWith,
} from '../show/sample-show.test-data.ts';
import { cablingFacts, cablingWords, findCabling, planCable, planPlugTogether } from './index.ts';

const hub = (id: string) => device(id, 'switch');
const trunk = (
  from: string,
  fromSocket: string,
  to: string,
  toSocket: string,
  patch: Partial<Content<'cables'>> = {},
): Content<'cables'> => ({
  grade: null,
  stage: 'both',
  id: `t-${from}-${fromSocket}`,
  fromDevice: from,
  fromSocket,
  toDevice: to,
  toSocket,
  medium: 'copper',
  delayMs: null,
  lengthM: 10,
  ...patch,
});
const facts = (show: Show) => cablingFacts(show);

describe('segments and routes', () => {
  test('a chain of switches is one segment; lengths add up and one wireless hop colours the whole way', () => {
    const show = showOf({
      ...soundRows,
      devices: [...soundRows.devices, hub('hub-2')],
      cables: [
        cable('host', 'p-1'),
        trunk('hub', 'p-8', 'hub-2', 'p-8', { medium: 'wireless', lengthM: 400, delayMs: 9 }),
        { ...cable('desk', 'p-2'), toDevice: 'hub-2' },
      ],
    });
    const { segmentOf, route, segmentOfHub, plugOf } = facts(show);
    expect(segmentOf('host-lan')).toBe(segmentOf('desk-lan'));
    expect(segmentOf('host-lan')).toBe(segmentOfHub('hub-2'));
    expect(route('host-lan', 'desk-lan')).toEqual({ hops: 3, lengthM: 410, wireless: true, delayMs: 9 });
    expect(plugOf('desk-lan')).toMatchObject({ socket: 'port 1', farDevice: { id: 'hub-2' }, farSocket: 'p2' });
    expect([segmentOf('camera-lan'), plugOf('camera-lan'), route('host-lan', 'camera-lan')]).toEqual([
      undefined,
      undefined,
      undefined,
    ]);
  });

  test('a cable to a socket that is not there joins nothing', () => {
    const show = showOf({ ...soundRows, cables: [cable('host', 'p-1'), cable('desk', 'p-99')] });
    expect([facts(show).segmentOf('host-lan') === undefined, facts(show).segmentOf('desk-lan')]).toEqual([
      false,
      undefined,
    ]);
  });

  test('on random nets, two interfaces share a segment exactly when there is a route, the same both ways', () => {
    const net = fc.uniqueArray(
      fc.tuple(fc.nat(5), fc.nat(5)).filter(([a, b]) => a !== b),
      { maxLength: 8, selector: ([a, b]) => [a, b].sort().join() },
    );
    fc.assert(
      fc.property(net, fc.array(fc.nat(5), { minLength: 4, maxLength: 4 }), (trunks, homes) => {
        const used = new Map<number, number>();
        const socket = (at: number) => {
          const next = (used.get(at) ?? 0) + 1;
          used.set(at, next);
          return `p-${next}`;
        };
        const cables = trunks.map(([a, b], at) => ({ ...trunk(`h${a}`, socket(a), `h${b}`, socket(b)), id: `t${at}` }));
        const ends = homes.map((home, at) => ({
          ...trunk(`u${at}`, 'port-1', `h${home}`, socket(home)),
          id: `e${at}`,
        }));
        const show = showOf({
          devices: [
            ...Array.from({ length: 6 }, (_, at) => hub(`h${at}`)),
            ...homes.map((_, at) => device(`u${at}`, 'desk')),
          ],
          interfaces: homes.map((_, at) => adapter(`u${at}`)),
          cables: [...cables, ...ends].filter(({ fromSocket, toSocket }) => !/p-(9|\d\d)/.test(fromSocket + toSocket)),
        });
        const { segmentOf, route } = facts(show);
        for (const [a] of homes.entries())
          for (const [b] of homes.entries()) {
            const [from, to] = [`u${a}-lan`, `u${b}-lan`];
            const plugged = segmentOf(from) !== undefined && segmentOf(to) !== undefined;
            if (plugged) expect(route(from, to) !== undefined).toBe(segmentOf(from) === segmentOf(to));
            expect(route(from, to)).toEqual(route(to, from));
          }
      }),
    );
  });
});

describe('plugging in', () => {
  const together = (show: Show, a = 'host', b = 'desk') =>
    planPlugTogether(show, facts(show), rowOf(show, 'interfaces', `${a}-lan`), rowOf(show, 'interfaces', `${b}-lan`));

  test('goes into the switch that one of them reaches already, else the one with most room, else straight across', () => {
    const half = showOf({
      ...soundRows,
      devices: [...soundRows.devices, hub('empty')],
      cables: [cable('host', 'p-1')],
    });
    expect(together(half)?.label).toBe('Plug desk into hub');
    const none = showOf({
      ...soundRows,
      devices: [...soundRows.devices, hub('empty')],
      cables: [cable('camera', 'p-3')],
    });
    expect(together(none)?.label).toBe('Plug host and desk into empty');
    const bare = showOf({ ...soundRows, devices: soundRows.devices.filter(({ id }) => id !== 'hub'), cables: [] });
    expect(together(bare)?.label).toBe('Cable host to desk');
  });

  test('joins two switches, and gives up where no socket is free', () => {
    const apart = showOf({
      ...soundRows,
      devices: [...soundRows.devices, hub('hub-2')],
      cables: [cable('host', 'p-1'), { ...cable('desk', 'p-1'), toDevice: 'hub-2' }],
    });
    expect(together(apart)?.label).toBe('Cable hub to hub-2');
    const others = Array.from({ length: 7 }, (_, at) => device(`x${at}`, 'desk'));
    const full = showOf({
      ...soundRows,
      devices: [...soundRows.devices, ...others],
      cables: [cable('host', 'p-1'), ...others.map(({ id }, at) => cable(id, `p-${at + 2}`))],
    });
    expect(together(full)).toBeUndefined();
  });

  test('whatever it plans can be applied, uses free sockets only and brings both together', () => {
    fc.assert(
      fc.property(fc.subarray(['host', 'desk', 'camera']), (plugged) => {
        const show = showOf({ ...soundRows, cables: plugged.map((id, at) => cable(id, `p-${at + 1}`)) });
        const change = together(show, 'camera', 'desk');
        const after = change ? applyChange(show, change) : { ok: true as const, show };
        if (!after.ok) throw new Error('does not apply');
        const { segmentOf } = facts(after.show);
        expect(segmentOf('camera-lan')).toBe(segmentOf('desk-lan'));
        const ends = rowsOf(after.show, 'cables').flatMap((row) => [
          `${row.fromDevice} ${row.fromSocket}`,
          `${row.toDevice} ${row.toSocket}`,
        ]);
        expect(new Set(ends).size).toBe(ends.length);
      }),
    );
  });

  test('by hand between two named sockets', () => {
    const show = showOf({ ...soundRows, cables: [] });
    expect(
      planCable(show, { deviceId: 'host', socket: 'port-1' }, { deviceId: 'hub', socket: 'p-7' })?.edits[0]?.after,
    ).toMatchObject({ fromSocket: 'port-1', toSocket: 'p-7' });
    expect(planCable(show, { deviceId: 'gone', socket: 'x' }, { deviceId: 'hub', socket: 'p-7' })).toBeUndefined();
    expect(facts(show).freeSockets('hub')).toHaveLength(8);
  });
});

describe('sockets and what they serve', () => {
  const amplifier = typeWith('amp', {
    name: 'Amp',
    kind: 'amplifier',
    factory: { mode: 'self', ip: null, prefix: null },
    sockets: [1, 2].map((n) => ({ key: `port-${n}`, label: `port ${n}`, adapter: 'lan' })),
    variants: [
      { key: 'net', label: 'with audio network', sockets: [{ key: 'port-1', role: 'audio_primary', adapter: null }] },
    ],
  });
  const rig = (variant: string | null, carries: 'control' | 'audio') =>
    showOf({
      types: [...types, amplifier],
      networks: [network({ carries })],
      devices: [device('a', 'amp', { variant }), device('hub', 'switch')],
      interfaces: [adapter('a')],
      addresses: [address('a', '10.1.0.9')],
      cables: [cable('a', 'p-1')],
    });
  const codes = (show: Show) => {
    const addressing = addressingFacts(show);
    return findCabling(show, cablingFacts(show), addressing);
  };

  test('a socket that a variant gives to another network is told, and the fix plugs into one that serves', () => {
    expect(codes(rig(null, 'control'))).toEqual([]);
    const [finding] = codes(rig('net', 'control'));
    expect([finding?.code, finding?.fixes[0]?.label]).toEqual(['wrong_socket', 'Plug a into port 2']);
    const applied = finding?.fixes[0] && applyChange(rig('net', 'control'), finding.fixes[0].change);
    expect(applied?.ok && codes(applied.show)).toEqual([]);
    if (finding) expect(cablingWords(finding).what).toContain('audio, primary in the variant “with audio network”');
  });

  test('a socket for one thing leads to networks of that thing, to mixed ones, and control and management to each other', () => {
    const roles = [
      'any',
      'control',
      'management',
      'audio_primary',
      'audio_secondary',
      'led',
      'video',
      'setup',
    ] as const;
    const purposes = ['control', 'audio', 'led', 'video', 'management', 'guest', 'mixed'] as const;
    const refused = (role: (typeof roles)[number]) =>
      purposes.filter((carries) => {
        const own = { ...amplifier, variants: [], sockets: [{ ...amplifier.sockets[0], role }] } as typeof amplifier;
        const show = rig(null, 'control');
        const networks = Object.fromEntries(
          Object.entries(show.networks).map(([id, row]) => [id, { ...row, carries }]),
        );
        return codes({ ...show, networks, types: { ...show.types, amp: { ...own, rev: 1 } } }).length > 0;
      });
    expect(Object.fromEntries(roles.map((role) => [role, refused(role).join(' ')]))).toEqual({
      any: '',
      control: 'audio led video guest',
      management: 'audio led video guest',
      audio_primary: 'control led video management guest',
      audio_secondary: 'control led video management guest',
      led: 'control audio video management guest',
      video: purposes.join(' '),
      setup: purposes.join(' '),
    });
  });

  test('more units than free sockets are counted', () => {
    const ids = Array.from({ length: 10 }, (_, n) => `u${n}`);
    const show = showOf({
      networks: [network()],
      devices: [...ids.map((id) => device(id, 'camera')), device('hub', 'switch')],
      interfaces: ids.map((id) => adapter(id)),
      addresses: ids.map((id, n) => address(id, `10.1.0.${n + 1}`)),
    });
    expect(codes(show).map(({ code, facts }) => [code, facts['short']])).toEqual([['sockets_short', 2]]);
  });
});
