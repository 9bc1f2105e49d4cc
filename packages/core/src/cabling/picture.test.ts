import fc from 'fast-check';
import { expect, test } from 'vitest';
import { addressingFacts } from '../addressing/index.ts';
import type { Content } from '../show/index.ts';
import { device, showOf, soundRows } from '../show/sample-show.test-data.ts';
import { cablingFacts, pictureOf, runGraph, wayBetween, wayWords } from './index.ts';

const hubs = Array.from({ length: 6 }, (_, at) => `h${at}`);
/** Plain switches with runs between some of them, each at a socket of its own. */
function rigOf(pairs: readonly (readonly [number, number])[]) {
  const next = new Map<string, number>();
  const socket = (id: string) => {
    const at = (next.get(id) ?? 0) + 1;
    next.set(id, at);
    return `p-${at}`;
  };
  const cables = pairs.flatMap(([a, b], at): Content<'cables'>[] => {
    const [from, to] = [hubs[a] ?? '', hubs[b] ?? ''];
    if (a === b || (next.get(from) ?? 0) > 7 || (next.get(to) ?? 0) > 7) return [];
    const ends = { fromDevice: from, fromSocket: socket(from), toDevice: to, toSocket: socket(to) };
    return [{ id: `c${at}`, ...ends, medium: 'copper', lengthM: 3, delayMs: null, grade: null, stage: 'both' }];
  });
  const show = showOf({
    ...soundRows,
    devices: hubs.map((id) => device(id, 'switch')),
    interfaces: [],
    addresses: [],
    services: [],
    links: [],
    cables,
  });
  return { show, cables, picture: pictureOf(show, cablingFacts(show), addressingFacts(show)) };
}

test('every run is at both its sockets, the nearer end above, and the way between two units is the shortest there is', () => {
  let [runs, found] = [0, 0];
  const pair = fc.tuple(fc.nat(5), fc.nat(5));
  fc.assert(
    fc.property(fc.array(pair, { maxLength: 9 }), (pairs) => {
      runs += 1;
      const { show, cables, picture } = rigOf(pairs);
      const ends = picture.units.flatMap(({ id, sockets }) =>
        sockets.flatMap(({ key, runId }) => (runId === undefined ? [] : [`${runId} ${id} ${key}`])),
      );
      expect(ends.sort()).toEqual(
        cables
          .flatMap((c) => [`${c.id} ${c.fromDevice} ${c.fromSocket}`, `${c.id} ${c.toDevice} ${c.toSocket}`])
          .sort(),
      );
      const depth = new Map(picture.units.map((unit) => [unit.id, unit.depth]));
      for (const { upper, lower } of picture.runs)
        expect([0, 1]).toContain((depth.get(lower.unitId) ?? 9) - (depth.get(upper.unitId) ?? 0));
      // how far everything is from everything (Floyd and Warshall), by a way that shares nothing with the search
      const far = hubs.map((a) => hubs.map((b) => (a === b ? 0 : Infinity)));
      const step = (a: string, b: string) => void ((far[hubs.indexOf(a)] ?? [])[hubs.indexOf(b)] = 1);
      for (const c of cables) {
        step(c.fromDevice, c.toDevice);
        step(c.toDevice, c.fromDevice);
      }
      for (const k of hubs.keys())
        for (const row of far)
          for (const at of hubs.keys()) row[at] = Math.min(row[at] ?? 0, (row[k] ?? 0) + (far[k]?.[at] ?? 0));
      for (const [a, row] of far.entries())
        for (const [b, wanted] of row.entries()) {
          const way = wayBetween(picture, hubs[a] ?? '', hubs[b] ?? '');
          expect(way?.length ?? Infinity).toBe(wanted);
          if (!way || way.length === 0) continue;
          found += 1;
          const words = wayWords(show, way, hubs[a] ?? '');
          expect(words[0]?.startsWith(`${hubs[a]} `) && words.at(-1)?.includes(`→ ${hubs[b]} `)).toBe(true);
        }
    }),
    { numRuns: 150 },
  );
  expect([runs, found > 500]).toEqual([150, true]);
});

test('units with sockets and no run are counted by their place', () => {
  const show = showOf({ ...soundRows, devices: [...soundRows.devices, device('spare', 'camera', { place: 'Van' })] });
  const picture = pictureOf(show, cablingFacts(show), addressingFacts(show));
  expect([...picture.loose]).toEqual([['Van', 1]]);
  expect(picture.runs.map(({ networks }) => networks.map(({ name }) => name))).toEqual([
    ['Control'],
    ['Control'],
    ['Control'],
  ]);
});

test('a run is a bridge where nothing else leads from one of its ends to the other', () => {
  let [runs, bridges, others] = [0, 0, 0];
  fc.assert(
    fc.property(fc.array(fc.tuple(fc.nat(5), fc.nat(5)), { maxLength: 9 }), (pairs) => {
      runs += 1;
      const { show, cables } = rigOf(pairs);
      const { isBridge } = runGraph(show, cablingFacts(show).domains());
      for (const cable of cables) {
        const without = {
          ...show,
          cables: Object.fromEntries(Object.entries(show.cables).filter(([id]) => id !== cable.id)),
        };
        const rest = pictureOf(without, cablingFacts(without), addressingFacts(without));
        const isCut = wayBetween(rest, cable.fromDevice, cable.toDevice) === undefined;
        expect([cable.id, isBridge(cable.id)]).toEqual([cable.id, isCut]);
        if (isCut) bridges += 1;
        else others += 1;
      }
    }),
    { numRuns: 150 },
  );
  expect([runs, bridges > 100, others > 100]).toEqual([150, true, true]);
});
