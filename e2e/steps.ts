import { createRequire } from 'node:module';
import { readFileSync } from 'node:fs';
import { test as base, expect, type Locator, type Page } from '@playwright/test';

const axeSource = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8');
interface Violation {
  readonly id: string;
  readonly impact: string;
  readonly nodes: readonly { readonly html: string }[];
}

/** What axe finds that is serious, in a line each. */
export async function violations(page: Page, only?: readonly string[]): Promise<string[]> {
  if (!(await page.evaluate(() => 'axe' in window))) await page.evaluate(axeSource);
  const found = await page.evaluate(async (rules) => {
    const { axe } = window as unknown as {
      axe: { run: (on: Node, options: object) => Promise<{ violations: Violation[] }> };
    };
    // what an open dialogue covers is out of reach
    const on = document.querySelector('dialog[open]') ?? document;
    const { violations: all } = await axe.run(on, rules ? { runOnly: rules } : {});
    return all.filter(({ impact }) => ['serious', 'critical'].includes(impact));
  }, only);
  return found.map(
    ({ id, nodes }) =>
      `${id}: ${nodes
        .slice(0, 3)
        .map(({ html }) => html.slice(0, 160))
        .join(' | ')}`,
  );
}

export const demo = '/shows/harbour-finals';

/** What a page may not do: errors, warnings and blocked content end the test. */
export function watchProblems(page: Page): string[] {
  const problems: string[] = [];
  page.on('console', (message) => {
    // an answer of 4xx or 5xx is logged by the browser itself; the tests look at what the page makes of it
    if (
      ['error', 'warning'].includes(message.type()) &&
      !/Failed to load resource|WebSocket connection/.test(message.text())
    )
      problems.push(message.text());
  });
  page.on('pageerror', (error) => problems.push(error.message));
  return problems;
}

/** Shows that the running test made. */
const own: string[] = [];

/** What a test made ends with it: a bench that still runs for nobody takes its time from the next. */
export const test = base.extend<{ leavesNothing: boolean }>({
  leavesNothing: [
    async ({ request }, use) => {
      await use(true);
      for (const showId of own.splice(0)) await request.delete(`/api/shows/${showId}`);
    },
    { auto: true },
  ],
});

/** Goes to another screen of the show that is open, as Back and Forward do: the application is not loaded again. */
export async function visit(page: Page, path: string): Promise<void> {
  const open = /^https?:\/\/[^/]+(\/shows\/[^/]+\/)/.exec(page.url())?.[1];
  const room = page.locator(`nav a[href="${open}${path.slice(open?.length).split(/[/?]/)[0]}"]`);
  const isOnRail = open !== undefined && path.startsWith(open) && (await room.count()) > 0;
  if (!isOnRail) {
    await page.goto(path);
    return;
  }
  await page.evaluate((to) => {
    history.pushState(null, '', to);
    dispatchEvent(new PopStateEvent('popstate'));
  }, path);
  await expect(room.and(page.locator('[aria-current=page]'))).toBeVisible();
}

export async function newShow(page: Page, name: string): Promise<string> {
  await page.goto('/');
  // nobody presses a button that still moves: letters that arrive late shift it between press and release
  await page.evaluate(() => document.fonts.ready);
  await page.getByRole('button', { name: 'New show' }).click();
  await page.getByRole('dialog').getByLabel('Name').fill(name);
  await page.getByRole('button', { name: 'Make the show' }).click();
  await expect(page.getByRole('heading', { name: 'Rig', level: 1 })).toBeVisible();
  const showId = /\/shows\/([^/]+)\//.exec(page.url())?.[1] ?? '';
  own.push(showId);
  return showId;
}

/** A demo of its own, for what changes it: the others look at the one that everybody shares. */
export async function ownDemo(page: Page): Promise<string> {
  const answer = await page.request.post('/api/shows/demo', { data: { key: crypto.randomUUID() } });
  expect(answer.status()).toBe(201);
  const { id } = (await answer.json()) as { id: string };
  own.push(id);
  return id;
}

