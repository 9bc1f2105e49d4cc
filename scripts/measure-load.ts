// npm run measure -- load [seconds] [clients]: clients who write, read and listen for ten minutes.
import { readFileSync } from 'node:fs';
import { setTimeout as sleep } from 'node:timers/promises';
import { WebSocket } from 'ws';
import { measureLines } from './measure-lines.ts';
import { served } from './served.ts';

const [seconds = 600, clients = 50] = process.argv.slice(2).map(Number);
/** Each of them does something so often, as people do who are in a hurry. */
const thinkMs = 500;
const show = 'harbour-finals';
const json = { 'content-type': 'application/json' };

const server = await served();
const base = `${server.base}/api`;
const post = (path: string, body: object) =>
  fetch(base + path, { method: 'POST', headers: json, body: JSON.stringify(body) });
await post(`/bench/${show}/power`, { deviceIds: ['laptop', 'monitor', 'camera-1'], on: true });

interface Minute {
  readonly times: number[];
  /** What each process fell back to: how far it rises between two collections is the engine's affair. */
  memory: readonly number[];
}
const minutes: Minute[] = [];
let errors = 0;
const end = Date.now() + seconds * 1000;
const slices = 10;
const sliceMs = (seconds * 1000) / slices;
const from = Date.now();
const sliceNow = (): Minute => {
  const at = Math.min(slices - 1, Math.floor((Date.now() - from) / sliceMs));
  return (minutes[at] ??= { times: [], memory: [] });
};

async function client(at: number): Promise<void> {
  const socket = new WebSocket(`${base.replace('http', 'ws')}/live`);
  socket.on('open', () => socket.send(JSON.stringify({ topic: 'join', showId: show })));
  socket.on('error', () => (errors += 1));
  const id = `load-${at}`;
  const named = (name: string) => ({
    id,
    typeId: 'tablet',
    name,
    unit: null,
    place: '',
    firmware: null,
    note: '',
  });
  let [base0, before] = [0, null as object | null];
  for (let n = 0; Date.now() < end; n += 1) {
    const start = performance.now();
    const after = named(`${at} ${n}`);
    const change = { label: 'Load', edits: [{ table: 'devices', id, base: base0, before, after }] };
    const answer = await post(`/shows/${show}/changes`, { id: `${id}-${n}`, author: `author-load-${at}`, change });
    if (answer.status === 201) base0 = ((await answer.json()) as { rev: number }).rev;
    else {
      errors += 1;
      console.log(answer.status, (await answer.text()).slice(0, 300));
    }
    // the row as the server fills it up
    before = ((await (await fetch(`${base}/shows/${show}/changes?since=${base0 - 1}`)).json()) as Saved).changes[0]
      ?.edits[0]?.after as object;
    sliceNow().times.push(performance.now() - start);
    await sleep(thinkMs);
  }
  socket.close();
}
interface Saved {
  readonly changes: readonly { readonly edits: readonly { readonly after: object }[] }[];
}

/** Resident memory of the server and its bench in megabytes. */
function memory(): readonly number[] {
  const children = (pid: string) =>
    readFileSync(`/proc/${pid}/task/${pid}/children`, 'utf8').trim().split(' ').filter(Boolean);
  const [own = ''] = children(String(server.pid));
  return [own, ...children(own)].map((pid) => {
    const [, resident = '0'] = /VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8')) ?? [];
    return Number(resident) / 1024;
  });
}

const all = Array.from({ length: clients }, (_, at) => client(at));
while (Date.now() < end - 500) {
  await sleep(Math.min(2000, sliceMs / 3));
  const slice = sliceNow();
  slice.memory = memory().map((now, process) => Math.min(now, slice.memory[process] ?? Infinity));
}
await Promise.all(all);
await server.stop();

const p95 = (times: readonly number[]) => [...times].sort((a, b) => a - b)[Math.floor(times.length * 0.95)] ?? 0;
// the first slice compiles and fills caches
const [, first, ...later] = minutes;
const firstP95 = p95(first?.times ?? []);
const worst = Math.max(...later.map(({ times }) => p95(times)));
const { tell, show: showLines } = measureLines();
const done = minutes.reduce((sum, { times }) => sum + times.length, 0);
tell(
  `${clients} clients for ${seconds} s`,
  `${done.toLocaleString('en-GB')} changes, ${errors} errors`,
  'no errors',
  errors === 0 && done > 0,
);
tell(
  'time to save and hear of it, 95th percentile',
  `${firstP95.toFixed(0)} ms at first, ${worst.toFixed(0)} ms in the slowest later tenth`,
  'flat within a quarter',
  worst <= firstP95 * 1.25,
);
for (const [at, name] of ['server', 'bench'].entries()) {
  const [early, late] = [first?.memory[at] ?? 0, later.at(-1)?.memory[at] ?? 0];
  tell(
    `memory of the ${name}`,
    `${early.toFixed(0)} MB at first, ${late.toFixed(0)} MB at the end`,
    'flat within 10 %',
    early > 0 && late <= early * 1.1,
  );
}
showLines();
