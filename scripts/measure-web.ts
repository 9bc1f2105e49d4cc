// npm run measure -- web: a show of 5,000 units in the browser: opening it, an edit, scrolling; what a running bench costs.
import { randomUUID } from 'node:crypto';
import { chromium, type Page } from '@playwright/test';
import { browserPath } from './browser.mjs';
import { addressing, rig, type Show } from '@deep-patch/core';
import { measureLines } from './measure-lines.ts';
import { served } from './served.ts';

const units = 5000;
const server = await served();
const api = `${server.base}/api`;
const json = { 'content-type': 'application/json' };
const post = async (path: string, body: object) => {
  const answer = await fetch(api + path, { method: 'POST', headers: json, body: JSON.stringify(body) });
  if (!answer.ok) throw new Error(await answer.text());
  return (await answer.json()) as { id: string };
};

const { id: showId } = await post('/shows', { name: 'Large' });
const show = (await (await fetch(`${api}/shows/${showId}`)).json()) as Show;
const cells = [
  ['name', 'type', 'unit', 'place'],
  ...Array.from({ length: units }, (_, at) => [
    `Camera ${at + 1}`,
    'Pan-tilt camera',
    String((at % 9999) + 1),
    `Deck ${Math.floor(at / 500) + 1}`,
  ]),
];
const change = addressing.planTakeIn(show, rig.readGearList(cells, show).rows, randomUUID);
await post(`/shows/${showId}/imports`, { id: randomUUID(), author: 'author-web-1', change });

// whatever fails here, the server does not outlive it
process.on('exit', () => server.kill());
const browser = await chromium.launch({
  executablePath: browserPath,
  args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking', '--disable-component-update'],
});
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });

/** Milliseconds from the start of the page to its first row. */
async function opening(): Promise<number> {
  await page.goto(`${server.base}/shows/${showId}/rig`);
  await page
    .getByRole('row', { name: /Camera 1\b/ })
    .first()
    .waitFor();
  return page.evaluate(() => performance.now());
}

/** Milliseconds from the press to the new text in the table. */
async function edit(name: string): Promise<number> {
  // the form has taken in what was saved before
  await page.waitForTimeout(500);
  await page.getByRole('complementary').getByLabel('Name', { exact: true }).fill(name);
  await page.evaluate((text) => {
    const state = window as unknown as { pressed: number; shown: number };
    state.shown = 0;
    addEventListener('click', () => (state.pressed = performance.now()), { capture: true, once: true });
    const look = () => {
      const cellsNow = [...document.querySelectorAll('[role=row]')];
      if (cellsNow.some((row) => row.textContent.includes(text))) state.shown = performance.now();
      else requestAnimationFrame(look);
    };
    requestAnimationFrame(look);
  }, name);
  await page.getByRole('button', { name: 'Save', exact: true }).click({ timeout: 10_000 });
  await page.waitForFunction(() => (window as unknown as { shown: number }).shown > 0);
  return page.evaluate(() => {
    const { pressed, shown } = window as unknown as { pressed: number; shown: number };
    return shown - pressed;
  });
}

/** Times between two frames while the table is scrolled from end to end. */
function scrolling(tab: Page): Promise<number[]> {
  return tab.evaluate(async () => {
    const all = [...document.querySelectorAll('*')];
    const table = all.reduce((best, one) => (one.scrollHeight > best.scrollHeight ? one : best));
    const frames: number[] = [];
    let last = performance.now();
    for (let at = 0; at < 240; at += 1) {
      table.scrollTop += 320;
      await new Promise(requestAnimationFrame);
      const now = performance.now();
      frames.push(now - last);
      last = now;
    }
    return frames;
  });
}
/** How often React draws anything a second on the links of the demo, everything on its bench switched on. */
async function drawings(): Promise<number> {
  const demo = 'harbour-finals';
  const { devices } = (await (await fetch(`${api}/shows/${demo}`)).json()) as Show;
  await post(`/bench/${demo}/power`, { deviceIds: Object.keys(devices), on: true });
  const tab = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await tab.addInitScript(() => {
    const counter = { commits: 0 };
    Object.assign(window, {
      counter,
      __REACT_DEVTOOLS_GLOBAL_HOOK__: {
        supportsFiber: true,
        renderers: new Map(),
        inject: () => 1,
        onCommitFiberRoot: () => (counter.commits += 1),
        onCommitFiberUnmount: () => undefined,
      },
    });
  });
  await tab.goto(`${server.base}/shows/${demo}/links`);
  await tab.getByRole('row').nth(3).waitFor();
  await tab.waitForTimeout(5000);
  const count = () => tab.evaluate(() => (window as unknown as { counter: { commits: number } }).counter.commits);
  const before = await count();
  if (before === 0) throw new Error('React tells nothing of what it draws');
  const seconds = 20;
  await tab.waitForTimeout(seconds * 1000);
  const after = await count();
  await tab.close();
  return (after - before) / seconds;
}
const share = (values: readonly number[], part: number) =>
  [...values].sort((a, b) => a - b)[Math.min(values.length - 1, Math.floor(values.length * part))] ?? 0;

await opening();
const opened: number[] = [];
for (let round = 0; round < 5; round += 1) opened.push(await opening());
const frames = (await scrolling(page)).slice(5);
await page.evaluate(() => location.reload());
await page
  .getByRole('row', { name: /Camera 1\b/ })
  .first()
  .click();
await page.getByText('working it out').waitFor({ state: 'detached' });
const edits: number[] = [];
for (let round = 0; round < 8; round += 1) edits.push(await edit(`Camera 1 ${'abcdefgh'[round] ?? ''}`));
const drawn = await drawings();
await browser.close();
await server.stop();

const { tell, show: showLines } = measureLines();
const ms = (value: number) => `${value.toFixed(0)} ms`;
const name = `${units.toLocaleString('en-GB')} units in the browser`;
tell(`${name}: opening`, ms(share(opened, 0.5)), 'under 1 s', share(opened, 0.5) < 1000);
tell(
  `${name}: an edit stands on screen`,
  `${ms(share(edits, 0.5))}, slowest ${ms(Math.max(...edits))}`,
  'under 100 ms',
  share(edits, 0.5) < 100,
);
tell(
  `${name}: scrolling, between frames`,
  `95th percentile ${ms(share(frames, 0.95))}, worst ${ms(Math.max(...frames))}`,
  '95th percentile under 33 ms',
  share(frames, 0.95) < 33,
);
tell('drawings a second on Links while the bench runs', drawn.toFixed(1), 'at most 5', drawn <= 5);
showLines();
process.exit();
