// npm run measure -- hands: eight faders under eight fingers, and a list of 500 cues, in the browser.
import { randomUUID } from 'node:crypto';
import { chromium, type CDPSession, type Page } from '@playwright/test';
import { browserPath } from './browser.mjs';
import { cues, show as core, type contract, type Show } from '@deep-patch/core';
import { measureLines } from './measure-lines.ts';
import { served } from './served.ts';

const server = await served();
// whatever fails here, the server does not outlive it
process.on('exit', () => server.kill());
const showId = 'harbour-finals';
const api = `${server.base}/api`;
const json = { 'content-type': 'application/json' };
const read = async <T>(path: string) => (await (await fetch(api + path)).json()) as T;
const post = async (path: string, body: object) => {
  const answer = await fetch(api + path, { method: 'POST', headers: json, body: JSON.stringify(body) });
  if (!answer.ok) throw new Error(await answer.text());
};
const browser = await chromium.launch({
  executablePath: browserPath,
  args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking', '--disable-component-update'],
});
const context = await browser.newContext({ viewport: { width: 1280, height: 800 }, hasTouch: true });
const page = await context.newPage();
const { tell, show: showLines } = measureLines();
const wait = (ms: number) => new Promise<void>((done) => setTimeout(done, ms));
const at = (values: readonly number[], share: number) =>
  [...values].sort((a, b) => a - b)[Math.min(values.length - 1, Math.floor(values.length * share))] ?? 0;

/** Notes the time between every two frames from here on, until it is taken. */
const watchFrames = (tab: Page) =>
  tab.evaluate(() => {
    const state = window as unknown as { frames: number[]; watching: boolean };
    Object.assign(state, { frames: [], watching: true });
    let last = performance.now();
    const note = (now: number) => {
      state.frames.push(now - last);
      last = now;
      if (state.watching) requestAnimationFrame(note);
    };
    requestAnimationFrame(note);
  });
const takeFrames = (tab: Page) =>
  tab.evaluate(() => {
    const state = window as unknown as { frames: number[]; watching: boolean };
    state.watching = false;
    return state.frames.slice(1);
  });

interface Finger {
  readonly x: number;
  readonly top: number;
  readonly height: number;
}
const place = ({ x, top, height }: Finger, up: number, id: number) => ({ x, y: top + height * (1 - up), id });

/** Runs something a hundred and twenty-five times a second, without waiting for it; answers how often it did. */
async function steadily(seconds: number, run: (round: number) => Promise<unknown>): Promise<number> {
  const began = performance.now();
  const under: Promise<unknown>[] = [];
  for (let round = 0; performance.now() - began < seconds * 1000; round += 1) {
    under.push(run(round));
    await wait(Math.max(0, began + round * 8 - performance.now()));
  }
  await Promise.all(under);
  return under.length;
}

const heightAt = (round: number, n: number) => 0.5 + 0.4 * Math.sin(round / 9 + n);

/** Moves eight fingers up and down for so long; leaves each at its own height. */
async function play(touch: CDPSession, fingers: readonly Finger[], seconds: number): Promise<number> {
  const send = (type: 'touchStart' | 'touchMove' | 'touchEnd', points: ReturnType<typeof place>[]) =>
    touch.send('Input.dispatchTouchEvent', { type, touchPoints: points });
  const all = (up: (n: number) => number) => fingers.map((finger, n) => place(finger, up(n), n));
  await send(
    'touchStart',
    all(() => 0.5),
  );
  const rounds = await steadily(seconds, (round) =>
    send(
      'touchMove',
      all((n) => heightAt(round, n)),
    ),
  );
  await send('touchMove', all(leftAt));
  await send('touchEnd', []);
  return rounds * fingers.length;
}

/** The same movements from somewhere else, while the page looks on. */
async function playElsewhere(seconds: number): Promise<number> {
  const move = (up: (n: number) => number) =>
    post(`/bench/${showId}/moves`, {
      deviceId: 'faders-left',
      rev: 0,
      moves: Array.from({ length: 8 }, (_, n) => ({ control: `fader-${n + 1}`, part: 'whole', value: 127 * up(n) })),
    });
  const rounds = await steadily(seconds, (round) => move((n) => heightAt(round, n)));
  await move(leftAt);
  return rounds * 8;
}
const leftAt = (n: number) => 0.2 + n * 0.07;

