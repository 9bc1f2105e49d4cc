import { describe, expect, test } from 'vitest';
import { rowsOf, type Change } from '../show/index.ts';
import { address, cable, showOf, soundRows } from '../show/sample-show.test-data.ts';
import {
  concernedDevices,
  counted,
  countGrades,
  finding,
  fixWith,
  fold,
  isAboutDevice,
  keyed,
  nameList,
  oneOr,
  ruleOf,
  sortFindings,
  wordsOfRules,
  type Finding,
  type Grade,
  type Room,
} from './index.ts';

const found = (code: string, grade: Grade = 'note', room: Room = 'rig', ...ids: string[]): Finding =>
  finding(
    room,
    code,
    grade,
    ids.map((id) => ({ table: 'devices', id })),
  );

describe('what a finding is', () => {
  test('its key names its code and what it is about, and can be given where that changes', () => {
    expect(found('x', 'note', 'rig', 'a', 'b').key).toBe('x devices/a devices/b');
    expect(keyed(found('x', 'note', 'rig', 'a'), 'place', 7)).toMatchObject({ key: 'x place 7', code: 'x' });
  });

  test('a fix that would alter nothing is none', () => {
    const change: Change = { label: 'Do it', edits: [] };
    expect([fixWith('Do it', undefined), fixWith('Do it', change)]).toEqual([undefined, { label: 'Do it', change }]);
    expect(finding('rig', 'x', 'note', [], {}, [undefined, fixWith('Do it', change), undefined]).fixes).toHaveLength(1);
  });

  test('worst first, causes before what they cause, then by key', () => {
    const all = [
      found('z', 'note', 'rig'),
      found('b', 'stops', 'links'),
      found('a', 'stops', 'links'),
      found('c', 'risky', 'cabling'),
      found('d', 'stops', 'cabling'),
      found('e', 'stops', 'addressing'),
      found('f', 'stops', 'rig'),
    ];
    expect(sortFindings(all).map(({ code }) => code)).toEqual(['f', 'e', 'd', 'a', 'b', 'c', 'z']);
    expect(sortFindings([...all].reverse())).toEqual(sortFindings(all));
    expect(countGrades(all)).toEqual({ stops: 5, risky: 1, note: 1 });
    expect(countGrades([])).toEqual({ stops: 0, risky: 0, note: 0 });
  });
});

describe('one cause, one finding', () => {
  const cause = keyed(found('clash', 'risky', 'addressing'), '10.1.1.1');
  const effect = (name: string): Finding => ({ ...found(name, 'stops', 'links', name), cause: cause.key });

  test('what follows is told at its cause, which then stops something', () => {
    const all = fold([cause, effect('one'), found('other'), effect('two')], ({ code }) => code);
    expect(all.map(({ code, grade, stoppedLinks }) => [code, grade, stoppedLinks])).toEqual([
      ['clash', 'stops', ['one', 'two']],
      ['other', 'note', undefined],
    ]);
  });

  test('without its cause it stands for itself', () => {
    expect(fold([effect('one')], ({ code }) => code)).toEqual([effect('one')]);
  });
});

describe('who is concerned', () => {
  const show = showOf(soundRows);
  const about = (table: Finding['subjects'][number]['table'], id: string): Finding =>
    finding('rig', 'x', 'stops', [{ table, id }]);

  test('through addresses, cables and links as well, everybody once', () => {
    const [own, plug, link] = [address('desk', '10.1.0.60'), cable('desk', 'p-2'), rowsOf(show, 'links')[0]];
    expect(concernedDevices(show, about('devices', 'desk'))).toEqual(['desk']);
    expect(concernedDevices(show, about('addresses', own.id))).toEqual(['desk']);
    expect(concernedDevices(show, about('cables', plug.id)).sort()).toEqual(['desk', 'hub']);
    expect(concernedDevices(show, about('links', link?.id ?? '')).sort()).toEqual(
      [link?.controllerId, link?.targetId].sort(),
    );
    for (const table of ['addresses', 'cables', 'links', 'networks'] as const)
      expect([table, concernedDevices(show, about(table, 'nowhere'))]).toEqual([table, []]);
    const twice = finding('rig', 'x', 'stops', [
      { table: 'devices', id: 'desk' },
      { table: 'addresses', id: own.id },
    ]);
    expect(concernedDevices(show, twice)).toEqual(['desk']);
  });

  test('a note about many units is one about the rig, a fault is everybody’s', () => {
    const of = (grade: Grade, ...ids: string[]) => isAboutDevice(show, found('x', grade, 'rig', ...ids), 'a');
    expect([of('note', 'a', 'b', 'c'), of('note', 'a', 'b', 'c', 'd'), of('risky', 'a', 'b', 'c', 'd')]).toEqual([
      true,
      false,
      true,
    ]);
    expect(of('stops', 'b')).toBe(false);
  });
});

describe('sentences', () => {
  test('one and several', () => {
    expect([0, 1, 2].map((count) => counted(count, 'unit'))).toEqual(['0 units', '1 unit', '2 units']);
    expect([1, 2].map((count) => counted(count, 'address', 'addresses'))).toEqual(['1 address', '2 addresses']);
    expect([0, 1, 2].map((count) => oneOr(count, 'is', 'are'))).toEqual(['are', 'is', 'are']);
  });

  test('names are listed up to four, and a comma within one parts nothing', () => {
    const names = ['A', 'B', 'C, left', 'D', 'E', 'F'];
    expect([0, 1, 2, 3, 4, 5, 6].map((count) => nameList(names.slice(0, count)))).toEqual([
      '',
      'A',
      'A and B',
      'A, B and C, left',
      'A, B, C, left and D',
      'A, B, C, left, D and 1 more',
      'A, B, C, left, D and 2 more',
    ]);
    // a unit with two addresses for which there is no room is one name
    expect(nameList(['A', 'A', 'B'])).toBe('A and B');
    expect(nameList(undefined)).toBe('');
  });
});

test('a rule says what it found, by its own words; a code that no rule has is shown rather than hidden', () => {
  const rule = ruleOf<{ odd: { name: string }; even: { count: number } }, [readonly string[]]>(
    'rig',
    {
      odd: (f, fixable) => [`${f.name} is odd.`, 'It is alone.', fixable ? 'Press.' : 'Look.'],
      even: (f) => [`${f.count} are even.`, '', ''],
    },
    (make, names) =>
      names.length % 2
        ? [make('odd', 'stops', [], { name: names[0] ?? '' }, [fixWith('Mend', { label: 'Mend', edits: [] })])]
        : [make('even', 'note', [], { count: names.length })],
  );
  const words = wordsOfRules([rule]);
  expect(rule.codes).toEqual(['odd', 'even']);
  const [odd] = rule.find(['A']);
  expect(odd && words(odd)).toEqual({ what: 'A is odd.', why: 'It is alone.', fix: 'Press.' });
  expect(odd && words({ ...odd, fixes: [] }).fix).toBe('Look.');
  expect(rule.find([]).map(words)).toEqual([{ what: '0 are even.', why: '', fix: '' }]);
  expect(words(found('new_code'))).toEqual({ what: 'new_code', why: '', fix: '' });
});
