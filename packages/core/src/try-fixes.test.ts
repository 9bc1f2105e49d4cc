import { expect, test } from 'vitest';
import { analyse, wordsOf } from './analyse.ts';
import type { Fix } from './findings/index.ts';
import { nothingSeen, type Show } from './show/index.ts';
import { adapter, address, cable, device, link, showOf, soundRows } from './show/sample-show.test-data.ts';
import { tryFixes, withTriedFixes } from './try-fixes.ts';

/** The desk has the camera's address, and nobody is called by a name of its own. */
const clash = showOf({
  ...soundRows,
  devices: soundRows.devices.map((row) => ({
    ...row,
    name: row.id === 'hub' ? 'hub' : row.name,
    ipv6: 'as_delivered' as const,
  })),
  addresses: [address('host', '10.1.0.2'), address('desk', '10.1.0.31'), address('camera', '10.1.0.31')],
});
const fixesOf = (show: Show, code: string, tried: boolean): readonly Fix[] => {
  const analysis = analyse(show, nothingSeen, 0);
  const { findings } = tried ? withTriedFixes(show, analysis) : analysis;
  return findings.find((found) => found.code === code)?.fixes ?? [];
};

test('a fix that may change where packets go is marked until it was tried', () => {
  expect(fixesOf(clash, 'duplicate_ip', false)).toMatchObject([{ untried: true }]);
  const [tried] = fixesOf(clash, 'duplicate_ip', true);
  expect([tried?.label.startsWith('Move '), tried?.untried]).toEqual([true, undefined]);
});

test('the links that a fix is for offer what was tried at its cause', () => {
  const layersOf = (tried: boolean) => {
    const analysis = analyse(clash, nothingSeen, 0);
    const { soundings } = tried ? withTriedFixes(clash, analysis) : analysis;
    return [...soundings.values()].flatMap(({ stopsAt }) => stopsAt?.fixes.map(({ untried }) => untried) ?? []);
  };
  expect(layersOf(false).length).toBeGreaterThan(0);
  expect(layersOf(false).every(Boolean)).toBe(true);
  expect(layersOf(true).some(Boolean)).toBe(false);
});

test('one trial after the other, each with what is known by then; the analysis itself is left as it was', () => {
  const analysis = analyse(clash, nothingSeen, 0);
  const marked = (of: typeof analysis) =>
    of.findings.flatMap(({ fixes }) => fixes).filter(({ untried }) => untried).length;
  const before = marked(analysis);
  const counts = [...tryFixes(clash, analysis)].map(marked);
  expect(before).toBeGreaterThan(0);
  expect(counts.at(-1)).toBe(0);
  expect(counts).toEqual([...counts].sort((a, b) => b - a));
  expect([marked(analysis), withTriedFixes(clash, analysis).rev]).toEqual([before, analysis.rev]);
});

test('a plan in which nothing has to be tried is given back as it is', () => {
  const sound = showOf(soundRows);
  const analysis = analyse(sound, nothingSeen, 0);
  const untried = analysis.findings.some(({ fixes }) => fixes.some((fix) => fix.untried));
  expect([untried, withTriedFixes(sound, analysis) === analysis]).toEqual([false, true]);
});

test('a target that replies to one address is not chased from one of its controllers to the next', () => {
  const others = ['second', 'third'];
  const show = showOf({
    ...soundRows,
    devices: [...soundRows.devices, ...others.map((id) => device(id, 'host'))],
    interfaces: [...soundRows.interfaces, ...others.map(adapter)],
    addresses: [...soundRows.addresses, address('second', '10.1.0.4'), address('third', '10.1.0.5')],
    cables: [...soundRows.cables, ...others.map((id, at) => cable(id, `p-${at + 5}`))],
    links: [...soundRows.links, ...others.map((id) => link('desk', { id: `from-${id}`, controllerId: id }))],
  });
  const { findings, depths } = withTriedFixes(show, analyse(show, nothingSeen, 0));
  const elsewhere = findings.filter(({ code }) => code === 'reply_replies_elsewhere');
  const whys = elsewhere.map((found) => wordsOf(found).why);
  expect(others.map((id) => depths.get(`from-${id}`)?.depth)).toEqual([7, 7]);
  expect(whys).toEqual(Array(2).fill(expect.stringContaining('belongs to host, which controls it too')));
  expect([depths.get('to-desk')?.depth, elsewhere.flatMap(({ fixes }) => fixes)]).toEqual([8, []]);
});
