import { chmodSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { analyse, bringup, show as core, type Show } from '@deep-patch/core';
import { expect, type Page } from '@playwright/test';
import { freePort } from '../scripts/pg.mjs';
import { kill, processesOf, runStart } from '../scripts/running-start.mjs';
import { watchProblems, test } from './steps.ts';

const showId = 'harbour-finals';

async function snapshot(base: string): Promise<Show> {
  return (await (await fetch(`${base}/shows/${showId}`)).json()) as Show;
}

/** The plan's own mistakes are mended first, each by the way out that is offered: the sheet sets what is planned. */
async function mendPlan(base: string): Promise<void> {
  for (let round = 0; round < 30; round += 1) {
    const show = await snapshot(base);
    const found = analyse(show, core.nothingSeen, 0).findings.find(
      ({ grade, fixes }) => grade === 'stops' && fixes.length > 0,
    );
    const waiting = core.rowsOf(show, 'addresses').filter(({ ip, method }) => ip === null && method === 'static');
    const change = found?.fixes[0]?.change ?? (waiting.length > 0 ? placed(show) : undefined);
    if (!change) return;
    const body = JSON.stringify({ id: crypto.randomUUID(), author: 'journey-test-author', change });
    const answer = await fetch(`${base}/shows/${showId}/changes`, {
      ...{ method: 'POST', headers: { 'content-type': 'application/json' }, body },
    });
    expect([answer.status, change.label, answer.ok ? '' : await answer.text()]).toEqual([
      answer.status,
      change.label,
      '',
    ]);
  }
}

function placed(show: Show): core.Change | undefined {
  const finding = analyse(show, core.nothingSeen, 0).findings.find(({ code }) => code === 'waiting');
  return finding?.fixes[0]?.change;
}

/** Does one step as its button does it, and waits until the sheet has another one. */
async function doStep(page: Page): Promise<string | undefined> {
  const act = page.getByRole('button', {
    name: /Do it for me on the bench|Ask it on the bench|Look at both sides|^Call them /,
  });
  const over = page.getByText(/Every unit is set and confirmed|Everything that can be set/);
  await expect(act.or(over).first()).toBeVisible();
  if (await over.isVisible()) return undefined;
  const heading = page.getByRole('heading', { level: 2 });
  const title = (await heading.textContent()) ?? '';
  const isOfTwo = (await act.textContent()) === 'Look at both sides';
  await act.click();
  if (isOfTwo) await bringIntoStep(page);
  await expect(heading.getByText(title, { exact: true })).toBeHidden({ timeout: 30_000 });
  return title;
}

/** Both sides are seen; where they differ the program, or whoever is named first, overwrites the other. */
async function bringIntoStep(page: Page): Promise<void> {
  const agree = page.getByRole('button', { name: 'They agree, next step' });
  await expect(
    page
      .getByRole('table')
      .getByText(/The same on both sides|differ/)
      .first(),
  ).toBeVisible();
  if (await agree.isDisabled()) {
    const overwrite = page.getByRole('button', { name: 'Overwrite it on the bench' });
    await page.getByRole('radio').first().check();
    await expect(page.getByText(/loses the wall layout. There is no copy of it/)).toBeVisible();
    await expect(overwrite).toBeDisabled();
    await page.getByRole('button', { name: /^Save a copy of/ }).click();
    await expect(page.getByText(/A copy of .* can be loaded again/)).toBeVisible();
    await overwrite.click();
    await expect(page.getByText(/a restart loses it until it is stored/)).toBeVisible();
    await expect(agree).toBeDisabled();
    await page.getByRole('button', { name: /^Store it in/ }).click();
  }
  await agree.click();
}

test('the demo from its cases to every link at full depth, by the sheet alone, with a spare and a kill on the way', async ({
  page,
}) => {
  test.setTimeout(900_000);
  const dataDir = mkdtempSync(join(tmpdir(), 'deep-patch-bringup-'));
  chmodSync(dataDir, 0o755);
  const started = await runStart(dataDir, await freePort(), [], { BENCH_SPEED: '10' });
  try {
    const { base } = started;
    const at = `${base.replace('/api', '')}/shows/${showId}/bring-up`;
    await mendPlan(base);
    const problems = watchProblems(page);
    await page.goto(at);
    await page.getByRole('button', { name: 'Your computer', exact: true }).click();
    await page.getByLabel('Your name on the sheet').fill('Ines');
    await page.getByRole('button', { name: 'Keep it' }).click();
    await page.getByRole('button', { name: 'Your computer', exact: true }).click();
    await page.getByRole('button', { name: 'Begin anew on the bench' }).click();
    await expect(page.getByRole('dialog')).toBeHidden({ timeout: 60_000 });
    const first = bringup.bringUp(await snapshot(base));
    expect([first.changes, first.exact, first.blocked]).toEqual([first.bound, true, []]);

    const titles: string[] = [];
    for (let title = await doStep(page); title !== undefined; title = await doStep(page)) {
      titles.push(title);
      if (titles.length === 30) {
        // what was done stays done, and the sheet is at the same step again
        const next = await page.getByRole('heading', { level: 2 }).textContent();
        kill(processesOf(dataDir, started.child.pid).server);
        await expect
          .poll(
            () =>
              fetch(`${base}/health`).then(
                ({ status }) => status,
                () => 0,
              ),
            { timeout: 60_000 },
          )
          .toBe(200);
        await page.goto(at);
        await expect(page.getByRole('heading', { level: 2 })).toHaveText(next ?? '');
      }
      if (titles.length === 45 || titles.length === 60)
        await swapForSpare(base, titles.length === 45 ? 'deck-a' : 'camera-2');
    }
    expect(titles.filter((title) => title.startsWith('Name '))).toEqual(['Name Timecode source on Media server']);
    expect(titles.filter((title) => title.startsWith('Bring ')).length).toBe(3);
    expect(titles.filter((title) => title.startsWith('Set your computer to')).length).toBe(first.bound);

    await page.getByRole('button', { name: 'Cold start on the bench, and sound every link' }).click();
    const count = core.rowsOf(await snapshot(base), 'links').length;
    await expect(page.getByText(`${count} of ${count} links reached bottom`)).toBeVisible({ timeout: 120_000 });
    expect(problems).toEqual([]);
  } finally {
    started.child.kill('SIGTERM');
    await started.ended;
    rmSync(dataDir, { recursive: true, force: true });
  }
});

/** Somebody swaps a unit for a spare in the middle of it: everything that was done at the old box counts for nothing. */
async function swapForSpare(base: string, deviceId: string): Promise<void> {
  const show = await snapshot(base);
  const device = show.devices[deviceId];
  if (!device) throw new Error(`no ${deviceId}`);
  const keyed = show.keyedIn[deviceId];
  const progress = show.progress[deviceId];
  const change = core.changeOf(`Swap ${device.name}`, [
    core.updateRow('devices', device, { swaps: device.swaps + 1 }),
    ...(keyed ? [core.removeRow('keyedIn', keyed)] : []),
    ...(progress ? [core.removeRow('progress', progress)] : []),
  ]);
  const body = JSON.stringify({ id: crypto.randomUUID(), author: 'journey-test-author', change });
  const answer = await fetch(`${base}/shows/${showId}/changes`, {
    ...{ method: 'POST', headers: { 'content-type': 'application/json' }, body },
  });
  expect(answer.ok, await answer.text()).toBe(true);
}
