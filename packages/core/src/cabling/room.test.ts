import { describe, expect, test } from 'vitest';
import { addressingFacts } from '../addressing/index.ts';
import { applyChange, rowsOf, type Change, type Content, type Show } from '../show/index.ts';
import {
  adapter,
  address,
  device,
  link,
  network,
  rowOf,
  service,
  showOf,
  soundRows,
  types,
  typeWith,
} from '../show/sample-show.test-data.ts';
import {
  betweenNetworks,
  cablingFacts,
  changeover,
  findCabling,
  heldLoops,
  inputTable,
  kindWords,
  layerOf,
  picturePaths,
  planRuns,
  planSocketAsPlanned,
  planSocketVlan,
  socketTable,
  usbWays,
  vlanGrid,
  type CableGrade,
} from './index.ts';

const none = { mode: 'none', ip: null, prefix: null } as const;
const sockets = (count: number, given: object = {}) =>
  Array.from({ length: count }, (_, at) => ({ key: `p-${at + 1}`, label: `p${at + 1}`, adapter: null, ...given }));
const own = [
  ...types,
  typeWith('managed', {
    ...{ name: 'Managed', kind: 'switch', factory: none, adapters: [], forwards: true, managed: true },
    sockets: sockets(6),
  }),
  typeWith('fast', {
    name: 'Fast',
    kind: 'switch',
    factory: none,
    adapters: [],
    forwards: true,
    sockets: sockets(2, { rateMbps: 10_000 }),
  }),
  typeWith('lit', {
    name: 'Lit',
    kind: 'switch',
    factory: none,
    adapters: [],
    forwards: true,
    sockets: sockets(2, { rateMbps: 10_000, connector: 'sfp' }),
  }),
  typeWith('mixer', {
    ...{ name: 'Mixer', kind: 'mixer', factory: none },
    adapters: ['control', 'audio'].map((key) => ({ key, label: key })),
    sockets: ['control', 'audio'].map((key) => ({ key, label: key, adapter: key })),
  }),
  typeWith('vision', {
    ...{ name: 'Vision', kind: 'switcher', factory: none, drives: ['osc', 'http'] },
    sockets: [
      { key: 'port-1', label: 'port 1', adapter: 'lan' },
      ...[1, 2, 3].map((n) => ({
        key: `in-${n}`,
        label: `input ${n}`,
        adapter: null,
        role: 'video' as const,
        connector: 'sdi' as const,
      })),
    ],
  }),
  typeWith('player', {
    ...{
      name: 'Player',
      kind: 'playout',
      factory: none,
      services: types.find(({ id }) => id === 'desk')?.services ?? [],
    },
    sockets: [
      { key: 'port-1', label: 'port 1', adapter: 'lan' },
      { key: 'out', label: 'picture out', adapter: null, role: 'video', connector: 'sdi' },
      { key: 'usb', label: 'USB', adapter: null, role: 'setup', connector: 'usb' },
    ],
    ways: [{ way: 'usb' }],
  }),
];
const run = (from: string, to: string, patch: Partial<Content<'cables'>> = {}): Content<'cables'> => {
  const [fromDevice = '', fromSocket = ''] = from.split(' ');
  const [toDevice = '', toSocket = ''] = to.split(' ');
  const ends = { fromDevice, fromSocket, toDevice, toSocket };
  return {
    id: `${fromDevice}-${fromSocket}`,
    ...ends,
    medium: 'copper',
    grade: null,
    lengthM: 5,
    delayMs: null,
    stage: 'both',
    ...patch,
  };
};
const factsOf = (show: Show) => [cablingFacts(show), addressingFacts(show)] as const;
const found = (show: Show) => findCabling(show, ...factsOf(show));
const codes = (show: Show) => found(show).map(({ code }) => code);
function after(show: Show, change: Change | undefined): Show {
  const applied = change && applyChange(show, change);
  if (!applied?.ok) throw new Error('nothing was changed');
  return applied.show;
}

