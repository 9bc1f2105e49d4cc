import { createRequire } from 'node:module';
import { readFileSync } from 'node:fs';
import { expect, type Page } from '@playwright/test';

const axeSource = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8');
interface Violation {
  readonly id: string;
  readonly impact: string;
  readonly nodes: readonly { readonly html: string }[];
}

/** What axe finds that is serious, in a line each. */
export async function violations(page: Page, only?: readonly string[]): Promise<string[]> {
  await page.evaluate(axeSource);
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

export async function newShow(page: Page, name: string): Promise<string> {
  await page.goto('/');
  await page.getByRole('button', { name: 'New show' }).click();
  await page.getByRole('dialog').getByLabel('Name').fill(name);
  await page.getByRole('button', { name: 'Make the show' }).click();
  await expect(page.getByRole('heading', { name: 'Rig', level: 1 })).toBeVisible();
  return /\/shows\/([^/]+)\//.exec(page.url())?.[1] ?? '';
}

/** A demo of its own, for what changes it: the others look at the one that everybody shares. */
export async function ownDemo(page: Page): Promise<string> {
  const answer = await page.request.post('/api/shows/demo', { data: { key: crypto.randomUUID() } });
  expect(answer.status()).toBe(201);
  return ((await answer.json()) as { id: string }).id;
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
