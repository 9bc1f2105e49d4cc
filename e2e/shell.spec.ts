import { expect } from '@playwright/test';
import { demo, newShow, row, watchProblems, test } from './steps.ts';

test('shows are made and erased, and their names may be anything', async ({ page }) => {
  await newShow(page, 'Größe & <b>Wind</b>');
  await page.getByRole('link', { name: /Deep Patch/ }).click();
  await expect(page.getByRole('link', { name: /^Größe & <b>Wind<\/b>/ })).toBeVisible();
  await page.getByRole('button', { name: 'Remove Größe & <b>Wind</b>' }).click();
  await expect(page.getByRole('dialog')).toContainText('0 devices');
  await page.getByRole('button', { name: 'Keep it' }).click();
  await page.getByRole('button', { name: 'Remove Größe & <b>Wind</b>' }).click();
  await page.getByRole('button', { name: /^Erase/ }).click();
  await expect(page.getByRole('link', { name: /Größe/ })).toHaveCount(0);
});

test('the chosen theme stays, fonts ship with the application, and nothing is asked from elsewhere', async ({
  page,
}) => {
  const problems = watchProblems(page);
  const asked: string[] = [];
  page.on('request', (request) => asked.push(new URL(request.url()).host));
  await page.goto(`${demo}/rig`);
  await page.getByRole('button', { name: 'Chart: for daylight' }).click();
  await expect(page.locator('html')).toHaveAttribute('data-theme', 'chart');
  await page.reload();
  await expect(page.locator('html')).toHaveAttribute('data-theme', 'chart');
  await expect(row(page, /Caller gateway/)).toBeVisible();
  const fonts = await page.evaluate(async () => {
    await document.fonts.ready;
    return [...document.fonts].filter(({ status }) => status === 'loaded').map(({ family }) => family);
  });
  expect(fonts.join()).toContain('Atkinson Hyperlegible Next Variable');
  expect(fonts.join()).toContain('Atkinson Hyperlegible Mono Variable');
  expect([...new Set(asked)]).toEqual([new URL(page.url()).host]);
  expect(problems).toEqual([]);
});

test('the command box finds by part of a name, by last figures and by what somebody wants to do', async ({ page }) => {
  await page.goto(`${demo}/rig`);
  await expect(row(page, /Caller gateway/)).toBeVisible();
  const find = async (typed: string) => {
    await page.keyboard.press('Control+k');
    await page.getByPlaceholder('Find a device').fill(typed);
    return page.getByRole('dialog', { name: 'Find' }).getByRole('option');
  };
  await expect((await find('finish')).first()).toContainText('Camera 3 finish line');
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/rig\/camera-3$/);
  await expect((await find('.61')).filter({ hasText: 'Lighting desk' })).toHaveCount(1);
  await page.keyboard.press('Escape');
  await expect((await find('host media')).filter({ hasText: 'Show host to Media server' })).toHaveCount(1);
  await page.getByPlaceholder('Find a device').fill('zzzz');
  await expect(page.getByText('Nothing has that.')).toBeVisible();
  await page.keyboard.press('Escape');
  await find('night and chart');
  await page.keyboard.press('Enter');
  await expect(page.locator('html')).toHaveAttribute('data-theme', 'chart');
});

test('a server that cannot be read is told apart from a show that is gone', async ({ page }) => {
  await page.goto('/shows/never-was/rig');
  await expect(page.getByText('No show has this id')).toBeVisible();
  await page.getByRole('button', { name: 'All shows' }).click();
  await expect(page.getByRole('heading', { name: 'Shows' })).toBeVisible();
  let broken = true;
  await page.route('**/api/shows/harbour-finals', (route) =>
    broken ? route.fulfill({ status: 500, body: 'oops' }) : route.continue(),
  );
  await page.locator(`a[href="${demo}/rig"]`).click();
  await expect(page.getByText('The answer could not be read')).toBeVisible();
  broken = false;
  await page.getByRole('button', { name: 'Try again' }).click();
  await expect(row(page, /Caller gateway/)).toBeVisible();
});

test('a small screen shows the sounding that is carried to the rack', async ({ page }) => {
  await page.setViewportSize({ width: 400, height: 800 });
  await page.goto(`${demo}/links/host-to-callers`);
  await expect(page.getByRole('button', { name: 'Send to 9310' })).toBeVisible();
  const wide = await page.evaluate(() => document.documentElement.scrollWidth > window.innerWidth);
  expect(wide).toBe(false);
});
