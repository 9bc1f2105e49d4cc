import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import type { Content, Show } from '../show/index.ts';
import { adapter, cable, device, link, service, showOf, types, typeWith } from '../show/sample-show.test-data.ts';
import { beforeSite } from './before-site.ts';
import { compareVersions } from './compare-versions.ts';
import { isCopyGood } from './copy-age.ts';
import { findRig } from './find-rig.ts';
import { canSynchronise, lossesOf } from './losses.ts';
import { platformFit } from './platform.ts';
import { powerOrder } from './power-order.ts';

const boxed = { mode: 'none', ip: null, prefix: null } as const;
const codes = (show: Show, now = 0) => findRig(show, now).map(({ code }) => code);
const own = (...more: Content<'types'>[]) => [...types, ...more];
const updates = (show: Show) =>
  beforeSite(show).flatMap(({ section, device: unit, text }) =>
    section === 'update' ? [`${unit?.id}: ${text.split(',')[0]}`] : [],
  );

test('one serial on two units of a model is told, on units of two models or left empty it is not', () => {
  const two = (serials: [string, string], second = 'camera') =>
    codes(
      showOf({ devices: [device('a', 'camera', { serial: serials[0] }), device('b', second, { serial: serials[1] })] }),
    );
  expect(two(['S7', ' s7'])).toContain('doubled_serial');
  expect(two(['S7', 'S8'])).not.toContain('doubled_serial');
  expect(two(['', ''])).not.toContain('doubled_serial');
  expect(two(['S7', 'S7'], 'desk')).not.toContain('doubled_serial');
});

test.each([
  ['1.5a', '1.5b', -1],
  ['1.5b', '1.5b', 0],
  ['1.5', '1.5b', undefined],
  ['1.5b', '2.0', -1],
  ['2.0-beta', '1.9', 1],
  ['2.0-beta', '2.0', undefined],
  ['beta', '2.0', undefined],
])('%s against %s is %s', (a, b, order) => expect(compareVersions(a, b)).toBe(order));

describe('what to update', () => {
  const processor = typeWith('processor', { name: 'Processor', kind: 'led-processor', factory: boxed });
  const program = (rule: 'equal' | 'first_part') =>
    typeWith('prog', {
      name: 'Prog',
      kind: 'computer',
      form: 'program',
      factory: boxed,
      matches: [{ model: 'processor', rule }],
    });
  const pair = (rule: 'equal' | 'first_part', versions: [string | null, string | null]) =>
    updates(
      showOf({
        types: own(processor, program(rule)),
        devices: [
          device('box', 'processor', { firmware: versions[0] }),
          device('app', 'prog', { firmware: versions[1] }),
        ],
      }),
    );

  test('whoever is behind follows, also when only the program names its partner', () => {
    expect(pair('equal', ['3.1', '3.2'])).toEqual(['box: 3.1 to 3.2 or later']);
    expect(pair('equal', ['3.2', '3.1'])).toEqual(['app: 3.1 to 3.2 or later']);
    expect(pair('equal', ['3.2', '3.2'])).toEqual([]);
    expect(pair('equal', ['1.5b', '2.0'])).toEqual(['box: 1.5b to 2.0 or later']);
    expect(pair('equal', [null, '2.0'])).toEqual(['box: read its version: 2.0 or later is needed']);
  });

  test('by the first figure only that counts', () => {
    expect(pair('first_part', ['8.9', '9.2'])).toEqual(['box: 8.9 to 9 or later']);
    expect(pair('first_part', ['9.0', '9.2'])).toEqual([]);
  });

  test('a service that is off asks for no version', () => {
    const camera = (enabled: boolean) =>
      showOf({
        devices: [device('c', 'camera', { firmware: '1.0' })],
        services: [service('c', { key: 'web', receivePort: 80, enabled })],
      });
    expect([updates(camera(true)), codes(camera(true)).includes('firmware_below')]).toEqual([
      ['c: 1.0 to 1.4 or later'],
      true,
    ]);
    expect([updates(camera(false)), codes(camera(false)).includes('firmware_below')]).toEqual([[], false]);
  });
});

test('a program runs from one version of a system to another, and nobody knows where its type names none', () => {
  const runsOn = (lowest: string | null, highest: string | null, version: string | null) => {
    const type = typeWith('prog', {
      name: 'P',
      kind: 'computer',
      form: 'program',
      factory: boxed,
      runsOn: [{ system: 'macos', lowest, highest }],
    });
    return platformFit(
      { ...type, rev: 0 },
      { ...device('c', 'host', { system: 'macos', systemVersion: version }), rev: 0 },
    );
  };
  expect(runsOn('12', '14', '14.2')).toBe('usable');
  expect(runsOn('12', '14', '15.0')).toBe('too_new');
  expect(runsOn('12', '14', '11.9')).toBe('too_old');
  expect(runsOn(null, '14', null)).toBe('unknown');
  const silent = typeWith('prog', { name: 'P', kind: 'computer', form: 'program', factory: boxed });
  expect(platformFit({ ...silent, rev: 0 }, { ...device('c', 'host'), rev: 0 })).toBe('unsaid');
});

