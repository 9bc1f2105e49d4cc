import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { applyChange, filledRow, definitionsOf, typeOf, type Content, type Show } from '../show/index.ts';
import {
  adapter,
  address,
  cable,
  device,
  link,
  network,
  service,
  showOf,
  types,
  typeWith,
} from '../show/sample-show.test-data.ts';
import { beforeSite } from './before-site.ts';
import { findRig, rigWords } from './find-rig.ts';
import { lossesOf } from './losses.ts';
import { planCells } from './plan-cells.ts';
import { platformFit } from './platform.ts';
import { planMoveLibrary, planRemoveType, planSaveType, planTakeInTypes } from './plan-types.ts';
import { readTypeFile, writeTypeFile } from './type-file.ts';

const dhcp = { mode: 'dhcp', ip: null, prefix: null } as const;
const bare = { adapters: [], sockets: [] };
const player = typeWith('player', {
  name: 'Player',
  kind: 'media',
  factory: dhcp,
  ...bare,
  features: [
    { key: 'out', label: 'an output', bundle: 'seat' },
    { key: 'map', label: 'mapping', bundle: 'site', lowest: '2.1' },
  ],
  bundles: [
    { key: 'seat', label: 'Seat', per: 'output' },
    { key: 'site', label: 'Site', per: 'site' },
  ],
  most: { sources: 4, controllers: 1 },
  matches: [{ model: 'player', rule: 'first_part' }],
  power: [{ feed: 'mains' }, { feed: 'poe' }],
  accessories: [{ key: 'dongle', label: 'network dongle', need: 'network' }],
  erases: ['the play list'],
});
const bigPlayer = typeWith('big-player', {
  name: 'Big player',
  kind: 'media',
  factory: dhcp,
  ...bare,
  most: { sources: 16, controllers: null },
});
const program = typeWith('program', {
  name: 'Program',
  kind: 'computer',
  form: 'program',
  factory: { mode: 'none', ip: null, prefix: null },
  ...bare,
  runsOn: [{ system: 'macos', lowest: '13.0' }],
});
const laptop = typeWith('laptop', {
  name: 'Laptop',
  kind: 'computer',
  factory: dhcp,
  ...bare,
  ways: [{ way: 'system' }],
});
const all = [...types, player, bigPlayer, program, laptop];
const rig = (rows: Parameters<typeof showOf>[0]): Show => showOf({ types: all, ...rows });
const codes = (show: Show) => findRig(show).map(({ code }) => code);
const quiet = { savedOn: '2026-11-01' };
const one = (patch: Partial<Content<'devices'>> = {}) => device('p', 'player', { ...quiet, ...patch });

