import { describe, expect, test } from 'vitest';
import { device, showOf } from '../show/sample-show.test-data.ts';
import { rowsOf, type DeviceKind } from '../show/index.ts';
import { typeMatcher } from './match-type.ts';
import { tradeWords } from './trade-words.ts';

const base = showOf({ devices: [device('a', 'camera')] });
const camera = rowsOf(base, 'types').find(({ id }) => id === 'camera');
/** A show whose types have these names and kinds. */
const matcher = (...types: [name: string, kind: DeviceKind][]) =>
  typeMatcher({
    ...base,
    types: Object.fromEntries(
      types.map(([name, kind], at) => {
        if (!camera) throw new Error('no type');
        return [`t${at}`, { ...camera, id: `t${at}`, model: `m${at}`, name, kind }];
      }),
    ),
  });
const full = matcher(
  ['Pan-tilt camera', 'camera'],
  ['Cinema camera', 'camera'],
  ['Production switcher', 'switcher'],
  ['Audio mixer', 'mixer'],
  ['LED receiving card', 'led-receiver'],
  ['LED distribution unit', 'led-receiver'],
  ['Laptop', 'computer'],
  ['Technician’s computer', 'computer'],
  ['Playout machine', 'playout'],
);

describe('finding the type', () => {
  test.each([
    ['PTZ camera', 'Pan-tilt camera'],
    ['ptz cameras', 'Pan-tilt camera'],
    ['Vision mixer', 'Production switcher'],
    ['mixing desk', 'Audio mixer'],
    ['Mischpult', 'Audio mixer'],
    ['notebook', 'Laptop'],
    ['media player', 'Playout machine'],
    ['LED receiving', 'LED receiving card'],
    ['camera', undefined],
    ['microphone receiver', undefined],
  ])('“%s” is %s', (text, name) => expect(full.match(text)?.name).toBe(name));

  test('what may be meant comes in the order of likeness, and nothing that shares only a word', () => {
    expect(full.likely('camera').map(({ name }) => name)).toEqual(['Cinema camera', 'Pan-tilt camera']);
    expect(full.likely('Pan-tilt camra').map(({ name }) => name)[0]).toBe('Pan-tilt camera');
    expect(full.likely('Pan-tlit camera')[0]?.name).toBe('Pan-tilt camera');
    for (const stranger of ['microphone receiver', 'wireless microphone', 'desk lamp', 'receiver', 'unit', 'x', ''])
      expect([stranger, full.likely(stranger)]).toEqual([stranger, []]);
  });

  test('a word for a kind of which the show has two types names both', () => {
    const two = matcher(['Small desk', 'mixer'], ['Large desk', 'mixer']);
    expect(two.match('mixing desk')).toBeUndefined();
    expect(two.likely('mixing desk').map(({ name }) => name)).toEqual(['Large desk', 'Small desk']);
  });

  test('no word of the trade means two kinds', () => {
    const all = tradeWords.flatMap(({ said }) => said);
    expect(all.length).toBeGreaterThan(100);
    expect(all.filter((word, at) => all.indexOf(word) !== at)).toEqual([]);
  });
});