export async function pasteGear(page: Page, text: string): Promise<void> {
  await page.getByRole('button', { name: 'Read a gear list' }).first().click();
  await page.getByLabel('Paste the list here').fill(text);
}

export async function takeIn(page: Page, units: string): Promise<void> {
  await page.getByRole('button', { name: `Take in ${units}` }).click();
  await expect(page.getByRole('dialog')).toBeHidden({ timeout: 30_000 });
}

/** Opens the preview of the placement and does it. */
export async function placeRest(page: Page): Promise<void> {
  await page.getByRole('button', { name: 'Place the rest' }).click();
  const dialog = page.getByRole('dialog', { name: 'Place addresses' });
  await dialog.getByRole('button', { name: /^Place / }).click();
  await expect(dialog).toBeHidden();
}

export const row = (page: Page, name: string | RegExp) => page.getByRole('row', { name });
export const well = (page: Page) => page.getByRole('complementary');

/** Gear, network and addresses of a job, as a crew sets it up from nothing. */
export async function begin(page: Page, name: string, gear: string, units: string): Promise<string> {
  const showId = await newShow(page, name);
  await furnish(page, showId, gear, units);
  return showId;
}

/** The same in a show that is there already. */
export async function furnish(page: Page, showId: string, gear: string, units: string): Promise<void> {
  await visit(page, `/shows/${showId}/rig`);
  await pasteGear(page, gear);
  await takeIn(page, units);
  await visit(page, `/shows/${showId}/addresses?do=add`);
  await page.getByLabel('Range').fill('10.70.3.0/24');
  await page.getByRole('dialog').getByRole('button', { name: 'Add network' }).click();
  await placeRest(page);
}

export async function runsOn(page: Page, showId: string, program: RegExp, computer: RegExp): Promise<void> {
  await visit(page, `/shows/${showId}/rig`);
  await row(page, program).click();
  await page.getByRole('link', { name: 'Its page' }).click();
  const choice = page.getByLabel('Runs on');
  const value = await choice.locator('option').filter({ hasText: computer }).getAttribute('value');
  await choice.selectOption(value);
  await page.getByRole('button', { name: 'Save these' }).click();
  await expect(page.getByRole('button', { name: 'Save these' })).toBeDisabled();
}

/** One controller and everything that it is to control, in one go. */
export async function link(page: Page, showId: string, controller: string, targets: readonly RegExp[]): Promise<void> {
  await visit(page, `/shows/${showId}/links?do=add`);
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('Controller', { exact: true }).selectOption({ label: controller });
  for (const target of targets) await dialog.getByRole('checkbox', { name: target }).check();
  await dialog.getByRole('button', { name: /^Add/ }).click();
  await expect(dialog).toBeHidden();
}

/** The rows of the links table; its headings are of the controllers, and named like them. */
export const linkRow = (page: Page, target: RegExp) => page.locator('[role=row][aria-selected]').and(row(page, target));

/** Makes what a link asks for, one button after the other, until nothing stops it. */
export async function takeUpOffers(page: Page): Promise<void> {
  const offer = well(page).getByRole('button', { name: /^(Plug|Cable) / });
  await expect(async () => {
    if (await offer.first().isVisible()) await offer.first().click({ timeout: 5_000 });
    await expect(well(page)).toContainText('8 of 8', { timeout: 1_000 });
  }).toPass({ timeout: 120_000 });
}

export async function cableUp(page: Page, showId: string, targets: readonly RegExp[]): Promise<void> {
  await visit(page, `/shows/${showId}/links`);
  for (const target of targets)
    for (const each of await all(linkRow(page, target))) {
      await each.click();
      await expect(each).toHaveAttribute('aria-selected', 'true');
      await takeUpOffers(page);
    }
}

export async function all(rows: Locator): Promise<Locator[]> {
  await expect(rows.first()).toBeVisible();
  return rows.all();
}

export async function powerOn(page: Page, showId: string): Promise<void> {
  await visit(page, `/shows/${showId}/bench`);
  await page.getByRole('button', { name: 'Power on' }).first().click();
  await expect(page.getByText(/(\d+) stand-ins · \1 with power/)).toBeVisible();
}
