import fc from 'fast-check';
import { expect, test } from 'vitest';
import { byName, devicesByName, emptyShow, filledRow, type Device, type Show } from './index.ts';

const showOf = (names: ReadonlyMap<string, string>): Show => {
  const rows = [...names].map(([id, name]): Device => {
    const content = { id, typeId: 't', name, unit: null, place: '', firmware: null, note: '' };
    return { ...filledRow('devices', content), rev: 1 };
  });
  return { ...emptyShow({ id: 'x', name: '' }), devices: Object.fromEntries(rows.map((row) => [row.id, row])) };
};

test('units stand by name and then by id, whatever was listed before', () => {
  const step = fc.record({ at: fc.nat(6), name: fc.constantFrom('Camera 2', 'camera 2', 'Camera 10', 'Desk', null) });
  let cases = 0;
  fc.assert(
    fc.property(fc.array(step, { minLength: 1, maxLength: 20 }), (steps) => {
      cases += 1;
      const names = new Map<string, string>();
      for (const { at, name } of steps) {
        if (name === null) names.delete(`d${at}`);
        else names.set(`d${at}`, name);
        const show = showOf(names);
        const expected = Object.values(show.devices).sort((a, b) => byName(a, b) || (a.id < b.id ? -1 : 1));
        expect(devicesByName(show).map(({ id }) => id)).toEqual(expected.map(({ id }) => id));
      }
    }),
  );
  expect(cases).toBe(100);
});
