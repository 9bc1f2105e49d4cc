import fc from 'fast-check';
import { expect, test } from 'vitest';
import { revert } from './revert.ts';

interface Data {
  readonly flag: boolean;
  readonly services: readonly { readonly port: number; readonly password: string }[];
  readonly address: { readonly ip: number; readonly prefix: number };
}
const data: fc.Arbitrary<Data> = fc.record({
  flag: fc.boolean(),
  services: fc.array(fc.record({ port: fc.nat(9), password: fc.string({ maxLength: 3 }) }), {
    minLength: 2,
    maxLength: 2,
  }),
  address: fc.record({ ip: fc.nat(9), prefix: fc.nat(9) }),
});

/** Changes of one field each; every value differs from what the data above can hold. */
const changes: readonly ((before: Data) => Data)[] = [
  (before) => ({ ...before, flag: !before.flag }),
  (before) => ({ ...before, address: { ...before.address, ip: 100 } }),
  (before) => ({ ...before, address: { ...before.address, prefix: 30 } }),
  (before) => ({ ...before, services: before.services.map((each) => ({ ...each, password: 'another' })) }),
  (before) => ({ ...before, services: before.services.map((each) => ({ ...each, port: 999 })) }),
];

test('changes of different fields are taken back in any order, and nothing of them stays', () => {
  fc.assert(
    fc.property(data, fc.shuffledSubarray([...changes.keys()]), fc.infiniteStream(fc.nat()), (start, order, picks) => {
      let now = start;
      const done = order.map((at) => {
        const before = now;
        now = changes[at]?.(before) ?? before;
        return { before, after: now };
      });
      while (done.length > 0) {
        const [taken] = done.splice((picks.next().value ?? 0) % done.length, 1);
        if (taken) now = revert(now, taken.before, taken.after);
      }
      expect(now).toEqual(start);
    }),
  );
});

test('what somebody changed since stays as it is', () => {
  const before = { ip: 1, prefix: 24 };
  const after = { ip: 1, prefix: 30 };
  expect(revert({ ip: 7, prefix: 26 }, before, after)).toEqual({ ip: 7, prefix: 26 });
  expect(revert({ ip: 7, prefix: 30 }, before, after)).toEqual({ ip: 7, prefix: 24 });
  expect(revert([1, 2, 3], [1], [2])).toEqual([1, 2, 3]);
});
