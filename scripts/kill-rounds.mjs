// Does what was acknowledged survive, whatever is killed and whenever? Clients write, something is killed with -9, and
// after the next start every change that was answered is there once, and what was not is sent again under its id.
import { setTimeout as sleep } from 'node:timers/promises';
import { freePort } from './pg.mjs';
import { kill, processesOf, runStart } from './running-start.mjs';

const writers = 6;
const show = 'harbour-finals';
/** What is killed, round by round; `launcher` alone leaves its children to end by themselves. */
const victims = [['launcher', 'server', 'bench', 'database'], ['database'], ['server'], ['launcher']];

const json = { 'content-type': 'application/json' };
const unit = (id) => ({
  label: `Add ${id}`,
  edits: [
    {
      table: 'devices',
      id,
      base: 0,
      before: null,
      after: { id, typeId: 'tablet', name: id, unit: null, place: '', firmware: null, note: '' },
    },
  ],
});

/** Sends one change; true when it was acknowledged, undefined when no answer tells. */
async function send(base, id) {
  const body = JSON.stringify({ id, author: 'author-kill-1', change: unit(id) });
  try {
    const answer = await fetch(`${base}/shows/${show}/changes`, { method: 'POST', headers: json, body });
    if (answer.status === 201) return true;
    if (answer.status < 500) throw new TypeError(`${answer.status} ${await answer.text()}`);
    return undefined;
  } catch (error) {
    if (error instanceof TypeError && /^\d/.test(error.message)) throw error;
    return undefined;
  }
}

/**
 * Runs rounds from `seed` in a data folder. Answers how many changes were acknowledged, and the ids that were lost or
 * written twice.
 */
export async function killRounds({ rounds, dataDir, seed, say }) {
  const port = await freePort();
  const acknowledged = new Set();
  const open = new Set();
  let dice = seed;
  const next = (below) => {
    dice = (Math.imul(dice, 1_664_525) + 1_013_904_223) >>> 0;
    return Math.floor((dice / 2 ** 32) * below);
  };
  const faults = { lost: [], twice: [] };
  let run = await runStart(dataDir, port);
  try {
    const { rev: first } = await read(run.base);
    for (let round = 0; round < rounds; round += 1) {
      const victim = victims[round % victims.length];
      const end = startWriters(run.base, round, open, acknowledged);
      await sleep(200 + next(1200));
      const found = processesOf(dataDir, run.child.pid);
      kill(...victim.map((name) => found[name]));
      await sleep(300);
      await end();
      if (victim.includes('launcher')) {
        await run.ended;
        run = await startAgain(dataDir, port);
      } else await answers(run.base);
      for (const id of open) if (await send(run.base, id)) acknowledged.add(id);
      open.clear();
      await check(run.base, first, acknowledged, faults);
      say?.(`round ${round + 1} of ${rounds}: killed ${victim.join(', ')}; ${acknowledged.size} acknowledged`);
    }
  } finally {
    run.child.kill('SIGTERM');
    await run.ended;
  }
  return { acknowledged: acknowledged.size, ...faults };
}

/** Clients that write one change after the other until they are told to end. */
function startWriters(base, round, open, acknowledged) {
  let writing = true;
  const write = async (writer) => {
    for (let n = 0; writing; n += 1) {
      const id = `r${round}-w${writer}-${n}`;
      open.add(id);
      if (await send(base, id)) {
        open.delete(id);
        acknowledged.add(id);
      } else await sleep(20);
    }
  };
  const all = Array.from({ length: writers }, (_, writer) => write(writer));
  return async () => {
    writing = false;
    await Promise.all(all);
  };
}

/** What its parent left behind may take a moment to let go of the port. */
async function startAgain(dataDir, port) {
  for (let attempt = 0; ; attempt += 1) {
    const run = await runStart(dataDir, port);
    if (run.child.exitCode === null) return run;
    if (attempt === 20) throw new Error(run.said());
    await sleep(250);
  }
}

async function answers(base) {
  const health = () =>
    fetch(`${base}/health`).then(
      ({ ok }) => ok,
      () => false,
    );
  for (let attempt = 0; !(await health()); attempt += 1) {
    if (attempt === 300) throw new Error('it did not come back within 30 s');
    await sleep(100);
  }
}

const read = async (base) => (await fetch(`${base}/shows/${show}`)).json();

async function check(base, first, acknowledged, faults) {
  const { devices, rev } = await read(base);
  for (const id of acknowledged) if (!devices[id]) faults.lost.push(id);
  // a change that was done twice would have a revision of its own
  const added = Object.keys(devices).filter((id) => /^r\d+-w/.test(id));
  if (rev - first !== added.length) faults.twice.push(`${rev - first} changes, ${added.length} units`);
}
