// From a finger on a control to its effect, and a long running order: npm run measure -- surfaces
import { createSocket } from 'node:dgram';
import { Bench } from '@deep-patch/bench';
import { analyse, cues, show as core, StandingAnalysis, type contract, type Show } from '@deep-patch/core';
import { demoPasswords, demoShow } from '@deep-patch/demo';
import { writeOsc } from '@deep-patch/codecs';
import { measureLines } from './measure-lines.ts';

const { tell, show: showLines } = measureLines();
const [moves = 400] = process.argv.slice(2).map(Number);

const at = (sorted: readonly number[], share: number): number =>
  sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * share))] ?? 0;
const middle = (list: number[]): [number, number] => {
  const sorted = [...list].sort((a, b) => a - b);
  return [at(sorted, 0.5), at(sorted, 0.95)];
};

/** Milliseconds of a datagram with these bytes to another socket of this machine and back. */
async function echoes(bytes: Uint8Array, times: number): Promise<number[]> {
  const [far, near] = [createSocket('udp4'), createSocket('udp4')];
  await Promise.all([far, near].map((one) => new Promise<void>((done) => void one.bind(0, '127.0.0.1', done))));
  far.on('message', (message, { port, address }) => far.send(message, port, address));
  const took: number[] = [];
  for (let n = 0; n < times; n += 1) {
    const start = performance.now();
    const back = new Promise<void>((done) => void near.once('message', () => done()));
    near.send(bytes, far.address().port, '127.0.0.1');
    await back;
    took.push(performance.now() - start);
  }
  far.close();
  near.close();
  return took;
}

const show = demoShow();
const bench = new Bench();
await bench.handle({ kind: 'load', plan: { show, passwords: demoPasswords } });
await bench.handle({ kind: 'power', showId: show.id, deviceIds: Object.keys(show.devices), on: true });
const state = async () => (await bench.handle({ kind: 'state', showId: show.id })) as contract.BenchState;
const move = (list: contract.Moves['moves']) =>
  bench.handle({ kind: 'moves', showId: show.id, moved: { deviceId: 'faders-left', moves: list } });
const channel = async (n: number) =>
  (await state()).standins
    .find(({ deviceId }) => deviceId === 'mixer')
    ?.face.find(([key]) => key === `fader ${n}`)?.[1];
const turn = () => new Promise<void>((done) => setImmediate(done));

/** The level that the mixer shows, looked at without a state being made of everything. */
const mixer = (
  bench as unknown as {
    sites: Map<string, { site: { standins: Map<string, { memory: { face: Map<string, string> } }> } }>;
  }
).sites
  .get(show.id)
  ?.site.standins.get('mixer')?.memory.face;
const levelOf = (value: number) => `${-90 + (value / 127) * 100}`;

const toEffect: number[] = [];
await move([{ control: 'fader-1', part: 'whole', value: 1 }]);
await new Promise((done) => setTimeout(done, 1500));
for (let n = 0; n < moves; n += 1) {
  const value = n % 2 === 0 ? 127 : 0;
  const wanted = `${value === 127 ? 10 : -90} dB`;
  const start = performance.now();
  await move([{ control: 'fader-1', part: 'whole', value }]);
  while (mixer?.get('fader 1') !== wanted && performance.now() - start < 2000) await turn();
  toEffect.push(performance.now() - start);
}
const [median, most] = middle(toEffect);
const [echo, echoMost] = middle(
  await echoes(writeOsc({ address: '/mixer/channel/1/level', args: [{ type: 'f', value: -6 }] }), moves),
);
tell(
  `from a movement to its effect at the mixer, ${moves} times`,
  `median ${median.toFixed(2)} ms, 95th ${most.toFixed(2)} ms; a bare UDP echo of the same bytes ${echo.toFixed(2)} and ${echoMost.toFixed(2)} ms`,
  'median under 10 ms',
  median < 10,
);

// a thousand movements a second on eight faders, for two seconds
const start = performance.now();
let sent = 0;
while (performance.now() - start < 2000) {
  const due = Math.floor(performance.now() - start);
  for (; sent < due; sent += 1)
    await move([{ control: `fader-${(sent % 8) + 1}`, part: 'whole', value: (sent * 7) % 128 }]);
  await turn();
}
const last = Array.from({ length: 8 }, (_, n) => 10 + n * 13);
await move(last.map((value, n) => ({ control: `fader-${n + 1}`, part: 'whole' as const, value })));
await new Promise((done) => setTimeout(done, 1000));
const ends = await Promise.all(
  last.map(async (value, n) => [parseFloat((await channel(n + 1)) ?? ''), Number(levelOf(value))] as const),
);
const lost = ends.filter(([is, wanted]) => Math.abs(is - wanted) > 0.01).length;
tell(`${sent} movements in 2 s on eight faders`, `${8 - lost} of 8 end where they were left`, 'all', lost === 0);
bench.stop();

/** A running order of so many cues over the demo's own targets. */
function withCues(base: Show, count: number): Show {
  const list = Object.values(base.cues);
  const rows = Array.from({ length: count }, (_, n): core.Cue => {
    const like = list[n % list.length];
    if (!like) throw new Error('no cue');
    return { ...like, id: `long-${n}`, number: n + 1, starts: { by: 'hand' } };
  });
  return { ...base, cues: Object.fromEntries(rows.map((row) => [row.id, row])) };
}

const long = withCues(show, 500);
const whole = performance.now();
analyse(long, core.nothingSeen, 0);
const wholeMs = performance.now() - whole;
const standing = new StandingAnalysis(long, core.nothingSeen, 0);
const took: number[] = [];
let now = long;
for (let n = 0; n < 100; n += 1) {
  const began = performance.now();
  const change = cues.planMoveCue(now, `long-${(n * 37) % 500}`, (n * 91) % 500);
  if (!change) continue;
  const applied = core.applyChange(now, change);
  if (!applied.ok) throw new Error('refused');
  now = applied.show;
  const rows = change.edits.map(({ table, id }) => ({ table, id, row: now[table][id] ?? null }));
  standing.advance(rows, now.rev, core.nothingSeen, 0);
  took.push(performance.now() - began);
}
const [usual, worst] = middle(took);
tell(
  'a list of 500 cues: one moved, and findings right again',
  `median ${usual.toFixed(1)} ms, 95th ${worst.toFixed(1)} ms; worked out whole ${wholeMs.toFixed(0)} ms`,
  '95th under 100 ms',
  worst < 100,
);
showLines();
process.exit();