describe('licences', () => {
  const type = typeWith('server', {
    name: 'Server',
    kind: 'media',
    factory: boxed,
    features: [
      { key: 'out', label: 'output', bundle: 'small', orBundles: ['large'] },
      { key: 'map', label: 'mapping', bundle: 'large' },
    ],
    bundles: [
      { key: 'small', label: 'Small', per: 'unit' },
      { key: 'large', label: 'Large', per: 'unit' },
    ],
  });
  const found = (features: string[], owned: Record<string, number>) =>
    findRig(
      showOf({
        types: own(type),
        devices: [device('s', 'server', { features })],
        licences: Object.entries(owned).map(([bundle, count]) => ({
          id: bundle,
          model: 'server',
          bundle,
          owned: count,
          note: '',
        })),
      }),
    ).flatMap(({ code, facts }) => (code.startsWith('seats') ? [`${code} ${String(facts['bundle'])}`] : []));

  test('any licence that opens a function will do', () => {
    expect(found(['out'], {})).toEqual(['seats_short Small']);
    expect(found(['out'], { large: 1 })).toEqual([]);
    expect(found(['out', 'map'], { large: 1 })).toEqual([]);
    expect(found(['map'], { small: 1 })).toEqual(['seats_short Large', 'seats_idle Small']);
  });
});

test('two converters where neither end fits the run, one where one does not, none where fibre meets fibre', () => {
  const unit = (id: string, connector: 'rj45' | 'sfp') =>
    typeWith(id, {
      name: id,
      kind: 'computer',
      factory: boxed,
      sockets: [{ key: 'port-1', label: 'p', adapter: null, connector }],
    });
  const needs = (from: 'rj45' | 'sfp', to: 'rj45' | 'sfp', medium: 'copper' | 'fibre') => {
    const show = showOf({
      types: own(unit('one', from), unit('two', to)),
      devices: [device('a', 'one'), device('b', 'two')],
      cables: [{ ...cable('a', 'port-1'), toDevice: 'b', medium }],
    });
    return beforeSite(show).flatMap(({ key, count }) => (key.startsWith('pack:converter') ? [count] : []));
  };
  expect([needs('rj45', 'rj45', 'fibre'), needs('sfp', 'rj45', 'fibre'), needs('sfp', 'sfp', 'fibre')]).toEqual([
    [2],
    [1],
    [],
  ]);
  expect([needs('rj45', 'rj45', 'copper'), needs('sfp', 'rj45', 'copper')]).toEqual([[], [1]]);
});

test('who looks its target up once is switched on after it, though both control something', () => {
  const once = typeWith('once', { name: 'Once', kind: 'switcher', factory: boxed, drives: ['osc'], looksUpOnce: true });
  const show = showOf({
    types: own(once),
    devices: [device('a', 'once'), device('h', 'host'), device('d', 'desk')],
    services: [service('d')],
    links: [link('d', { id: 'l1', controllerId: 'h' }), link('h', { id: 'l2', controllerId: 'a' })],
  });
  expect(powerOrder(show).map(({ stage, devices }) => [stage, devices.map(({ id }) => id)])).toEqual([
    ['targets', ['d']],
    ['controllers', ['h']],
    ['controllers', ['a']],
  ]);
});

test('power over the cable asks for a switch that can', () => {
  const hub = (feedsCables: boolean) => ({
    ...(types.find(({ id }) => id === 'switch') ?? expect.fail()),
    feedsCables,
  });
  const eye = typeWith('eye', { name: 'Eye', kind: 'camera', factory: boxed, power: [{ feed: 'poe' }] });
  const fed = (feedsCables: boolean) =>
    codes(
      showOf({
        types: [...types.filter(({ id }) => id !== 'switch'), hub(feedsCables), eye],
        devices: [device('hub', 'switch'), device('e', 'eye', { feed: 'poe' })],
        interfaces: [adapter('e')],
        cables: [cable('e', 'p-1')],
      }),
    );
  expect([fed(true).includes('feed_no_switch'), fed(false).includes('feed_no_switch')]).toEqual([false, true]);
});

describe('copies', () => {
  const now = Date.UTC(2026, 10, 27, 13);
  test('an old or a future one is none', () => {
    expect(isCopyGood('2026-11-27', now)).toBe(true);
    expect([isCopyGood('2026-11-28', now), isCopyGood('2026-11-29', now)]).toEqual([true, false]);
    expect([isCopyGood('2026-09-29', now), isCopyGood('2026-09-28', now)]).toEqual([true, false]);
    expect([isCopyGood(null, now), isCopyGood('2001-01-01', 0)]).toEqual([false, true]);
  });

  test('days are counted as every calendar counts them', () => {
    fc.assert(
      fc.property(fc.date({ min: new Date('1970-03-01'), max: new Date('2099-12-31'), noInvalidDate: true }), (day) => {
        const text = day.toISOString().slice(0, 10);
        const midnight = Date.parse(`${text}T00:00:00Z`);
        expect([
          isCopyGood(text, midnight + 60 * 86_400_000 - 1),
          isCopyGood(text, midnight + 60 * 86_400_000),
        ]).toEqual([true, false]);
      }),
    );
  });

  test('what a reset loses is lost for good when the copy is old', () => {
    const desk = { ...(types.find(({ id }) => id === 'desk') ?? expect.fail()), erases: ['show'] };
    const show = showOf({
      types: [desk],
      devices: [device('d', 'desk', { savedOn: '2026-01-02' }), device('e', 'desk')],
    });
    const reset = { kind: 'reset', deviceId: 'd' } as const;
    expect([lossesOf(show, reset, now).verdict, lossesOf(show, reset, Date.UTC(2026, 0, 9)).verdict]).toEqual([
      'no_go',
      'with_copy',
    ]);
    const [d, e] = [show.devices['d'] ?? expect.fail(), show.devices['e'] ?? expect.fail()];
    expect([canSynchronise(show, e, d), canSynchronise(show, d, d)]).toEqual([true, false]);
  });
});
