import { expect, test } from 'vitest';
import { applyChange, contentOf, filledRow, type Change, type DeviceType, type Show } from '../show/index.ts';
import { device, showOf, types, typeWith } from '../show/sample-show.test-data.ts';
import {
  librariesInOrder,
  planMoveLibrary,
  planOwn,
  planRemoveLibrary,
  planRemoveType,
  planSaveType,
} from './plan-types.ts';

const library = (id: string, position: number) => ({ id, name: id.toUpperCase(), position });
const copyOf = (id: string, libraryId: string) => ({
  ...(types.find((type) => type.id === id) as (typeof types)[0]),
  id: `${libraryId}-${id}`,
  libraryId,
});
const show = showOf({
  libraries: [library('ours', 30), library('b', 20), library('a', 20)],
  types: [...types, copyOf('desk', 'a'), copyOf('camera', 'b')],
  devices: [device('one', 'desk'), device('two', 'a-desk'), device('three', 'host')],
});
const done = (at: Show, change: Change | undefined): Show => {
  const applied = change && applyChange(at, change);
  if (!applied?.ok) throw new Error(change ? 'the change does not apply' : 'there is no change');
  return applied.show;
};
const orderOf = (at: Show) => librariesInOrder(at).map(({ id, position }) => `${id} ${position}`);
const id = (name: string) => () => name;

test('libraries are asked by position, then by id, and move by one place', () => {
  expect(orderOf(show)).toEqual(['a 20', 'b 20', 'ours 30']);
  const change = planMoveLibrary(show, 'ours', -1);
  expect([change?.label, orderOf(done(show, change))]).toEqual(['Ask OURS before B', ['a 10', 'ours 20', 'b 30']]);
  const later = planMoveLibrary(show, 'a', 1);
  expect([later?.label, orderOf(done(show, later))]).toEqual(['Ask A after B', ['b 10', 'a 20', 'ours 30']]);
  expect([planMoveLibrary(show, 'a', -1), planMoveLibrary(show, 'ours', 1), planMoveLibrary(show, 'no', 1)]).toEqual([
    undefined,
    undefined,
    undefined,
  ]);
});

test('a type of another library is copied into our own, once; one of our own is changed in place', () => {
  const desk = contentOf<'types'>(show.types['desk'] as DeviceType);
  const first = planSaveType(show, { ...desk, name: 'Big desk' }, id('copy'));
  const after = done(show, first);
  expect(first?.label).toBe('Change the type Big desk');
  expect([after.types['desk']?.name, after.types['copy']?.name, after.types['copy']?.libraryId]).toEqual([
    'Desk',
    'Big desk',
    'own',
  ]);
  expect(after.libraries['own']).toMatchObject({ name: 'Our own types', position: 10 });
  const mine = contentOf<'types'>(after.types['copy'] as DeviceType);
  const second = planSaveType(after, { ...mine, name: 'Bigger', libraryId: 'ours' }, id('unused'));
  expect(second?.edits.map(({ table, id: row }) => `${table} ${row}`)).toEqual(['types copy']);
  expect(done(after, second).types['copy']).toMatchObject({ name: 'Bigger', libraryId: 'own' });
  const fresh = typeWith('new', { name: 'New', kind: 'camera', factory: { mode: 'none', ip: null, prefix: null } });
  const third = planSaveType(after, fresh, id('n'));
  expect([third?.label, third?.edits.length]).toEqual(['Add the type New', 1]);
});

test('a type or library goes when its units find another definition, and stays while they would not', () => {
  const byTypes = done(show, planRemoveType(show, show.types['desk'] as never));
  expect([byTypes.types['desk'], byTypes.devices['one']?.typeId, byTypes.devices['two']?.typeId]).toEqual([
    undefined,
    'a-desk',
    'a-desk',
  ]);
  expect(planRemoveType(show, show.types['host'] as never)).toBeUndefined();
  expect(planRemoveType(show, show.types['switch'] as never)?.label).toBe('Remove the type Switch');
  const byLibrary = planRemoveLibrary(show, show.libraries['a'] as never);
  const after = done(show, byLibrary);
  expect([byLibrary?.label, after.libraries['a'], after.types['a-desk'], after.devices['two']?.typeId]).toEqual([
    'Remove the library A',
    undefined,
    undefined,
    'desk',
  ]);
  expect(Object.keys(after.types).sort()).toEqual(['b-camera', 'camera', 'desk', 'host', 'switch']);
  expect(planRemoveLibrary(show, show.libraries['ours'] as never)).toBeUndefined();
});

test('licences that are owned are written, changed and taken away', () => {
  const wanted = { model: 'desk', bundle: 'plus', label: 'Plus' };
  const bought = planOwn(show, wanted, 3, id('l'));
  const after = done(show, bought);
  expect([bought?.label, contentOf(after.licences['l'] as never)]).toEqual([
    'Own 3 of Plus',
    filledRow('licences', { id: 'l', model: 'desk', bundle: 'plus', owned: 3, note: '' }),
  ]);
  expect(done(after, planOwn(after, wanted, 5, id('x'))).licences['l']?.owned).toBe(5);
  expect(done(after, planOwn(after, wanted, 0, id('x'))).licences).toEqual({});
  expect(planOwn(after, { ...wanted, bundle: 'other' }, 0, id('x'))).toBeUndefined();
  expect(done(after, planOwn(after, { ...wanted, model: 'host' }, 1, id('m'))).licences['m']?.owned).toBe(1);
});
