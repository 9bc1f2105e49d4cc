import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import {
  contentWith,
  emptyShow,
  filledRow,
  type Content,
  type DeviceType,
  type Row,
  type Show,
} from '../show/index.ts';
import { chainsOf } from './chain.ts';
import { findTimecode } from './find-timecode.ts';
import { planHop, planSession } from './plan-hops.ts';
import { rates } from './rates.ts';
import { sessionsOf } from './sessions.ts';
import { stationPlan } from './stations.ts';

type Formats = NonNullable<DeviceType['timecode']>['takes'];
interface Unit {
  readonly takes?: Formats;
  readonly gives?: Formats;
  readonly makes?: boolean;
  readonly inputs?: number | null;
  readonly device?: Partial<Content<'devices'>>;
  readonly type?: Partial<Content<'types'>>;
}
type Hop = Partial<Content<'timeHops'>> & { readonly fromId: string; readonly toId: string };
const every: Formats = ['linear', 'midi', 'network_midi'];

const midi: DeviceType['services'][number] = {
  ...{
    key: 'in',
    label: 'in',
    protocol: 'midi',
    roles: ['waits'],
    transport: 'udp',
    receivePort: 5004,
    sendPort: null,
  },
  ...{ logins: ['none'], onByDefault: true, lowestFirmware: null, commands: [] },
};

const byId = <Item extends { readonly id: string }>(rows: readonly Item[]) =>
  Object.fromEntries(rows.map((row) => [row.id, { ...row, rev: 1 }])) as Record<string, Item & { rev: number }>;

/** Units of a type each, with hops between them and, for those over the network, sessions entered at their givers. */
function showOf(units: Record<string, Unit>, hops: readonly Hop[], withoutLink: readonly string[] = []): Show {
  const types = Object.entries(units).map(
    ([id, { takes = every, gives = every, makes = false, inputs = null, type }]) =>
      filledRow('types', {
        ...{
          id,
          libraryId: 'ours',
          model: id,
          version: '1',
          name: id,
          kind: 'timecode',
          drives: ['midi'],
          services: [midi],
        },
        ...{ factory: { mode: 'none', ip: null, prefix: null }, adapters: [], sockets: [] },
        ...{ timecode: { takes, gives, inputs, makes }, ...type },
      }),
  );
  const devices = Object.entries(units).map(([id, { device }]) =>
    filledRow('devices', {
      ...{ id, typeId: id, name: id, unit: null, place: '', firmware: null, note: '' },
      ...device,
    }),
  );
  const timeHops = hops.map((hop, at) => contentWith('timeHops', { id: `hop-${at}`, format: 'network_midi', ...hop }));
  const links = timeHops
    .filter(({ id, format }) => format === 'network_midi' && !withoutLink.includes(id))
    .map(({ id, fromId, toId }) =>
      contentWith('links', {
        ...{
          id: `link-${id}`,
          controllerId: fromId,
          targetId: toId,
          serviceKey: 'in',
          slot: null,
          host: null,
          port: 5004,
        },
        ...{ replyPort: null, account: null, secretId: null, command: null, args: [] },
      }),
    );
  const services = devices.map(({ id }) =>
    contentWith('services', {
      ...{ id: `in-${id}`, deviceId: id, key: 'in', enabled: true, receivePort: 5004, sendPort: null, sendTo: null },
      ...{ account: null, secretId: null },
    }),
  );
  return {
    ...emptyShow({ id: 's', name: 's' }),
    ...{ types: byId(types), devices: byId(devices), timeHops: byId(timeHops), links: byId(links) },
    services: byId(services),
  };
}
const clock: Unit = { takes: [], makes: true, device: { rate: '25' } };
const codes = (show: Show): string[] => findTimecode(show).map(({ code }) => code);