describe('grades and rates (C46)', () => {
  const two = (type: string, medium: 'copper' | 'fibre', grade: CableGrade | null, lengthM: number | null) =>
    showOf({
      types: own,
      devices: [device('a', type), device('b', type)],
      cables: [run('a p-1', 'b p-1', { medium, grade, lengthM })],
    });

  test.each([
    ['switch', 'copper', 'cat5e', 100, []],
    ['switch', 'copper', 'cat5e', 100.1, ['too_long']],
    ['fast', 'copper', 'cat5e', 1, ['too_long_for_rate']],
    ['fast', 'copper', 'cat6', 55, []],
    ['fast', 'copper', 'cat6', 55.1, ['too_long_for_rate']],
    ['fast', 'copper', 'cat6a', 100, []],
    ['fast', 'copper', null, 55, ['grade_unknown']],
    ['fast', 'copper', 'cat6a', null, ['lengths_unknown']],
    ['switch', 'fibre', 'om3', 550, []],
    ['switch', 'fibre', 'om3', 551, ['too_long']],
    ['lit', 'fibre', 'om3', 300, []],
    ['lit', 'fibre', 'om3', 301, ['too_long']],
    ['lit', 'fibre', 'om4', 400, []],
    ['lit', 'fibre', 'om4', 401, ['too_long']],
    ['lit', 'fibre', 'os2', 10_000, []],
    ['lit', 'fibre', null, 301, ['grade_unknown']],
  ] as const)('%s over %s %s of %s m: %j', (type, medium, grade, lengthM, wanted) => {
    expect(codes(two(type, medium, grade, lengthM))).toEqual(wanted);
  });

  test('the slower end decides, and what is offered mends it', () => {
    const mixed = showOf({
      types: own,
      devices: [device('a', 'fast'), device('b', 'switch')],
      cables: [run('a p-1', 'b p-1', { grade: 'cat5e', lengthM: 90 })],
    });
    expect(codes(mixed)).toEqual([]);
    let mended = 0;
    for (const show of [
      two('fast', 'copper', 'cat6', 80),
      two('fast', 'copper', 'cat5e', 100),
      two('lit', 'fibre', 'om3', 900),
      two('switch', 'copper', null, 140),
    ]) {
      const next = after(show, found(show)[0]?.fixes[0]?.change);
      expect(codes(next)).toEqual([]);
      mended += 1;
    }
    expect(mended).toBe(4);
  });

  test('a kind that is written is read again, by its grade or its medium', () => {
    const show = showOf({ types: own, devices: [device('a', 'fast'), device('b', 'fast')] });
    const kinds = [
      ...(['cat5e', 'cat6', 'cat6a'] as const).map((grade) => ({ medium: 'copper', grade }) as const),
      ...(['om3', 'om4', 'os2'] as const).map((grade) => ({ medium: 'fibre', grade }) as const),
      ...(['copper', 'fibre'] as const).map((medium) => ({ medium, grade: null }) as const),
    ];
    for (const kind of kinds) {
      const written = {
        line: 1,
        from: 'a',
        fromSocket: '1',
        to: 'b',
        toSocket: '1',
        length: '3 m',
        stage: 'show only',
      };
      const plan = planRuns(show, [{ ...written, medium: kindWords(kind) }]);
      expect(plan.ok && plan.runs[0]).toMatchObject({ ...kind, lengthM: 3, stage: 'show' });
    }
    const bad = planRuns(show, [
      { line: 1, from: 'a', fromSocket: '1', to: 'b', toSocket: '1', medium: 'string', length: '', stage: 'never' },
    ]);
    expect(bad.ok ? [] : bad.faults.map(({ field }) => field).sort()).toEqual(['medium', 'stage']);
  });
});

test('a circle that spanning tree cuts is told with the socket that it keeps shut', () => {
  const ring = (b: string) =>
    showOf({
      types: own,
      devices: [device('a', 'managed'), device('b', b), device('c', 'managed')],
      cables: [run('a p-1', 'b p-1'), run('b p-2', 'c p-1'), run('c p-2', 'a p-2')],
    });
  const { domains } = cablingFacts(ring('managed'));
  const [loop, ...more] = heldLoops(ring('managed'), domains());
  expect([more.length, loop?.runs.length, loop?.devices.toSorted(), loop?.plain]).toEqual([0, 3, ['a', 'b', 'c'], []]);
  expect(domains().isShut(loop?.shut.deviceId ?? '', loop?.shut.socket ?? '')).toBe(true);
  const mixed = ring('switch');
  expect(heldLoops(mixed, cablingFacts(mixed).domains()).map(({ plain }) => plain)).toEqual([['b']]);
  expect(codes(mixed)).toEqual(['loop_held']);
});

