import { describe, expect, test } from 'vitest';
import { addressingFacts } from '../addressing/index.ts';
import { applyChange, type Content, type Show } from '../show/index.ts';
import { adapter, address, device, network, showOf, types, typeWith } from '../show/sample-show.test-data.ts';
import { findCabling } from './find-cabling.ts';
import { fittingSockets } from './fitting-sockets.ts';
import { planCable, planMoveCable } from './plan-cables.ts';
import { cablingFacts } from './segments.ts';
import { vlanTable } from './vlan-table.ts';

const none = { mode: 'none', ip: null, prefix: null } as const;
const sockets = (count: number) =>
  Array.from({ length: count }, (_, at) => ({ key: `p-${at + 1}`, label: `p${at + 1}`, adapter: null }));
const own = [
  ...types,
  typeWith('mixer', {
    name: 'Mixer',
    kind: 'mixer',
    factory: none,
    adapters: ['control', 'audio'].map((key) => ({ key, label: key })),
    sockets: ['control', 'audio'].map((key) => ({ key, label: key, adapter: key })),
  }),
  typeWith('managed', {
    name: 'M',
    kind: 'switch',
    factory: none,
    adapters: [],
    sockets: sockets(8),
    forwards: true,
    managed: true,
  }),
  typeWith('air', {
    name: 'Air',
    kind: 'access-point',
    factory: none,
    adapters: [],
    sockets: sockets(1),
    forwards: true,
  }),
  typeWith('wall', {
    name: 'Wall',
    kind: 'led-processor',
    factory: none,
    sockets: [
      { key: 'lan', label: 'management', adapter: 'lan', role: 'management' },
      { key: 'out', label: 'output 1', adapter: null, role: 'led' },
    ],
  }),
  typeWith('tablet', {
    name: 'T',
    kind: 'tablet',
    factory: none,
    sockets: [{ key: 'air', label: 'air', adapter: 'lan', connector: 'radio' }],
  }),
];
const run = (from: string, fromSocket: string, to: string, toSocket: string): Content<'cables'> => ({
  grade: null,
  stage: 'both',
  id: `${from}-${fromSocket}-${to}`,
  fromDevice: from,
  fromSocket,
  toDevice: to,
  toSocket,
  medium: 'copper',
  lengthM: 5,
  delayMs: null,
});
const nets = [
  network({ id: 'net', name: 'Control', vlan: 20 }),
  network({ id: 'two', name: 'Audio', network: '10.2.0.0', vlan: 30 }),
];
const found = (show: Show) => findCabling(show, cablingFacts(show), addressingFacts(show));
const codes = (show: Show) => found(show).map(({ code }) => code);
function mended(show: Show, code: string): string[] {
  const change = found(show).find((finding) => finding.code === code)?.fixes[0]?.change;
  const applied = change && applyChange(show, change);
  if (!applied?.ok) throw new Error(`${code} has no fix`);
  return codes(applied.show);
}

/** Two desks on the control switch, two cameras on the audio switch, and a mixer with an adapter on both. */
function twoSwitches(control: string, audio: string, hub = 'switch'): Show {
  const units = [
    ['d1', 'net', 'c'],
    ['d2', 'net', 'c'],
    ['a1', 'two', 'a'],
    ['a2', 'two', 'a'],
  ] as const;
  const on = (id: string, networkId: string, ip: string) => ({ ...address(id, ip), networkId });
  return showOf({
    types: own,
    networks: nets,
    devices: [device('c', hub), device('a', hub), device('m', 'mixer'), ...units.map(([id]) => device(id, 'camera'))],
    interfaces: [
      ...units.map(([id]) => adapter(id)),
      ...['control', 'audio'].map((key) => ({ id: `m-${key}`, deviceId: 'm', adapter: key, mac: null })),
    ],
    addresses: [
      ...units.map(([id, networkId], at) => on(id, networkId, `10.${networkId === 'net' ? 1 : 2}.0.${at + 1}`)),
      { ...on('m', 'net', '10.1.0.70'), id: 'm-c', interfaceId: 'm-control' },
      { ...on('m', 'two', '10.2.0.70'), id: 'm-a', interfaceId: 'm-audio' },
    ],
    cables: [
      ...units.map(([id, , to], at) => run(id, 'port-1', to, `p-${at + 1}`)),
      run('m', 'control', control, 'p-7'),
      run('m', 'audio', audio, 'p-8'),
    ],
  });
}

