import { readFileSync } from 'node:fs';
import { expect, test } from '@playwright/test';
import { demo, newShow, pasteGear, row, takeIn, violations, watchProblems } from './steps.ts';

test('runs are written down by part of a name, moved in a cell, read from a list, and saved as one that is read again', async ({
  page,
}) => {
  const problems = watchProblems(page);
  const showId = await newShow(page, 'Runs');
  await pasteGear(page, 'item,type\nTower x 3,PTZ camera\nHub,managed switch\nBook,laptop\n');
  await takeIn(page, '5 units');
  await page.goto(`/shows/${showId}/cabling?do=add`);
  await expect(page.getByLabel('From', { exact: true })).toBeFocused();
  // as on paper: part of a name, Enter, socket, Enter
  for (const text of ['tower 1', '', 'hub', '7', '', '12x']) {
    await page.keyboard.type(text);
    await page.keyboard.press('Enter');
  }
  await expect(page.getByRole('alert')).toContainText('A length is metres');
  await page.getByLabel('Length').fill('12,5 m');
  await page.keyboard.press('Enter');
  await expect(row(page, /^Tower 1.*Hub p7 copper 12.5/)).toBeVisible();
  await page.getByRole('button', { name: 'Close', exact: true }).click();
  // the far end moves by typing into its cell
  await row(page, /^Tower 1/)
    .getByRole('gridcell')
    .nth(3)
    .dblclick();
  const cell = page.getByLabel('Its socket of Tower 1');
  await cell.fill('p3');
  await cell.press('Enter');
  await expect(row(page, /^Tower 1.*Hub p3/)).toBeVisible();
  await page.getByRole('button', { name: 'Read a list' }).click();
  const dialog = page.getByRole('dialog');
  const list = dialog.getByLabel('Paste the list here');
  await list.fill('From,Socket,To,Socket,Length\nTower 2,,Hub,p3,8\nTower 9,,Hub,,\nTower 3,,Hub,p4,far\n');
  await expect(dialog.getByRole('alert')).toContainText('Line 2, Its socket: “p3”. Hub p3 has the run to Tower 1');
  await expect(dialog.getByRole('alert')).toContainText('Line 3, From: “Tower 9”. No unit has this name');
  await expect(dialog.getByRole('alert')).toContainText('Line 4, Length: “far”');
  await list.fill('From,Socket,To,Socket,Length\nTower 2,,Hub,p2,8\nTower 3,,Hub,p4,9\n');
  await dialog.getByRole('button', { name: 'Add 2 runs' }).click();
  await expect(page.getByText('3 runs · 29.5 m copper')).toBeVisible();
  await page.getByRole('button', { name: 'View' }).click();
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Save as CSV' }).click(),
  ]);
  const saved = readFileSync(await download.path(), 'utf8');
  await row(page, /^Tower 1/).click();
  await row(page, /^Tower 3/).click({ modifiers: ['Shift'] });
  await page.getByRole('button', { name: 'Unplug 3 runs' }).click();
  await expect(page.getByText('Write down what is plugged in where')).toBeVisible();
  await page.getByRole('button', { name: 'Read a list' }).click();
  await list.fill(saved);
  await dialog.getByRole('button', { name: 'Add 3 runs' }).click();
  await expect(page.getByText('3 runs · 29.5 m copper')).toBeVisible();
  expect(problems).toEqual([]);
});

test('what each run and each unit takes down stands in order, and beside the run that is chosen', async ({ page }) => {
  const problems = watchProblems(page);
  await page.goto(`${demo}/cabling`);
  await page.getByRole('button', { name: 'If this goes' }).click();
  const list = page.getByRole('region', { name: 'If this goes' });
  await expect(list.getByRole('row').nth(1)).toContainText('Switch quay');
  expect(await violations(page)).toEqual([]);
  await page.getByLabel('Filter runs').fill('run switch quay p24');
  await list.getByRole('link', { name: /^run Switch (quay p24|booth p24)/ }).click();
  await expect(page.getByRole('complementary')).toContainText(/Without it \d+ links stop\./);
  await expect(page.getByRole('complementary')).toContainText('Camera remote → Camera 1 pan-tilt');
  expect(problems).toEqual([]);
});

test('the picture of the cabling is laid out, walked along by keys, asked for a way, and saved', async ({ page }) => {
  const problems = watchProblems(page);
  await page.goto(`${demo}/cabling`);
  await page.getByRole('button', { name: 'Picture' }).click();
  const picture = page.getByRole('application', { name: /^Picture of the cabling/ });
  await expect(picture.getByText('Switch quay', { exact: true })).toBeVisible();
  expect(await violations(page)).toEqual([]);
  await picture.focus();
  await page.keyboard.press('ArrowDown');
  await expect(page.getByText(/^Access point, boat, run 1 of \d/)).toBeVisible();
  await page.keyboard.press('ArrowRight');
  await expect(page.getByText(/^Access point, boat, run 2 of \d/)).toBeVisible();
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('ArrowUp');
  await expect(page.getByText(/^Access point, boat, run /)).toBeVisible();
  await page.getByLabel('The way from').selectOption({ label: 'Camera 3 finish line' });
  await page.getByLabel('to', { exact: true }).selectOption({ label: 'Camera remote' });
  await expect(
    page.getByText(/Camera 3 finish line port 1 → Switch quay p10, .* → Camera remote port 1/),
  ).toBeVisible();
  const [svg] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: 'SVG' }).click()]);
  const text = readFileSync(await svg.path(), 'utf8');
  expect([text.startsWith('<svg'), text.includes('>Switch quay<')]).toEqual([true, true]);
  const [png] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: 'PNG' }).click()]);
  expect(
    readFileSync(await png.path())
      .subarray(1, 4)
      .toString(),
  ).toBe('PNG');
  expect(problems).toEqual([]);
});

test('the bench is seen as the network that it is, with how each stand-in is doing', async ({ page }) => {
  const problems = watchProblems(page);
  await page.goto(`${demo}/bench`);
  await page.getByRole('button', { name: 'As the network' }).click();
  const picture = page.getByRole('application', { name: /^Picture of the cabling/ });
  await expect(picture.getByText('Recorder', { exact: true })).toBeVisible();
  await picture.getByText('Recorder', { exact: true }).click();
  await expect(page.getByRole('complementary')).toContainText('Recorder');
  await page.getByRole('button', { name: 'As cards' }).click();
  await expect(page.getByRole('link', { name: /^Recorder/ })).toBeVisible();
  expect(problems).toEqual([]);
});
