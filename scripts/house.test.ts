import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { dirname, join, relative } from 'node:path';
import { describe, expect, test } from 'vitest';

/** The house rules of the architecture, checked on every source file. */
const root = join(import.meta.dirname, '..');
const tracked = execFileSync('git', ['ls-files', '-co', '--exclude-standard', '-z'], { cwd: root })
  .toString()
  .split('\0')
  .filter(Boolean);
const isTest = (file: string) => /\.(test|spec|test-data)\.tsx?$|\/test\/|^e2e\//.test(file);
const sources = tracked.filter((file) => /^packages\/[^/]+\/src\/.*\.tsx?$/.test(file) && !isTest(file));

interface Import {
  readonly from: string;
  readonly to: string;
}

function importsOf(file: string): Import[] {
  const text = readFileSync(join(root, file), 'utf8');
  const statements = text.matchAll(
    /^(?:import|export)\b[^;'"`]*?from '([^']+)'|^import '([^']+)'|\bimport\('([^']+)'\)/gm,
  );
  return [...statements].map(([, from, bare, lazy]) => {
    const target = from ?? bare ?? lazy ?? '';
    return { from: file, to: target.startsWith('.') ? relative(root, join(root, dirname(file), target)) : target };
  });
}
const imports = sources.flatMap(importsOf);
const floorOf = (file: string): string => /^packages\/([^/]+)\//.exec(file)?.[1] ?? '';
const roomOf = (file: string): string => /^packages\/core\/src\/([^/]+)\//.exec(file)?.[1] ?? '';

const rooms = [
  'schemas',
  'show',
  'contract',
  'findings',
  'rig',
  'addressing',
  'cabling',
  'links',
  'bringup',
  'surfaces',
  'cues',
  'onair',
  'timecode',
  'wall',
  'handover',
];
/** The rooms of the bench, each above those that may use it; files that stand beside them compose. */
const benchRooms = [
  'ether',
  'units',
  'protocols',
  'tap',
  'soundings',
  'site',
  'surfaces',
  'onair',
  'wall',
  'jacks',
  'looking',
  'faults',
  'rehearsal',
];
const below: Readonly<Record<string, readonly string[]>> = {
  core: [],
  codecs: [],
  demo: ['core'],
  bench: ['core', 'codecs'],
  server: ['core', 'codecs', 'bench', 'demo'],
  web: ['core', 'codecs'],
};

describe('the house', () => {
  test('there is something to check', () => expect([sources.length > 100, imports.length > 300]).toEqual([true, true]));

  test('floors import downwards only, and each other by name', () => {
    const breaches = imports.filter(({ from, to }) => {
      const named = /^@deep-patch\/(.+)$/.exec(to)?.[1];
      if (named !== undefined) return !below[floorOf(from)]?.includes(named);
      return to.startsWith('packages/') && floorOf(to) !== floorOf(from);
    });
    expect(breaches).toEqual([]);
  });

  test('core imports nothing but itself, a priority queue, a distance of texts, and zod where schemas are', () => {
    const breaches = imports.filter(
      ({ from, to }) =>
        floorOf(from) === 'core' &&
        !to.startsWith('packages/core/src/') &&
        to !== 'tinyqueue' &&
        to !== 'fastest-levenshtein' &&
        !(to === 'zod' && ['schemas', 'contract'].includes(roomOf(from))),
    );
    expect(breaches).toEqual([]);
  });

  test('a room imports only rooms above it, and only through their index', () => {
    const breaches = imports.filter(({ from, to }) => {
      const [own, other] = [roomOf(from), roomOf(to)];
      if (own === '' || other === '' || own === other) return false;
      return rooms.indexOf(other) > rooms.indexOf(own) || !to.endsWith(`/${other}/index.ts`);
    });
    expect(breaches).toEqual([]);
    expect(sources.map(roomOf).filter((room) => room !== '' && !rooms.includes(room))).toEqual([]);
  });

  test('a room of the bench imports only rooms below it', () => {
    const benchRoomOf = (file: string): string => /^packages\/bench\/src\/([^/]+)\//.exec(file)?.[1] ?? '';
    const breaches = imports.filter(({ from, to }) => {
      const [own, other] = [benchRoomOf(from), benchRoomOf(to)];
      if (own === '' || !to.startsWith('packages/bench/')) return false;
      return other === '' || benchRooms.indexOf(other) > benchRooms.indexOf(own);
    });
    expect(breaches).toEqual([]);
    expect(sources.map(benchRoomOf).filter((room) => room !== '' && !benchRooms.includes(room))).toEqual([]);
  });

  test('no module leads back to itself, not even for its types', () => {
    const next = new Map(
      sources.map((file) => [file, importsOf(file).flatMap(({ to }) => (sources.includes(to) ? [to] : []))]),
    );
    const done = new Set<string>();
    const walk = (file: string, path: readonly string[]): string[] => {
      if (path.includes(file)) return [...path.slice(path.indexOf(file)), file];
      if (done.has(file)) return [];
      for (const to of next.get(file) ?? []) {
        const cycle = walk(to, [...path, file]);
        if (cycle.length > 0) return cycle;
      }
      done.add(file);
      return [];
    };
    expect(sources.flatMap((file) => walk(file, [])).slice(0, 12)).toEqual([]);
  });

  test('an index lists its exports by name, and no folder is a drawer for everything', () => {
    const starred = sources.filter(
      (file) => file.endsWith('/index.ts') && /export \* from/.test(readFileSync(join(root, file), 'utf8')),
    );
    const drawers = tracked.filter((file) => /(^|\/)(utils?|helpers?|common|misc|types)(\/|\.tsx?$)/.test(file));
    expect([starred, drawers]).toEqual([[], []]);
  });

  test('SQL is never built from pieces: queries are literals without holes', () => {
    const built = sources.filter(
      (file) =>
        floorOf(file) === 'server' &&
        /query(<[^>]*>)?\(\s*(`[^`]*\$\{|['"][^'"]*['"]\s*\+)/.test(readFileSync(join(root, file), 'utf8')),
    );
    expect(built).toEqual([]);
  });

  test('a need or calculation that a comment cites by its number stands in the coverage', () => {
    const coverage = readFileSync(join(root, 'docs/coverage.md'), 'utf8');
    const known = new Set([...coverage.matchAll(/^\| (C?\d+(?:\.\d+)?) \|/gm)].map(([, number]) => number));
    const cited = sources.flatMap((file) =>
      [...readFileSync(join(root, file), 'utf8').matchAll(/\b(C\d{1,2})\b|\bneeds? (\d+\.\d+)/g)].map(
        ([, calculation, need]) => ({ file, number: calculation ?? need ?? '' }),
      ),
    );
    expect([known.size > 200, cited.length > 50]).toEqual([true, true]);
    expect(cited.filter(({ number }) => !known.has(number))).toEqual([]);
  });

  test('no registry host is written anywhere', () => {
    const named = tracked.filter(
      (file) =>
        !file.endsWith('.md') &&
        /https?:\/\/(registry\.|deb\.)/.test(readFileSync(join(root, file), 'latin1')) &&
        file !== 'scripts/house.test.ts',
    );
    expect(named).toEqual([]);
  });
});