async function eightFaders(path: string, what: string, isElsewhere = false): Promise<void> {
  await page.goto(`${server.base}${path}`);
  const faders = page.getByRole('slider', { name: /^Fader [1-8]\b/ });
  await faders.nth(7).waitFor();
  // what a page does once only is over
  await wait(3000);
  const fingers: Finger[] = [];
  for (const fader of await faders.all()) {
    await fader.scrollIntoViewIfNeeded();
    const box = await fader.boundingBox();
    if (box) fingers.push({ x: box.x + box.width / 2, top: box.y, height: box.height });
  }
  if (fingers.length !== 8) throw new Error(`${fingers.length} faders are on ${path}`);
  const touch = await context.newCDPSession(page);
  await watchFrames(page);
  const seconds = 5;
  const moves = await (isElsewhere ? playElsewhere(seconds) : play(touch, fingers, seconds));
  const frames = await takeFrames(page);
  await touch.detach();
  await wait(1500);
  const { panels } = await read<contract.BenchState>(`/bench/${showId}`);
  const controls = panels.find(({ deviceId }) => deviceId === 'faders-left')?.controls ?? [];
  const kept = fingers.filter((_, n) => {
    const state = controls.find(({ control }) => control === `fader-${n + 1}`);
    return Math.abs((state?.value ?? -1) - 127 * leftAt(n)) < 127 * 0.02 && state?.delivery?.outcome === 'done';
  }).length;
  const rate = (frames.length * 1000) / frames.reduce((sum, one) => sum + one, 0);
  tell(
    `${what}: ${Math.round(moves / seconds)} movements a second on eight faders`,
    `${rate.toFixed(1)} frames a second, 95th percentile ${at(frames, 0.95).toFixed(1)} ms, longest ${Math.max(...frames).toFixed(0)} ms; ${kept} of 8 end where they were left`,
    'at least 50 frames a second, all 8',
    rate >= 50 && kept === 8,
  );
}

const order = async () => cues.cuesInOrder(await read<Show>(`/shows/${showId}`)).map(({ id, name }) => `${id} ${name}`);
const sentSoFar = async () => (await read<contract.BenchState>(`/bench/${showId}`)).cueRun?.done.length ?? 0;

/** The longest stretch without a frame while something is done; it must have become another thing than it was. */
async function pause(run: () => Promise<unknown>, state: () => Promise<unknown>): Promise<number> {
  const before = JSON.stringify(await state());
  await watchFrames(page);
  await run();
  await wait(400);
  const longest = Math.max(...(await takeFrames(page)));
  if (JSON.stringify(await state()) === before) throw new Error('nothing was done');
  return longest;
}

/** A watch that notices no pause would find everything well. */
async function watchNotices(): Promise<void> {
  await watchFrames(page);
  await page.evaluate(() => {
    const end = performance.now() + 150;
    while (performance.now() < end);
  });
  await wait(100);
  const longest = Math.max(...(await takeFrames(page)));
  if (longest < 120) throw new Error(`a pause of 150 ms was seen as ${longest} ms`);
}

async function longList(): Promise<void> {
  const base = await read<Show>(`/shows/${showId}`);
  const list = core.rowsOf(base, 'cues');
  const edits = Array.from({ length: 490 }, (_, n) => {
    const { rev: _rev, ...content } = list[n % list.length] ?? ({} as core.Cue);
    return core.insertRow('cues', {
      ...content,
      id: `long-${n}`,
      name: `Long ${n}`,
      number: 100 + n,
      starts: { by: 'hand' },
    });
  });
  for (let from = 0; from < edits.length; from += 100)
    await post(`/shows/${showId}/changes`, {
      id: randomUUID(),
      author: 'author-hands-1',
      change: core.changeOf('Many cues', edits.slice(from, from + 100)),
    });
  await page.goto(`${server.base}/shows/${showId}/cues/long-0`);
  await page.getByText(/^500 in order/).waitFor();
  await wait(5000);
  const long = await read<Show>(`/shows/${showId}`);
  if (cues.cuesInOrder(long).length !== 500) throw new Error('the list is not as long as it should be');
  await watchNotices();
  const times: Record<string, number[]> = {};
  const timed = async (what: string, run: () => Promise<unknown>, state: () => Promise<unknown> = order) =>
    (times[what] ??= []).push(await pause(run, state));
  const panel = page.getByRole('complementary', { name: 'The cue' });
  const row = (name: string) => page.getByRole('row', { name: new RegExp(`\\b${name}\\b`) });
  for (let n = 0; n < 10; n += 1) {
    await timed('edited', async () => {
      await panel.getByLabel('Name', { exact: true }).fill(`Renamed ${n}`);
      await panel.getByLabel('Name', { exact: true }).press('Enter');
      await row(`Renamed ${n}`).waitFor();
    });
    await timed('moved', () => page.getByRole('grid', { name: 'Cues' }).press('Alt+ArrowDown'));
    await timed('taken back', () =>
      page
        .getByRole('button', { name: /^Take back/ })
        .first()
        .click(),
    );
    await timed('sent', () => panel.getByRole('button', { name: /^Send [\d.]/ }).click(), sentSoFar);
  }
  for (const [what, all] of Object.entries(times))
    tell(
      `a list of 500 cues: ${what}, ${all.length} times`,
      `longest pause: usual ${at(all, 0.5).toFixed(0)} ms, greatest ${Math.max(...all).toFixed(0)} ms`,
      'under 100 ms',
      Math.max(...all) < 100,
    );
}

const { devices } = await read<Show>(`/shows/${showId}`);
await post(`/bench/${showId}/power`, { deviceIds: Object.keys(devices), on: true });
await eightFaders(`/shows/${showId}/operate/faders-left`, 'eight fingers on an operator page');
await eightFaders(`/shows/${showId}/surfaces/faders-left?play=yes`, 'eight fingers in the room Surfaces');
await eightFaders(`/shows/${showId}/operate/faders-left`, 'an operator page that looks on', true);
await longList();
await browser.close();
await server.stop();
showLines();
process.exit();