test('a ring of LED data from a processor through its tiles and back is meant as one, and no circle', () => {
  const led = (key: string) => ({ key, label: key, adapter: null, role: 'led' as const });
  const show = showOf({
    types: [
      ...own,
      typeWith('processor', {
        ...{ name: 'Processor', kind: 'led-processor', factory: none },
        sockets: ['a', 'b'].map(led),
      }),
      typeWith('tile', {
        ...{ name: 'Tile', kind: 'led-receiver', factory: none, adapters: [] },
        sockets: ['in', 'on'].map(led),
      }),
    ],
    devices: [device('p', 'processor'), device('t1', 'tile'), device('t2', 'tile')],
    cables: [run('p a', 't1 in'), run('t1 on', 't2 in'), run('t2 on', 'p b')],
  });
  expect(codes(show)).toEqual([]);
  expect(rowsOf(show, 'cables').map((cable) => layerOf(show, cable))).toEqual(['led', 'led', 'led']);
});

describe('VLANs by hand', () => {
  const nets = [network({ vlan: 20 }), network({ id: 'two', name: 'Audio', network: '10.2.0.0', vlan: 30 })];
  const base = showOf({
    ...soundRows,
    types: own,
    networks: nets,
    devices: [
      device('host', 'host'),
      device('desk', 'desk'),
      device('camera', 'camera'),
      device('hub', 'managed'),
      device('far', 'managed'),
    ],
    cables: [
      run('host port-1', 'hub p-1'),
      run('desk port-1', 'hub p-2'),
      run('camera port-1', 'far p-1'),
      run('hub p-6', 'far p-6'),
    ],
  });
  const gridOf = (show: Show) => vlanGrid(show, ...factsOf(show));
  const socketOf = (show: Show, hub: string, key: string) => {
    const socket = gridOf(show)
      .switches.find((one) => one.hub.id === hub)
      ?.sockets.find((one) => one.key === key);
    if (!socket) throw new Error('no such socket');
    return socket;
  };
  const hub = rowOf(base, 'devices', 'hub');

  test('the grid shows what the plan asks for: one VLAN untagged, between switches all with their tags', () => {
    const told = ({ untagged, tagged, far, byHand }: ReturnType<typeof socketOf>) => [untagged, tagged, far, byHand];
    expect(gridOf(base).vlans).toEqual([1, 20, 30]);
    expect(told(socketOf(base, 'hub', 'p-1'))).toEqual([20, [], 'host', false]);
    expect(told(socketOf(base, 'hub', 'p-6'))).toEqual([1, [20, 30], 'far', false]);
    expect(told(socketOf(base, 'hub', 'p-3'))).toEqual([1, [], '', false]);
    expect(codes(base)).toEqual([]);
  });

  test('a socket in another VLAN parts what is behind it, is told, and set as planned again is right', () => {
    const wrong = after(base, planSocketVlan(hub, socketOf(base, 'hub', 'p-2'), 30, 'untagged'));
    expect([codes(wrong), socketOf(wrong, 'hub', 'p-2').untagged]).toEqual([['socket_other_vlan'], 30]);
    const { domainOf } = cablingFacts(wrong).domains();
    expect(domainOf('desk', 'lan', null) === domainOf('host', 'lan', null)).toBe(false);
    const fix = found(wrong)[0]?.fixes[0]?.change;
    expect(rowOf(after(wrong, fix), 'devices', 'hub').socketVlans).toEqual([]);
    expect(planSocketAsPlanned(hub)).toBeUndefined();
  });

  test('untagged VLANs that differ at the ends of a run join two VLANs, and are told', () => {
    const odd = after(base, planSocketVlan(hub, socketOf(base, 'hub', 'p-6'), 30, 'untagged'));
    expect(codes(odd)).toEqual(['native_differs']);
    expect([socketOf(odd, 'hub', 'p-6').tagged, socketOf(odd, 'far', 'p-6').farUntagged]).toEqual([[20], 30]);
    const cut = after(base, planSocketVlan(hub, socketOf(base, 'hub', 'p-6'), 20, 'no'));
    // the same untagged VLAN at both ends, though one was set by hand, is right
    expect(codes(cut)).toEqual([]);
    const { domainOf, crossing } = cablingFacts(cut).domains();
    expect([
      domainOf('camera', 'lan', null) === domainOf('host', 'lan', null),
      [...(crossing('hub-p-6') ?? [])],
    ]).toEqual([false, [30, 1]]);
  });
});

