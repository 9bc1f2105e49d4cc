import { expect } from '@playwright/test';
import { demo, newShow, pasteGear, placeRest, row, takeIn, watchProblems, well, test, visit } from './steps.ts';

test('a network knows its gateway and pool, refuses what cannot be, and units keep clear of both', async ({ page }) => {
  const problems = watchProblems(page);
  await newShow(page, 'Pools');
  await pasteGear(page, 'name,type,unit\nTablet 1,Tablet,1\nTablet 2,Tablet,2\n');
  await takeIn(page, '2 units');
  await page.getByRole('link', { name: /^Addresses/ }).click();
  await page.getByRole('button', { name: 'Add network' }).first().click();
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('Range').fill('192.168.7.44 255.255.255.240');
  await expect(dialog).toContainText('192.168.7.33 to 192.168.7.46, room for 14 units');
  await dialog.getByLabel('Lay out blocks').uncheck();
  await dialog.getByLabel('Name').fill('Tablets');
  await dialog.getByRole('button', { name: 'Add network' }).click();

  await expect(dialog).toBeHidden();
  await expect(well(page)).toContainText('No blocks.');
  await page.getByLabel('Gateway').fill('192.168.7.33');
  await expect(page.getByLabel('Gateway')).toHaveValue('192.168.7.33');
  await page.getByLabel('Automatic pool from').fill('192.168.7.36');
  await page.getByLabel('to', { exact: true }).fill('192.168.7.34');
  await page.getByLabel('VLAN').fill('5000');
  await page.getByRole('button', { name: 'Save network' }).click();
  await expect(well(page)).toContainText('The end comes before the start.');
  await expect(well(page)).toContainText('From 1 to 4094');
  await page.getByLabel('Automatic pool from').fill('192.168.7.34');
  await page.getByLabel('to', { exact: true }).fill('192.168.7.36');
  await page.getByLabel('VLAN').fill('50');
  await page.getByRole('button', { name: 'Save network' }).click();
  await expect(page.getByText('handed out automatically')).toBeVisible();
  await placeRest(page);
  await expect(row(page, /Tablet 1/)).toContainText('192.168.7.37');
  await expect(page.getByRole('button', { name: 'All placed' })).toBeDisabled();

  await row(page, /Tablet 1/).click();
  await page.getByLabel('Move to').fill('192.168.7.35');
  await page.getByRole('button', { name: 'Move', exact: true }).click();
  await expect(well(page)).toContainText('inside the automatic pool of Tablets');
  await page.getByRole('button', { name: 'Take the address back' }).click();
  await expect(row(page, /Tablet 1/)).toContainText('not placed yet');
  expect(problems).toEqual([]);
});

test('networks that cannot be are explained, with what was probably meant', async ({ page }) => {
  await newShow(page, 'Typed wrong');
  await page.getByRole('link', { name: /^Addresses/ }).click();
  await page.getByRole('button', { name: 'Add network' }).first().click();
  const dialog = page.getByRole('dialog');
  for (const [typed, told] of [
    ['', 'Type an address'],
    ['10.61.20', 'An address has four numbers; this has fewer.'],
    ['10.61.20.0', 'Say how large it is'],
    ['10.61.20.0/33', 'A prefix goes from /1 to /32.'],
    ['10.61.20.0 255.255.0.255', 'This is no mask'],
    ['10.61.20.0/31', 'from /8 to /30'],
    ['300.1.1.0/24', 'Each number goes from 0 to 255.'],
  ] as const) {
    await dialog.getByLabel('Range').fill(typed);
    await dialog.getByRole('button', { name: 'Add network' }).click();
    await expect(dialog).toContainText(told);
  }
  await dialog.getByLabel('Range').fill('10.61.20.0 255.255.0.255');
  await dialog.getByRole('button', { name: 'Add network' }).click();
  await dialog.getByRole('button', { name: 'Use 10.61.20.0/16' }).click();
  await expect(dialog).toContainText('room for 65534 units');
});

test('a network is removed with what belongs to it, and comes back whole', async ({ page }) => {
  const showId = await newShow(page, 'Gone and back');
  await pasteGear(page, 'name,type,unit\nTablet 1,Tablet,1\n');
  await takeIn(page, '1 unit');
  await visit(page, `/shows/${showId}/addresses?do=add`);
  await page.getByLabel('Range').fill('10.2.0.0/24');
  await page.getByRole('dialog').getByRole('button', { name: 'Add network' }).click();
  await placeRest(page);
  await page.getByRole('button', { name: 'Remove Control' }).click();
  await expect(page.getByText('Make the first network')).toBeVisible();
  await page.getByRole('button', { name: 'Take back: Remove network Control' }).click();
  await expect(row(page, /Tablet 1/)).toContainText('10.2.0.');
});

test('the ruler shows the clash, and choosing a unit there opens it', async ({ page }) => {
  await page.goto(`${demo}/addresses/control`);
  const ruler = page.getByRole('group', { name: 'Ruler of Control' });
  await expect(
    ruler.locator('title', { hasText: '10.61.20.33 Camera 3 finish line and Camera 5 shoulder' }),
  ).toHaveCount(1);
  await ruler
    .locator('g', { has: page.locator('title', { hasText: '10.61.20.61 Lighting desk' }) })
    .last()
    .click();
  await expect(well(page)).toContainText('Lighting desk');
  await page.goto(`${demo}/addresses/led`);
  await expect(page.getByText('factory address of gear on this job, kept free')).toBeVisible();
});
