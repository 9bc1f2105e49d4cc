import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { addressingFacts, wakePlan } from '../addressing/index.ts';
import { lookingKeys } from '../contract/index.ts';
import { layerNames, type LayerName, type Link, type MeasuredSounding } from '../show/index.ts';
import {
  address,
  adapter,
  device,
  network,
  showOf,
  soundRows,
  types,
  typeWith,
} from '../show/sample-show.test-data.ts';
import {
  causesFor,
  endpointDifference,
  firstNameBreak,
  lampWords,
  lookingWords,
  namesOf,
  processesOf,
  statusAgainstEffect,
  symptoms,
  symptomWords,
} from './index.ts';

const measured = (stopsAt: LayerName | null, at = 1000): MeasuredSounding => ({
  linkId: 'l',
  source: 'bench',
  at,
  rev: 1,
  rttMs: null,
  basis: '',
  layers: layerNames.map((layer) => {
    const depth = stopsAt === null ? Infinity : layerNames.indexOf(layer) - layerNames.indexOf(stopsAt);
    const state = stopsAt === null || depth < 0 ? 'pass' : depth === 0 ? 'fail' : 'waits';
    return { layer, state, code: '', facts: {} };
  }),
});

describe('a lamp beside the effect (C31)', () => {
  const now = 60_000;
  test.each([
    [true, null, 'consistent', 'Lit, and the link works.'],
    [false, 'port', 'consistent', 'Dark, and the link stops at port.'],
    [true, 'access', 'misleading', 'it only shows that its own cable has a link'],
    [false, null, 'misleading', 'Dark although the link works'],
  ] as const)('lit %s and stopping at %s is %s', (lit, stopsAt, verdict, words) => {
    const reading = statusAgainstEffect({ lit }, measured(stopsAt), { now, changedSince: false });
    expect([reading.verdict, reading.ageMs]).toEqual([verdict, 59_000]);
    expect(lampWords({ lit, means: 'carrier' }, reading)).toContain(words);
  });

  test('nothing is proven without a test, by an old one, or after a change', () => {
    const untested = [
      statusAgainstEffect({ lit: true }, undefined, { now, changedSince: false }),
      statusAgainstEffect({ lit: true }, measured(null), { now: 1000 + 600_001, changedSince: false }),
      statusAgainstEffect({ lit: true }, measured(null), { now, changedSince: true }),
    ];
    for (const reading of untested) {
      expect(reading.verdict).toBe('untested');
      expect(lampWords({ lit: true, means: 'data' }, reading)).toContain('Untested');
    }
    expect(statusAgainstEffect({ lit: true }, measured(null), { now: 601_000, changedSince: false }).verdict).toBe(
      'consistent',
    );
  });
});

test('the difference of two lists is what has to be taken out and put in to get from one to the other (C33)', () => {
  const name = fc.tuple(fc.constantFrom('in', 'out'), fc.nat(6)).map(([side, n]) => `${side} ${n}`);
  fc.assert(
    fc.property(fc.array(name), fc.array(name), (before, after) => {
      const { newInputs, newOutputs, vanished } = endpointDifference(before, after);
      const left = [...before];
      for (const gone of vanished) left.splice(left.indexOf(gone), 1);
      expect([...left, ...newInputs, ...newOutputs].sort()).toEqual([...after].sort());
      // nothing is both new and gone, so the difference is the smallest there is
      expect(vanished.some((gone) => [...newInputs, ...newOutputs].includes(gone))).toBe(false);
      expect([
        newInputs.every((each) => each.startsWith('in ')),
        newOutputs.every((each) => each.startsWith('out ')),
      ]).toEqual([true, true]);
    }),
  );
});

describe('names along a chain (C34)', () => {
  const chain = (...names: string[]) => names.map((name, at) => ({ where: `place ${at}`, name }));
  test.each([
    [['Faders', 'Faders', 'Faders'], undefined],
    [
      ['Faders', 'faders', 'Other'],
      ['place 0', 'place 1', 'case'],
    ],
    [
      ['Faders 1', 'Faders 1', 'Faders1'],
      ['place 1', 'place 2', 'blanks'],
    ],
    [
      ['Faders', 'Faders ', 'x'],
      ['place 0', 'place 1', 'blanks'],
    ],
    [
      ['Faders', 'Bank'],
      ['place 0', 'place 1', 'other'],
    ],
    // ü as one letter, and as u with two points behind it
    [
      ['B\u00fchne', 'Bu\u0308hne'],
      ['place 0', 'place 1', 'letters'],
    ],
    [
      ['B\u00fchne', 'bu\u0308hne'],
      ['place 0', 'place 1', 'case'],
    ],
    [['Faders'], undefined],
  ])('%j breaks at %j', (names, wanted) => {
    const found = firstNameBreak(chain(...names));
    expect(found && [found.before.where, found.after.where, found.kind]).toEqual(wanted);
  });

  test('a unit’s chain begins with its own name and goes on with what its controllers show', () => {
    const [first] = soundRows.links;
    if (!first) throw new Error('the sample has a link');
    const show = showOf({ ...soundRows, links: [{ ...first, label: 'the desk' }] });
    expect(namesOf(show, first.targetId)).toEqual([
      { where: 'itself', name: show.devices[first.targetId]?.name },
      { where: show.devices[first.controllerId]?.name, name: 'the desk' },
    ]);
    expect(namesOf(show, 'nobody')).toEqual([]);
  });
});