test('what has a tag passes a plain switch between two managed ones, and floods there with it', () => {
  const set = (tagged: number[]) => ({ socketVlans: [{ socket: 'p-6', untagged: null, tagged }] });
  const rig = (more: Content<'cables'>[] = []) =>
    showOf({
      ...soundRows,
      types: own,
      networks: [network({ vlan: 20 })],
      devices: [
        ...[
          device('host', 'host'),
          device('desk', 'desk'),
          device('camera', 'camera'),
          device('plain', 'switch'),
          device('loop', 'switch'),
        ],
        ...[device('hub', 'managed', set([20])), device('far', 'managed', set([20]))],
      ],
      cables: [
        run('host port-1', 'hub p-1'),
        run('desk port-1', 'far p-1'),
        run('hub p-6', 'plain p-1'),
        run('far p-6', 'plain p-2'),
        ...more,
      ],
    });
  const { domainOf, loopIn } = cablingFacts(rig()).domains();
  const domain = domainOf('host', 'lan', null) ?? '';
  expect([domainOf('desk', 'lan', null) === domain, loopIn(domain)]).toEqual([true, undefined]);
  const storm = rig([run('plain p-3', 'loop p-1'), run('plain p-4', 'loop p-2')]);
  const flooded = cablingFacts(storm).domains();
  expect(flooded.loopIn(flooded.domainOf('host', 'lan', null) ?? '')?.cables.length).toBe(2);
});

describe('inputs of a switcher (C64)', () => {
  const rig = (slots: readonly (number | null)[], feeds: readonly string[]) =>
    showOf({
      types: own,
      devices: [
        device('v', 'vision', { inputs: [{ number: 1, label: 'Pier', kind: 'player' }] }),
        device('x', 'player'),
        device('y', 'player'),
      ],
      cables: feeds.map((ends) => run(...(ends.split(' > ') as [string, string]))),
      links: slots.flatMap((slot, at) =>
        slot === null ? [] : [link(['x', 'y'][at] ?? '', { controllerId: 'v', slot })],
      ),
    });
  const states = (show: Show) => inputTable(show).map(({ state }) => state);
  const both = ['x out > v in-1', 'y out > v in-2'];

  test('the number in the program is held against that of the input', () => {
    expect(states(rig([1, 2], both))).toEqual(['match', 'match', 'unnumbered']);
    expect(states(rig([1, 3], both))).toEqual(['match', 'mismatch', 'unnumbered']);
    expect(states(rig([null, null], both))).toEqual(['unnumbered', 'unnumbered', 'unnumbered']);
    expect(states(rig([1, 1], both))).toEqual(['doubled', 'mismatch', 'unnumbered']);
    expect(inputTable(rig([1, 2], both))[0]).toMatchObject({
      number: 1,
      source: { id: 'x' },
      declared: { label: 'Pier' },
    });
    const off = rig([1, 3], both);
    expect(codes(off)).toEqual(['input_differs']);
    expect(codes(after(off, found(off)[0]?.fixes[0]?.change))).toEqual([]);
  });

  test('a socket that the type says to give pictures out is no input, however it is called', () => {
    const rows = rig([], []).types;
    const turned = (direction: 'in' | 'out'): Show => {
      const { vision, ...rest } = rows;
      if (!vision) throw new Error('no switcher');
      const sockets = vision.sockets.map((socket, at) => (at === 1 ? { ...socket, label: 'PGM', direction } : socket));
      return { ...rig([], []), types: { ...rest, vision: { ...vision, sockets } } };
    };
    const labels = (show: Show) => inputTable(show).map(({ label }) => label);
    expect(labels(turned('in'))).toContain('PGM');
    expect(labels(turned('out'))).not.toContain('PGM');
  });

  test('a unit has both paths, one of them, or none', () => {
    const paths = (show: Show) =>
      picturePaths(show).map(({ device: { id }, hasPicture, hasControl }) => [id, hasPicture, hasControl]);
    expect(paths(rig([1, null], ['x out > v in-1']))).toEqual([
      ['x', true, true],
      ['y', false, false],
    ]);
    expect(paths(rig([null, 2], ['x out > v in-1']))).toEqual([
      ['x', true, false],
      ['y', false, true],
    ]);
    const [cable] = rowsOf(rig([null], ['x out > v in-1']), 'cables');
    expect(cable && layerOf(rig([null], []), cable)).toBe('picture');
  });
});