describe('cables of the wrong network', () => {
  test('interchanged cables are one finding, and swapping them mends it', () => {
    expect(codes(twoSwitches('c', 'a'))).toEqual([]);
    expect(codes(twoSwitches('a', 'c'))).toEqual(['cables_interchanged']);
    expect(mended(twoSwitches('a', 'c'), 'cables_interchanged')).toEqual([]);
  });

  test('one adapter among units of another network goes to the switch of its own', () => {
    expect(codes(twoSwitches('c', 'c'))).toEqual(['wrong_network']);
    expect(found(twoSwitches('c', 'c'))[0]?.fixes[0]?.label).toMatch(/^Plug m into a p/);
    expect(mended(twoSwitches('c', 'c'), 'wrong_network')).toEqual([]);
  });

  test('a managed switch tells them apart by VLAN', () => expect(codes(twoSwitches('a', 'c', 'managed'))).toEqual([]));
});

describe('LED data', () => {
  const wall = (...cables: Content<'cables'>[]) =>
    showOf({
      types: own,
      networks: nets,
      devices: [device('w', 'wall'), device('pc', 'host'), device('s', 'switch'), device('t', 'switch')],
      interfaces: [adapter('w'), adapter('pc')],
      addresses: [address('w', '10.1.0.50'), address('pc', '10.1.0.2')],
      cables,
    });
  const lan = run('w', 'lan', 's', 'p-1');

  test('an output in the switch of the management is told, in a switch of its own it is not', () => {
    expect(codes(wall(lan, run('pc', 'port-1', 's', 'p-2')))).toEqual([]);
    expect(codes(wall(lan, run('pc', 'port-1', 's', 'p-2'), run('w', 'out', 's', 'p-3')))).toEqual(['led_in_switch']);
    expect(codes(wall(lan, run('pc', 'port-1', 's', 'p-2'), run('w', 'out', 't', 'p-3')))).toEqual([]);
  });

  test('a computer in an LED output is told, in the management socket it is not', () => {
    expect(codes(wall(run('pc', 'port-1', 'w', 'out')))).toEqual(['computer_in_led']);
    expect(codes(wall(run('pc', 'port-1', 'w', 'lan')))).toEqual([]);
  });
});

describe('shortage of sockets', () => {
  const waiting = (types: readonly string[], hubs: readonly string[]) => {
    const ids = types.map((_, at) => `u${at}`);
    const show = showOf({
      types: own,
      networks: nets,
      devices: [...types.map((type, at) => device(`u${at}`, type)), ...hubs.map((type, at) => device(`h${at}`, type))],
      interfaces: [
        ...ids.map((id) => adapter(id)),
        ...types.flatMap((type, at) =>
          type === 'mixer'
            ? ['control', 'audio'].map((key) => ({ id: `u${at}-${key}`, deviceId: `u${at}`, adapter: key, mac: null }))
            : [],
        ),
      ],
      addresses: types.flatMap((type, at) =>
        type === 'mixer'
          ? ['control', 'audio'].map((key, n) => ({
              ...address(`u${at}`, `10.${n + 1}.0.9`),
              id: `u${at}-${key}`,
              interfaceId: `u${at}-${key}`,
            }))
          : [address(`u${at}`, `10.1.0.${at + 1}`)],
      ),
    });
    return found(show).map(({ code, facts }) => [code, facts['needed'], facts['short']]);
  };

  test('two adapters of one unit need two sockets', () => {
    expect(waiting(['mixer', 'mixer', 'mixer', 'mixer'], ['switch'])).toEqual([]);
    expect(waiting(['mixer', 'mixer', 'mixer', 'mixer', 'camera'], ['switch'])).toEqual([['sockets_short', 9, 1]]);
  });

  test('without a switch two are cabled directly, and a third finds nobody', () => {
    expect(waiting(['camera', 'desk'], [])).toEqual([]);
    expect(waiting(['camera', 'desk', 'desk'], [])).toEqual([['sockets_short', 3, 3]]);
  });

  test('radio is no socket of a switch, and an access point no switch', () => {
    expect(waiting(['tablet'], ['switch'])).toEqual([['radio_short', 1, 1]]);
    expect(waiting(['tablet'], ['air'])).toEqual([]);
    expect(waiting(['tablet', 'tablet'], ['air'])).toEqual([['radio_short', 2, 1]]);
    expect(waiting(['camera', 'desk', 'desk'], ['air'])).toEqual([['sockets_short', 3, 3]]);
  });
});