test('every symptom has causes, and a sounding sorts each into exactly one of three lists (12.2)', () => {
  for (const symptom of symptoms) {
    const all = causesFor(symptom, undefined);
    expect([symptom, all.length > 0, all.every(({ state }) => state === 'open')]).toEqual([symptom, true, true]);
    expect(symptomWords(symptom)).not.toBe('');
    for (const stopsAt of [...layerNames, null]) {
      const causes = causesFor(symptom, measured(stopsAt));
      expect(causes.map(({ key }) => key).sort()).toEqual(all.map(({ key }) => key).sort());
      // what is shown comes first, what is ruled out last
      const order = causes.map(({ state }) => ['shown', 'open', 'ruled_out'].indexOf(state));
      expect(order).toEqual([...order].sort((a, b) => a - b));
      if (stopsAt === null) expect(causes.some(({ state }) => state === 'shown')).toBe(false);
    }
  }
  const keys = (stopsAt: LayerName | null, wanted: 'shown' | 'open' | 'ruled_out') =>
    causesFor('not_found', measured(stopsAt)).flatMap(({ key, state }) => (state === wanted ? [key] : []));
  // a pulled cable rules nothing out that could be wrong as well, and what went past a layer rules out what sits there
  expect(keys('cable', 'ruled_out')).toEqual([]);
  expect(keys('cable', 'open').slice(0, 2)).toEqual(['no_power', 'cable_out']);
  expect(keys('address', 'ruled_out')).toEqual([
    'no_power',
    'cable_out',
    'starting',
    'wrong_vlan',
    'loop',
    'uplink_out',
  ]);
  expect(keys('address', 'open').at(-1)).toBe('search_again');
  // exactly what was seen comes before what else stops there
  const stop = {
    ...measured('address'),
    layers: measured('address').layers.map((one) => ({ ...one, code: 'two_owners' })),
  };
  expect(causesFor('not_found', stop)[0]?.key).toBe('address_clash');
});

test('each step of looking for a unit says what it looks at, and what to do where it fails (6.2)', () => {
  for (const key of lookingKeys) {
    expect(lookingWords({ key, state: 'pass', facts: {} })).toMatchObject({ fails: '', next: '' });
    const failed = lookingWords({
      key,
      state: 'fail',
      facts: { ip: '10.1.0.9 /24', own: '10.2.0.1 /24', planned: '10.1.0.1' },
    });
    expect([key, failed.fails !== '' && failed.next !== '' && failed.looks !== '']).toEqual([key, true]);
  }
});

test('a computer is woken at the broadcast address of its network, by another computer of it; other units are not (C32)', () => {
  const computer = typeWith('laptop', {
    name: 'Laptop',
    kind: 'computer',
    factory: { mode: 'dhcp', ip: null, prefix: null },
    ways: [{ way: 'system' }],
  });
  const show = showOf({
    ...soundRows,
    types: [...types, computer],
    networks: [network({ network: '10.1.0.0', prefix: 22 })],
    devices: [device('a', 'laptop'), device('b', 'laptop'), device('c', 'desk')],
    interfaces: ['a', 'b', 'c'].map((id) => ({ ...adapter(id), mac: id === 'a' ? '02:00:00:00:00:0a' : null })),
    addresses: ['a', 'b', 'c'].map((id, at) => address(id, `10.1.2.${at + 1}`)),
    cables: [],
    services: [],
    links: [],
  });
  const facts = addressingFacts(show);
  const plan = wakePlan(show, facts, 'a');
  // a /22 that begins at 10.1.0.0 ends at 10.1.3.255
  expect([plan?.mac, plan?.to, plan?.senders.map(({ id }) => id)]).toEqual([
    '02:00:00:00:00:0a',
    { ip: '10.1.3.255', port: 9 },
    ['b'],
  ]);
  expect(wakePlan(show, facts, 'b')?.mac).toBeNull();
  expect([wakePlan(show, facts, 'c'), wakePlan(show, facts, 'nobody')]).toEqual([undefined, undefined]);
});

test('what a link depends on is every program, application and helper at its ends, once each (C28)', () => {
  const unset = { mode: 'dhcp', ip: null, prefix: null } as const;
  const helper = (label: string, system: 'macos' | 'windows' | null) => ({ label, purpose: 'x', system });
  const [desk] = types.filter(({ model }) => model === 'desk');
  const show = showOf({
    ...soundRows,
    types: [
      ...types,
      typeWith('laptop', {
        name: 'Laptop',
        kind: 'computer',
        factory: unset,
        ways: [{ way: 'system' }],
        services: desk?.services ?? [],
        drives: ['osc'],
      }),
      typeWith('cues', {
        name: 'Cues',
        kind: 'show-host',
        form: 'program',
        factory: { ...unset, mode: 'none' },
        adapters: [],
        sockets: [],
        helpers: [helper('bridge', null), helper('driver', 'windows'), helper('extension', 'macos')],
      }),
    ],
    devices: [
      ...soundRows.devices,
      device('book', 'laptop', { system: 'macos' }),
      device('cue', 'cues', { runsOn: 'book' }),
    ],
  });
  const between = (controllerId: string, targetId: string) =>
    processesOf(show, { controllerId, targetId } as Link).map(({ what, on }) => `${what} on ${on.id}`);
  expect(between('cue', 'desk')).toEqual(['cue on book', 'bridge on book', 'extension on book']);
  expect(between('host', 'book')).toEqual(['its application, with its show open on book']);
  expect(between('cue', 'cue')).toEqual(['cue on book', 'bridge on book', 'extension on book']);
  expect([between('host', 'desk'), between('gone', 'gone')]).toEqual([[], []]);
  // a computer that controls runs what does
  expect(between('book', 'desk')).toEqual(['its controlling program on book']);
});