describe('chains of time code', () => {
  test('whoever is reached without a fault is whoever runs when the code is passed from hand to hand', () => {
    const [units, seen] = [['a', 'b', 'c', 'd', 'e'], { cases: 0, running: 0, standing: 0 }];
    // mostly sound, or nobody would ever run
    const mostly = <Value>(usual: Value, others: fc.Arbitrary<Value>) =>
      fc.oneof({ weight: 4, arbitrary: fc.constant(usual) }, { weight: 1, arbitrary: others });
    const formats = mostly([...every], fc.subarray([...every]));
    const unit = fc.record({
      ...{ takes: formats, gives: formats, makes: fc.boolean() },
      device: fc.record({ rate: mostly<Content<'devices'>['rate']>(null, fc.constantFrom('25', '29.97df', '30')) }),
    });
    const hop = fc.record({
      ...{ fromId: fc.constantFrom('a', ...units), toId: fc.constantFrom(...units), format: fc.constantFrom(...every) },
      ...{ says: fc.constantFrom('', 'A clock'), hears: mostly('', fc.constantFrom('A clock', 'a clock', 'a')) },
    });
    const lost = mostly<string[]>([], fc.subarray(['hop-0', 'hop-1', 'hop-2']));
    fc.assert(
      fc.property(
        fc.tuple(unit, unit, unit, unit, unit),
        fc.array(hop, { maxLength: 7 }),
        lost,
        (given, hops, without) => {
          const whole = hops.filter(({ fromId, toId }) => fromId !== toId);
          const show = showOf(
            Object.fromEntries(units.map((id, at) => [id, { ...given[at], ...(at === 0 ? { makes: true } : {}) }])),
            whole,
            without,
          );
          const runs = new Set(
            chainsOf(show).flatMap(({ source, stations }) => {
              if (show.types[source.id]?.timecode?.makes !== true) return [];
              const standing = new Set<string>();
              for (const { device, heard } of stations)
                if (heard && (heard.faults.length > 0 || standing.has(heard.from.id))) standing.add(device.id);
              return stations.flatMap(({ device }) => (standing.has(device.id) ? [] : [device.id]));
            }),
          );
          const passed = new Set(passedOn(show, without));
          seen.cases += 1;
          for (const id of new Set(whole.map(({ toId }) => toId))) seen[passed.has(id) ? 'running' : 'standing'] += 1;

          expect([...runs].sort()).toEqual([...passed].sort());
        },
      ),
      { numRuns: 600 },
    );
    expect([seen.cases, seen.running > 200, seen.standing > 400]).toEqual([600, true, true]);
  });

  test('a second way to somebody is looked at as well, and the sound one is heard', () => {
    const show = showOf({ clock, box: {}, desk: {} }, [
      { fromId: 'clock', toId: 'desk', hears: 'clok' },
      { fromId: 'clock', toId: 'box', format: 'linear' },
      { fromId: 'box', toId: 'desk', format: 'midi', hears: 'box' },
    ]);
    const [chain] = chainsOf(show);
    expect(chain?.stations.map(({ device, depth, role }) => [device.id, depth, role])).toEqual([
      ['clock', 0, 'source'],
      ['box', 1, 'passes_on'],
      ['desk', 2, 'receives'],
    ]);
    expect([chain?.hops.length, codes(show)]).toEqual([3, ['time_name_differs']]);
  });

  test('each mistake is told by its own words, and nothing else is', () => {
    const hop = (patch: Partial<Hop> = {}): Hop => ({ fromId: 'clock', toId: 'desk', ...patch });
    const second: Unit = { ...clock, device: { rate: '25', leads: true } };
    const cases: readonly (readonly [string, Show])[] = [
      ['', showOf({ clock, desk: {} }, [hop()])],
      ['time_cannot_give', showOf({ clock: { ...clock, gives: ['linear'] }, desk: {} }, [hop()])],
      ['time_cannot_take', showOf({ clock, desk: { takes: ['midi'] } }, [hop({ format: 'linear' })])],
      ['time_name_differs', showOf({ clock, desk: {} }, [hop({ says: 'Quay', hears: 'Quai' })])],
      ['time_rate_differs', showOf({ clock, desk: { device: { rate: '30' } } }, [hop()])],
      ['time_no_session', showOf({ clock, desk: {} }, [hop()], ['hop-0'])],
      ['time_circle', showOf({ box: {}, desk: {} }, [hop({ fromId: 'box' }), hop({ fromId: 'desk', toId: 'box' })])],
      ['time_makes_nothing', showOf({ clock: { ...clock, makes: false }, desk: {} }, [hop()])],
      ['time_no_rate', showOf({ clock: { ...clock, device: {} }, desk: {} }, [hop()])],
      ['time_who_leads', showOf({ clock, other: clock, desk: {} }, [hop(), hop({ fromId: 'other' })])],
      [
        'time_who_leads',
        showOf({ clock, other: clock, box: {}, desk: {} }, [
          ...[hop({ toId: 'box' }), hop({ fromId: 'box' })],
          hop({ fromId: 'other' }),
        ]),
      ],
      ['', showOf({ clock, other: second, desk: {} }, [hop(), hop({ fromId: 'other' })])],
      ['time_merger_needed', showOf({ clock, other: second, desk: { inputs: 1 } }, [hop(), hop({ fromId: 'other' })])],
      ['', showOf({ clock, other: second, desk: { inputs: 2 } }, [hop(), hop({ fromId: 'other' })])],
      [
        'time_input_shared',
        showOf({ clock, other: second, desk: { device: { peers: 'lights' } } }, [
          hop({ input: '1' }),
          hop({ fromId: 'other', input: '1' }),
        ]),
      ],
      [
        'time_station_outside',
        showOf({ clock, desk: {}, other: { device: { peers: 'lights' } } }, [hop({ input: '1' })]),
      ],
      ['', showOf({ clock, desk: { device: { peers: 'lights' } }, other: {} }, [hop({ input: '1' })])],
      // alone of its kind it has no system to join
      ['', showOf({ clock, desk: { type: { kind: 'lighting' } } }, [hop({ input: '1' })])],
    ];
    for (const [code, show] of cases) expect([code, codes(show)]).toEqual([code, code === '' ? [] : [code]]);
  });

  test('sources that lead come first, and a receiver of two rates is not set to either of them', () => {
    const two = { clock, other: { ...clock, device: { rate: '24', leads: true } } } as const;
    const hops = [
      { fromId: 'clock', toId: 'desk' },
      { fromId: 'other', toId: 'desk' },
    ];
    const show = showOf({ ...two, desk: { device: { rate: '30' } } }, hops);
    expect(chainsOf(show).map(({ source }) => source.id)).toEqual(['other', 'clock']);
    expect(findTimecode(show).map(({ code, fixes }) => [code, fixes.length])).toEqual([
      ['time_rate_differs', 0],
      ['time_rate_differs', 0],
    ]);
    const one = findTimecode(showOf({ clock, desk: { device: { rate: '30' } } }, hops.slice(0, 1)));
    expect(one.map(({ fixes }) => fixes.map(({ label }) => label))).toEqual([['Set desk to 25']]);
  });

  test('who could convert is named, and a way for sound where nobody could', () => {
    const wrong = { fromId: 'clock', toId: 'desk', format: 'linear' } as const;
    const words = (units: Record<string, Unit>) => findTimecode(showOf(units, [wrong])).map(({ facts }) => facts);
    const desk: Unit = { takes: ['network_midi'] };
    expect(words({ clock, desk, box: { takes: ['linear'], gives: ['network_midi'] } })).toEqual([
      expect.objectContaining({ converters: ['box'] }),
    ]);
    // the other way round it converts nothing that is wanted
    expect(words({ clock, desk, box: { takes: ['network_midi'], gives: ['linear'] } })).toEqual([
      expect.objectContaining({ converters: [], isSound: 'yes' }),
    ]);
  });
});