test('members behind a plain switch belong to the socket that leads there; two VLANs there are unclear', () => {
  const lines = (second: string) => {
    const show = showOf({
      types: own,
      networks: nets,
      devices: [device('m', 'managed'), device('s', 'switch'), device('a', 'camera'), device('b', 'camera')],
      interfaces: [adapter('a'), adapter('b')],
      addresses: [address('a', '10.1.0.1'), { ...address('b', '10.2.0.2'), networkId: second }],
      cables: [run('s', 'p-8', 'm', 'p-1'), run('a', 'port-1', 's', 'p-1'), run('b', 'port-1', 's', 'p-2')],
    });
    return vlanTable(show, addressingFacts(show)).map(({ socket, mode, vlans }) => [socket, mode, vlans]);
  };
  expect(lines('net')).toEqual([['p1', 'access', [20]]]);
  expect(lines('two')).toEqual([['p1', 'unclear', [20, 30]]]);
});

describe('plugging in by hand', () => {
  const show = showOf({
    types: own,
    networks: nets,
    devices: [
      device('t', 'tablet'),
      device('h', 'air'),
      device('s', 'switch'),
      device('w', 'wall'),
      device('d', 'desk'),
    ],
    interfaces: [adapter('t'), adapter('w'), adapter('d')],
    cables: [run('d', 'port-1', 's', 'p-1')],
  });
  const far = (id: string) => show.devices[id] ?? expect.fail(id);
  const fits = (deviceId: string, socket: string, to: string) =>
    fittingSockets(show, cablingFacts(show), { deviceId, socket }, far(to));

  test('only what mates is offered: radio to radio, network to network', () => {
    expect([fits('t', 'air', 'h'), fits('t', 'air', 's')]).toEqual([['p-1'], []]);
    expect(fits('w', 'lan', 's')).toEqual(['p-2', 'p-3', 'p-4', 'p-5', 'p-6', 'p-7', 'p-8']);
    expect(fits('w', 'lan', 't')).toEqual([]);
  });

  test('a cable by radio is wireless, any other is copper', () => {
    const mediumOf = (from: [string, string], to: [string, string]) => {
      const ends = [from, to].map(([deviceId, socket]) => ({ deviceId, socket }));
      const [edit] = planCable(show, ends[0] ?? expect.fail(), ends[1] ?? expect.fail())?.edits ?? [];
      return (edit?.after as Content<'cables'> | null | undefined)?.medium;
    };
    expect([mediumOf(['t', 'air'], ['h', 'p-1']), mediumOf(['w', 'lan'], ['s', 'p-2'])]).toEqual([
      'wireless',
      'copper',
    ]);
  });

  test('a cable moves in one act from either end', () => {
    const cable = show.cables['d-port-1-s'] ?? expect.fail();
    const moved = (end: 'from' | 'to', deviceId: string, socket: string) => {
      const change = planMoveCable(show, cable, end, { deviceId, socket });
      const applied = change && applyChange(show, change);
      return applied?.ok ? applied.show.cables['d-port-1-s'] : undefined;
    };
    expect(moved('to', 'h', 'p-1')).toMatchObject({ fromDevice: 'd', toDevice: 'h', toSocket: 'p-1' });
    expect(moved('from', 'w', 'lan')).toMatchObject({ fromDevice: 'w', fromSocket: 'lan', toDevice: 's' });
  });
});