describe('sockets, stages and sides', () => {
  test('a place with more units than free sockets is short of the difference', () => {
    const at = (count: number) => {
      const ids = Array.from({ length: count }, (_, n) => `d${n}`);
      const show = showOf({
        types: own,
        networks: [network()],
        devices: [device('s', 'fast', { place: 'Quay' }), ...ids.map((id) => device(id, 'desk', { place: 'Quay' }))],
        interfaces: ids.map(adapter),
        addresses: ids.map((id, n) => address(id, `10.1.0.${n + 2}`)),
        services: ids.map((id) => service(id)),
      });
      const [place] = socketTable(show, ...factsOf(show));
      return [place?.free, place?.waiting.length, place?.short];
    };
    expect([at(1), at(2), at(3)]).toEqual([
      [2, 1, 0],
      [2, 2, 0],
      [2, 3, 1],
    ]);
  });

  test('the two sides of a mixer: right, not plugged in, without an address', () => {
    const rig = (cables: Content<'cables'>[], audio: string | null) => {
      const on = (key: string, networkId: string, ip: string | null) => ({
        ...address('m', ip),
        id: `m-${key}`,
        interfaceId: `m-${key}`,
        networkId,
      });
      const show = showOf({
        types: own,
        networks: [network({ vlan: 20 }), network({ id: 'two', name: 'Audio', network: '10.2.0.0', vlan: 30 })],
        devices: [device('m', 'mixer'), device('s', 'managed')],
        interfaces: ['control', 'audio'].map((key) => ({ id: `m-${key}`, deviceId: 'm', adapter: key, mac: null })),
        addresses: [on('control', 'net', '10.1.0.7'), on('audio', 'two', audio)],
        cables,
      });
      return betweenNetworks(show, ...factsOf(show), found(show)).flatMap(({ roles }) =>
        roles.map(({ state }) => state),
      );
    };
    const whole = [run('m control', 's p-1'), run('m audio', 's p-2')];
    expect(rig(whole, '10.2.0.7')).toEqual(['right', 'right']);
    expect(rig(whole, null)).toEqual(['right', 'no_address']);
    expect(rig(whole.slice(0, 1), '10.2.0.7')).toEqual(['right', 'unplugged']);
  });

  test('the changeover moves what shares an end, and leaves alone what is always there', () => {
    const cables = [
      run('pc port-1', 's p-1', { id: 'stays' }),
      run('x out', 'v in-1', { id: 'old', stage: 'setup' }),
      run('x out', 'v in-2', { id: 'new', stage: 'show' }),
      run('y usb', 'pc2 usb', { id: 'usb', stage: 'setup' }),
      run('y port-1', 's p-2', { id: 'late', stage: 'show' }),
    ];
    const devices = [
      device('pc', 'host'),
      device('pc2', 'player'),
      device('s', 'switch'),
      device('v', 'vision'),
      device('x', 'player'),
      device('y', 'player'),
    ];
    const show = showOf({ types: own, devices, cables });
    const told = (to: 'show' | 'setup') =>
      changeover(show, to).map(({ act, cable, into, check }) => [act, cable.id, into?.id, check]);
    expect(told('show')).toEqual([
      ['move', 'old', 'new', 'picture'],
      ['pull', 'usb', undefined, 'gone'],
      ['plug', 'late', undefined, 'links'],
    ]);
    expect(told('setup')).toEqual([
      ['move', 'new', 'old', 'picture'],
      ['pull', 'late', undefined, 'gone'],
      ['plug', 'usb', undefined, 'lamp'],
    ]);
    expect(usbWays(show).map(({ deviceId, cable, sets }) => [deviceId, cable?.stage, sets])).toEqual([
      ['pc2', 'setup', true],
      ['x', undefined, true],
      ['y', 'setup', true],
    ]);
    // what is for setting up joins nothing in the show
    expect(cablingFacts(show).plugOf('y-lan')).toBeUndefined();
  });
});

test('what a unit in a chain is plugged into does not depend on the order of rows', () => {
  const chain = [run('desk port-1', 'hub p-1', { id: 'b' }), run('desk port-2', 'camera port-1', { id: 'a' })];
  const two = typeWith('desk', {
    ...types.find(({ id }) => id === 'desk'),
    ...{ name: 'Desk', kind: 'lighting', factory: none },
    sockets: ['port-1', 'port-2'].map((key) => ({ key, label: key, adapter: 'lan' })),
  });
  const rig = (cables: Content<'cables'>[]) =>
    showOf({ ...soundRows, types: [...types.filter(({ id }) => id !== 'desk'), two], cables });
  const plug = (show: Show) => cablingFacts(show).plugOf('desk-lan')?.farDevice.id;
  expect([plug(rig(chain)), plug(rig(chain.toReversed()))]).toEqual(['camera', 'camera']);
});