/** Who runs: makers that hear nobody begin, and every hop that nothing stops hands its rate on, until nothing changes. */
function passedOn(show: Show, withoutLink: readonly string[]): string[] {
  const hops = Object.values(show.timeHops);
  const typeOf = (id: string) => show.types[id]?.timecode;
  const rateOf = (id: string) => show.devices[id]?.rate ?? undefined;
  /** Every rate at which a unit runs; undefined is one that nobody said. */
  const running = new Map<string, Set<ReturnType<typeof rateOf>>>();
  for (const id of Object.keys(show.devices))
    if (typeOf(id)?.makes && !hops.some(({ toId }) => toId === id) && hops.some(({ fromId }) => fromId === id))
      running.set(id, new Set([rateOf(id)]));
  const linked = (a: string, b: string) =>
    hops.some(({ id, fromId, toId, format }) => {
      const isBetween = (fromId === a && toId === b) || (fromId === b && toId === a);
      return isBetween && format === 'network_midi' && !withoutLink.includes(id);
    });
  for (let changed = true; changed;) {
    changed = false;
    for (const { fromId, toId, format, says, hears } of hops) {
      const isCarried = format !== 'network_midi' || linked(fromId, toId);
      const isNamed = format === 'linear' || hears === '' || hears === (says || fromId);
      if (!isCarried || !isNamed || !typeOf(fromId)?.gives.includes(format) || !typeOf(toId)?.takes.includes(format))
        continue;
      for (const rate of running.get(fromId) ?? []) {
        const awaited = rateOf(toId);
        if (rate && awaited && rates[rate].label !== rates[awaited].label) continue;
        const known = running.get(toId) ?? new Set();
        if (known.has(rate)) continue;
        running.set(toId, known.add(rate));
        changed = true;
      }
    }
  }
  return [...running.keys()];
}