describe('each rule finds its fault, says it in whole sentences, and is quiet without it', () => {
  const cases: readonly (readonly [string, Show])[] = [
    ['feature_below', rig({ devices: [one({ features: ['map'], firmware: '2.0.9' })], licences: [owned('site', 1)] })],
    ['feature_unknown', rig({ devices: [one({ features: ['map'], firmware: null })], licences: [owned('site', 1)] })],
    [
      'feature_unclear',
      rig({ devices: [one({ features: ['map'], firmware: '2.1-beta' })], licences: [owned('site', 1)] }),
    ],
    [
      'partner_versions',
      rig({ devices: [one({ firmware: '2.9' }), { ...one({ firmware: '3.0' }), id: 'q', name: 'q' }] }),
    ],
    ['seats_short', rig({ devices: [one({ features: ['out'] })] })],
    ['too_many_sources', rig({ devices: [one({ sources: 5 })] })],
    ['no_computer', rig({ devices: [device('x', 'program')] })],
    ['platform_other_system', runningOn({ system: 'linux', systemVersion: '12' })],
    ['platform_too_old', runningOn({ system: 'macos', systemVersion: '12.9' })],
    ['platform_unknown', runningOn({ system: null })],
    ['feed_unfit', rig({ devices: [one({ feed: 'battery' })] })],
    ['feed_no_switch', rig({ devices: [one({ feed: 'poe' })] })],
    ['no_copy', rig({ devices: [one({ savedOn: null })] })],
    [
      'alike_differ',
      rig({
        devices: ['a', 'b', 'c'].map((id) => ({ ...one({ firmware: id === 'c' ? '2.1' : '2.2' }), id, name: id })),
      }),
    ],
    ['names_differ', namedLinks('Cam one', 'Cam one')],
    [
      'converter_needed',
      rig({
        devices: [device('h', 'host'), device('d', 'desk')],
        interfaces: [adapter('h'), adapter('d')],
        services: [service('d')],
        cables: [{ ...cable('h', 'port-1'), toDevice: 'd', medium: 'fibre' }],
      }),
    ],
  ];

  test('of two alike units every difference in their settings is told, and which is odd is not', () => {
    const show = (patch: object, more: object = {}) =>
      rig({
        networks: [network()],
        devices: [device('a', 'desk', { name: 'a' }), device('b', 'desk', { name: 'b', ...more })],
        interfaces: [adapter('a'), adapter('b')],
        addresses: [address('a', '10.1.0.1'), { ...address('b', '10.1.0.2'), ...patch }],
        services: [service('a'), service('b')],
      });
    const alike = (at: Parameters<typeof findRig>[0]) => findRig(at).filter(({ code }) => code === 'alike_pair');
    expect(alike(show({}))).toEqual([]);
    expect(alike(show({ prefix: 16 })).map((one) => [one.facts['field'], one.facts['values'], one.fixes])).toEqual([
      ['mask', ['/24', '/16'], []],
    ]);
    const services = (patch: object) => ({ ...show({}), services: { ...show({}).services } as never, ...patch });
    const made = show({});
    const [first] = Object.values(made.services).filter(({ deviceId }) => deviceId === 'b');
    if (!first) throw new Error('no service');
    for (const [field, patch] of [
      ['port', { receivePort: 9999 }],
      ['on or off', { enabled: !first.enabled }],
    ] as const)
      expect(
        alike(services({ services: { ...made.services, [first.id]: { ...first, ...patch } } })).map(
          ({ facts }) => facts['field'],
        ),
      ).toEqual([expect.stringContaining(field)]);
    // two programs on one computer need ports that differ
    const onOne = { ...made, devices: { ...made.devices } };
    for (const id of ['a', 'b']) onOne.devices[id] = { ...(onOne.devices[id] ?? expect.fail(id)), runsOn: 'pc' };
    expect(alike({ ...onOne, services: { ...made.services, [first.id]: { ...first, receivePort: 9999 } } })).toEqual(
      [],
    );
  });

  test('computers are each set in their own way: none is odd among the others', () => {
    const computers = ['a', 'b', 'c'].map((id) => ({
      ...device(id, 'laptop'),
      firmware: id === 'c' ? '2.1' : '2.2',
      name: id,
    }));
    expect(findRig(rig({ devices: computers })).map(({ code }) => code)).not.toContain('alike_differ');
  });

  test.each(cases)('%s', (code, show) => {
    const found = findRig(show);
    expect(found.map((finding) => finding.code)).toEqual([code]);
    for (const finding of found) {
      const { what, why, fix } = rigWords(finding);
      for (const text of [what, why, fix]) expect(text).toMatch(/^\S.*[.!]$/);
      expect(`${what}${why}${fix}`).not.toMatch(/undefined|null|NaN|\[object/);
      for (const { change } of finding.fixes) {
        const applied = applyChange(show, change);
        expect(applied.ok && findRig(applied.show).some(({ key }) => key === finding.key)).toBe(false);
      }
    }
  });

  test('a unit with everything in order has nothing to say', () => {
    expect(
      codes(
        rig({
          devices: [one({ features: ['out', 'map'], sources: 4, feed: 'mains', firmware: '2.1' })],
          licences: [owned('seat', 1), owned('site', 1)],
        }),
      ),
    ).toEqual([]);
    expect(codes(runningOn({ system: 'macos', systemVersion: '13.0' }))).toEqual([]);
  });

  test('older products need what brings them onto the network; stations need a computer each (need 3.12)', () => {
    const own = [
      ...types,
      typeWith('old', {
        name: 'Old desk',
        kind: 'mixer',
        factory: dhcp,
        ...bare,
        through: { model: 'box', serves: 2 },
      }),
      typeWith('box', { name: 'Network box', kind: 'mixer', factory: dhcp, ...bare }),
      typeWith('station', {
        name: 'Station',
        kind: 'playout',
        form: 'program',
        factory: dhcp,
        ...bare,
        ownComputer: true,
      }),
    ];
    const with_ = (boxes: number, on: readonly string[]) =>
      findRig(
        showOf({
          types: own,
          devices: [
            ...['a', 'b', 'c'].map((id) => device(id, 'old')),
            ...Array.from({ length: boxes }, (_, at) => device(`box-${at}`, 'box')),
            ...['one', 'two'].map((id) => device(id, 'host')),
            ...on.map((runsOn, at) => device(`station-${at}`, 'station', { runsOn })),
          ],
        }),
      ).flatMap(({ code, facts }) =>
        code === 'gateways_short'
          ? [[code, facts['needed'], facts['there'], facts['short']]]
          : code === 'stations_share'
            ? [[code, facts['more']]]
            : [],
      );
    // three of them, two at each
    expect([with_(0, []), with_(1, []), with_(2, [])]).toEqual([
      [['gateways_short', 2, 0, 2]],
      [['gateways_short', 2, 1, 1]],
      [],
    ]);
    expect([with_(2, ['one', 'two']), with_(2, ['one', 'one'])]).toEqual([[], [['stations_share', 1]]]);
  });

  test('seats count per unit, the site licence once', () => {
    const devices = ['a', 'b', 'c'].map((id) => ({
      ...one({ features: ['out', 'map'] }),
      id,
      name: id,
      firmware: '2.1',
    }));
    const short = findRig(rig({ devices, licences: [owned('seat', 2), owned('site', 1)] }));
    expect(short.map(({ facts }) => [facts['bundle'], facts['needed'], facts['owned']])).toEqual([['Seat', 3, 2]]);
  });

  test('a model that takes enough is named instead, and an accessory for the network only once it is on one', () => {
    const [tooMany] = findRig(rig({ devices: [one({ sources: 9 })] }));
    expect(tooMany?.facts).toMatchObject({ alternatives: ['Big player'], units: 3, surplus: 5 });
    // what idles in the rig comes first; one that is at work, or of another kind, does not count
    const spare = (id: string, patch: Partial<Content<'devices'>> = {}) =>
      device(id, 'player', { firmware: '2.1', ...patch });
    const beside = (...more: Content<'devices'>[]) =>
      findRig(rig({ devices: [one({ sources: 9 }), ...more] })).find(({ code }) => code === 'too_many_sources')?.facts[
        'cheapest'
      ];
    expect(beside(spare('idle'))).toBe('');
    expect(beside(spare('idle'), spare('half', { sources: 3 }))).toBe('idle, which has room, and half, which has room');
    expect(beside(spare('idle'), spare('full', { sources: 4 }), device('laptop', 'laptop'))).toBe('');
    const cabled = rig({
      devices: [one(), device('hub', 'switch')],
      cables: [{ ...cable('p', 'p-1'), fromDevice: 'p' }],
    });
    expect(codes(cabled)).toEqual(['accessory_missing']);
  });
});

function owned(bundle: string, count: number): Content<'licences'> {
  return filledRow('licences', { id: bundle, model: 'player', bundle, owned: count });
}
function runningOn(patch: Partial<Content<'devices'>>): Show {
  return rig({ devices: [device('x', 'program', { runsOn: 'l' }), device('l', 'laptop', patch)] });
}
function namedLinks(label: string, other: string): Show {
  return rig({
    devices: [device('host', 'host'), device('desk', 'desk')],
    interfaces: [adapter('host'), adapter('desk')],
    services: [service('desk')],
    links: [link('desk', { label }), link('desk', { id: 'second', label: other })],
  });
}

describe('definitions in ordered libraries', () => {
  const libraries = [
    { id: 'ours', name: 'Ours', position: 20 },
    { id: 'theirs', name: 'Theirs', position: 10 },
  ];
  const newer = { ...player, id: 'player-ours', version: '1.10' };
  const older = { ...player, id: 'player-theirs', libraryId: 'theirs', version: '1.9', name: 'Player, old' };
  const show = rig({ libraries, types: [...types, newer, older], devices: [device('p', 'player-ours', quiet)] });

  test('the first library defines a model, whatever the versions; the hidden newer one is told and can be put right', () => {
    expect(typeOf(show, show.devices['p'])?.name).toBe('Player, old');
    const [finding] = findRig(show);
    expect([finding?.code, finding?.facts['newer']]).toEqual(['newer_hidden', '1.10']);
    const moved = planMoveLibrary(show, 'ours', -1);
    const applied = moved && applyChange(show, moved);
    expect(applied?.ok && [definitionsOf(applied.show).get('player')?.version, codes(applied.show)]).toEqual([
      '1.10',
      [],
    ]);
  });

  test('a type that is needed is not removed unless another definition takes over', () => {
    const only = rig({ devices: [one()] });
    const row = only.types['player'];
    expect(row && planRemoveType(only, row)).toBeUndefined();
    const change = planRemoveType(show, show.types['player-ours'] ?? fail());
    const applied = change && applyChange(show, change);
    expect(applied?.ok && applied.show.devices['p']?.typeId).toBe('player-theirs');
  });

  test('changing a type of another library makes a copy of our own, and units that lack its parts are told', () => {
    const edited = { ...player, adapters: [{ key: 'lan', label: 'network' }], libraryId: 'theirs' };
    const change = planSaveType(rig({ libraries, devices: [one()] }), edited, () => 'copy');
    const applied = change && applyChange(rig({ libraries, devices: [one()] }), change);
    if (!applied?.ok) throw new Error('does not apply');
    expect(applied.show.types['copy']?.libraryId).toBe('own');
    const [finding] = findRig(applied.show);
    expect([finding?.code, finding?.facts['lacks']]).toEqual(['parts_moved', ['lan']]);
    const mended = applyChange(applied.show, finding?.fixes[0]?.change ?? fail());
    expect(mended.ok && [Object.keys(mended.show.interfaces), codes(mended.show)]).toEqual([['p-i-lan'], []]);
  });

  test('a library survives the file, and a file with faults is refused whole with each place', () => {
    const file = writeTypeFile(rig({}), 'ours');
    const read = readTypeFile(JSON.stringify(file));
    expect(read).toEqual({ ok: true, file });
    let next = 0;
    const taken = applyChange(
      rig({}),
      planTakeInTypes(rig({}), file, () => `n${(next += 1)}`),
    );
    expect(taken.ok && writeTypeFile(taken.show, 'n1').types).toEqual(file.types);
    const bad = {
      ...file,
      types: [
        { ...file.types[0], wrong: 1, sockets: [{ key: 's', label: 'S', adapter: 'nowhere' }] },
        file.types[1],
        file.types[1],
      ],
    };
    const refused = readTypeFile(JSON.stringify(bad));
    expect(refused.ok ? [] : refused.faults.map(({ at }) => at)).toEqual([
      'types.0',
      'types.0.sockets.0.adapter',
      'types.2.model',
    ]);
    expect(readTypeFile('{').ok).toBe(false);
  });

  test('any text is read or refused, never thrown at', () => {
    fc.assert(
      fc.property(fc.oneof(fc.string(), fc.json()), (text) => void readTypeFile(text)),
      { numRuns: 300 },
    );
  });
});

describe('cells', () => {
  const show = rig({ devices: [one(), device('c', 'camera')], interfaces: [adapter('c')] });

  test('many cells are one change, with the MAC on the first adapter', () => {
    const plan = planCells(show, [
      { deviceId: 'p', field: 'place', text: ' Quay ' },
      { deviceId: 'p', field: 'system', text: 'MACOS' },
      { deviceId: 'c', field: 'unit', text: '7' },
      { deviceId: 'c', field: 'mac', text: '02-1E-70-00-00-7D' },
    ]);
    const applied = plan.ok && plan.change && applyChange(show, plan.change);
    if (!applied || !applied.ok) throw new Error('does not apply');
    const { devices, interfaces } = applied.show;
    expect([devices['p']?.place, devices['p']?.system, devices['c']?.unit, interfaces['c-lan']?.mac]).toEqual([
      'Quay',
      'macos',
      7,
      '02:1e:70:00:00:7d',
    ]);
  });

  test('one bad cell keeps all of them out, and every fault is named', () => {
    const plan = planCells(show, [
      { deviceId: 'p', field: 'name', text: '' },
      { deviceId: 'p', field: 'place', text: 'Quay' },
      { deviceId: 'p', field: 'savedOn', text: '2026-02-30' },
      { deviceId: 'c', field: 'unit', text: '-1' },
      { deviceId: 'c', field: 'mac', text: 'mac' },
      { deviceId: 'c', field: 'variant', text: 'x' },
    ]);
    expect(plan.ok ? [] : plan.faults.map(({ field }) => field)).toEqual(['name', 'savedOn', 'unit', 'mac', 'variant']);
  });
});

test('the list before the site holds what is open, and a copy or a tick closes it', () => {
  const devices = [one({ savedOn: null, features: ['map'], firmware: '2.0' })];
  const list = (more: Partial<Content<'devices'>>) =>
    beforeSite(rig({ devices: [{ ...(devices[0] ?? fail()), ...more }] })).map(
      ({ section, done }) => `${section} ${done}`,
    );
  expect(list({})).toEqual(['update false', 'licence false', 'save false']);
  expect(list({ savedOn: '2026-11-02', done: ['update:2.1'] })).toEqual(['update true', 'licence false', 'save true']);
});

test('a reset without a copy is no go; a synchronisation loses what its target holds', () => {
  const show = rig({ devices: [one({ savedOn: null }), { ...one(), id: 'q', name: 'q' }] });
  expect(lossesOf(show, { kind: 'reset', deviceId: 'p' }).verdict).toBe('no_go');
  // its own list of sets goes with a reset, and with nothing else
  const player = show.types['player'] ?? expect.fail('no player');
  const keeping = { ...show, types: { ...show.types, player: { ...player, sets: 4 } } };
  const lost = (act: Parameters<typeof lossesOf>[1]) => lossesOf(keeping, act).losses.map(({ what }) => what);
  expect(lost({ kind: 'reset', deviceId: 'p' })).toEqual(['the play list', 'its stored sets']);
  expect(lost({ kind: 'sync', fromId: 'p', toId: 'q' })).toEqual(['the play list']);
  expect(lossesOf(show, { kind: 'sync', fromId: 'p', toId: 'q' })).toMatchObject({
    verdict: 'with_copy',
    losses: [{ what: 'the play list' }],
  });
  expect(lossesOf(show, { kind: 'sync', fromId: 'q', toId: 'p' }).verdict).toBe('no_go');
});

test('a system of the right name and too low a version is told apart from another system', () => {
  const on = (system: 'macos' | 'linux' | null, systemVersion: string | null) => {
    const show = rig({ devices: [device('l', 'laptop', { system, systemVersion })] });
    const [row, type] = [show.devices['l'], show.types['program']];
    return row && type && platformFit(type, row);
  };
  expect([on('macos', '13'), on('macos', '9.9'), on('macos', null), on('linux', '13'), on(null, null)]).toEqual([
    'usable',
    'too_old',
    'unknown',
    'other_system',
    'unknown',
  ]);
});

const fail = (): never => {
  throw new Error('not found');
};

test('several controllers of one target are told until a rule is written down; more than it takes is told as such', () => {
  const driven = (count: number, typeId: string, sharing = '') => {
    const ids = Array.from({ length: count }, (_, at) => `c${at}`);
    const show = showOf({
      types: [player, bigPlayer, laptop],
      devices: [device('p', typeId, { sharing }), ...ids.map((id) => device(id, 'laptop'))],
      links: ids.map((id) => link('p', { id, controllerId: id })),
    });
    return findRig(show)
      .map(({ code }) => code)
      .filter((code) => code === 'several_writers' || code === 'too_many_controllers');
  };
  expect([driven(1, 'big-player'), driven(2, 'big-player'), driven(2, 'big-player', 'left first')]).toEqual([
    [],
    ['several_writers'],
    [],
  ]);
  expect([driven(1, 'player'), driven(2, 'player')]).toEqual([[], ['too_many_controllers']]);
});

test('what is to move together is in a group with others; several groups are nobody’s mistake (5.7)', () => {
  const linked = (...peers: string[]) => {
    const type = typeWith('words', {
      name: 'Words',
      kind: 'lyrics',
      factory: { mode: 'dhcp', ip: null, prefix: null },
    });
    const devices = peers.map((own, at) => device(`w-${at}`, 'words', { peers: own, features: ['linked'] }));
    return showOf({ types: [type], devices: [...devices, device('alone', 'words', { peers: 'other' })] });
  };
  const found = (show: Show) => findRig(show).filter(({ code }) => code === 'peers_apart');
  const whole = [linked('', ''), linked('crew', 'crew'), linked('crew'), linked('crew', '', 'crew', '')];
  expect(whole.flatMap(found)).toEqual([]);
  const odd = found(linked('', 'a', 'a', 'b', ''));
  expect([odd[0]?.subjects.map(({ id }) => id), odd[0]?.fixes[0]?.change.label]).toEqual([['w-3'], 'Put it into “a”']);
  const [apart] = found(linked('crew', 'Crew', ''));
  expect(apart?.facts['groups']).toEqual(['the one without a name', '“Crew”', '“crew”']);
  const mended = applyChange(linked('crew', 'Crew', ''), apart?.fixes[0]?.change ?? expect.fail('no way out'));
  expect(mended.ok && found(mended.show)).toEqual([]);
});