test('a new hop travels as what both ends know, and its session is entered at the end that can open one', () => {
  const mute: Unit = { type: { drives: [] } };
  const show = showOf(
    { clock: { ...clock, gives: ['midi', 'linear'] }, box: { ...mute, takes: ['linear'] }, desk: {} },
    [],
  );
  const rowOf = (change: ReturnType<typeof planHop>) => change?.edits[0]?.after;
  expect(rowOf(planHop(show, { id: 'new', fromId: 'clock', toId: 'box' }))).toMatchObject({ format: 'linear' });
  expect(rowOf(planHop(show, { id: 'new', fromId: 'clock', toId: 'desk' }))).toMatchObject({ format: 'midi' });
  expect(planHop(show, { id: 'new', fromId: 'clock' })).toBeUndefined();
  // the box opens no session: whoever takes from it or gives to it has to
  expect(rowOf(planSession(show, { fromId: 'box', toId: 'desk' }))).toMatchObject({
    controllerId: 'desk',
    targetId: 'box',
  });
  expect(rowOf(planSession(show, { fromId: 'clock', toId: 'box' }))).toMatchObject({ controllerId: 'clock' });
  const none = showOf({ box: mute, other: mute }, []);
  expect(planSession(none, { fromId: 'box', toId: 'other' })).toBeUndefined();
});

test('sessions are listed with what goes through them, and who cannot be told apart', () => {
  const surface: Unit = { type: { kind: 'fader-bank' }, device: { name: 'Faders' } };
  const system = (of: Content<'devices'>['system']): Unit => ({ device: { system: of } });
  const show = showOf({ clock, left: surface, right: surface, desk: system('windows'), player: system('macos') }, [
    { fromId: 'clock', toId: 'desk', says: 'Quay' },
    { fromId: 'clock', toId: 'player', format: 'linear' },
  ]);
  const entry = (id: string, controllerId: string, targetId: string): Row<'links'> => ({
    ...(show.links['link-hop-0'] ?? expect.fail('no link')),
    ...{ id, controllerId, targetId },
  });
  const links = [entry('l', 'left', 'player'), entry('r', 'right', 'player')];
  const sessions = sessionsOf({ ...show, links: { ...show.links, ...byId(links) } });
  expect(
    sessions.map(({ waits, name, hops, alike, drivers }) => [waits.id, name, hops.length, alike.length, ...drivers]),
  ).toEqual([
    ['desk', 'Quay', 1, 0, 'own', 'add_on'],
    ['player', 'Faders', 0, 1, 'own', 'built_in'],
    ['player', 'Faders', 0, 1, 'own', 'built_in'],
  ]);
});

test('stations want a computer each, by the systems that they run on', () => {
  const station = (runsOn: string | null, ...systems: ('windows' | 'macos')[]): Unit => ({
    type: {
      ...{ form: 'program', ownComputer: true },
      runsOn: systems.map((system) => ({ system, lowest: null, highest: null })),
    },
    device: { runsOn },
  });
  const pc: Unit = { takes: [], type: { timecode: null } };
  const units = {
    ...{ pc1: pc, pc2: pc, a: station('pc1', 'windows'), b: station('pc1', 'windows'), c: station('pc2', 'macos') },
    ...{ d: station(null, 'windows'), e: { ...station(null), takes: [] } },
  };
  const { stations, wanted, computers, sharing, homeless, missing } = stationPlan(showOf(units, []));
  expect([stations.length, computers.map(({ id }) => id), missing]).toEqual([4, ['pc1', 'pc2'], 2]);
  expect(wanted).toEqual([
    { systems: ['windows'], count: 3 },
    { systems: ['macos'], count: 1 },
  ]);
  expect([sharing, homeless].map((devices) => devices.map(({ id }) => id))).toEqual([['a', 'b'], ['d']]);
});
