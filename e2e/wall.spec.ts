import { expect, test, type Page } from '@playwright/test';
import { begin, violations, watchProblems } from './steps.ts';

const side = (page: Page) => page.getByRole('complementary', { name: 'What is right, and what is not' });
const fill = async (page: Page, label: string, value: string) => {
  await page.getByLabel(label, { exact: true }).fill(value);
  await page.getByLabel(label, { exact: true }).press('Enter');
};

test('a wall from how many panels it has to a picture that is right, one layer before the next', async ({ page }) => {
  const problems = watchProblems(page);
  const showId = await begin(page, 'Pier', 'item,type\nBox,LED processor\nHub,managed switch\n', '2 units');
  await page.goto(`/shows/${showId}/wall`);
  await expect(page.getByText('No wall yet.')).toBeVisible();
  await page.getByRole('button', { name: 'New wall' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('Name').fill('Pier wall');
  await dialog.getByLabel('Panels across').fill('0');
  await expect(dialog.getByText('1 to 500')).toBeVisible();
  await dialog.getByLabel('Panels across').fill('8');
  await dialog.getByLabel('Panels down').fill('6');
  await dialog.getByLabel('Driven by').selectOption('Box');
  await dialog.getByRole('button', { name: 'Make the wall' }).click();
  await expect(page.getByText('Pier wall · 48 panels · 1.23 Mpx · 408 kg')).toBeVisible();

  // wiring: divided and strung by what is offered
  await side(page).getByRole('button', { name: 'Divide it among 2 outputs' }).click();
  await page.getByRole('button', { name: 'Cheapest strings' }).click();
  await expect(side(page).getByRole('listitem').filter({ hasText: 'Wiring' })).toContainText('as planned');
  await page.getByLabel('Columns of each output, from the left').fill('5, 2');
  await expect(page.getByText('7 of 8 columns')).toBeVisible();
  await page.getByLabel('Columns of each output, from the left').fill('4, 4');

  // a string drawn by keys, over panels of another output: it is told, and taken back by its button
  await page.getByLabel('Draw the string of').selectOption('output 2');
  await page.getByRole('application', { name: /Pier wall, 8 by 6 panels/ }).focus();
  for (const key of ['ArrowRight', 'Enter', 'ArrowDown', 'Enter']) await page.keyboard.press(key);
  await expect(page.getByText('2 of 24')).toBeVisible();
  await page.getByRole('button', { name: 'Keep the string' }).click();
  await expect(side(page).getByText('leaves out 24 of its panels and has 2 of others')).toBeVisible();
  await side(page).getByRole('button', { name: 'Take the cheapest string' }).click();
  await expect(side(page).getByRole('listitem').filter({ hasText: 'Wiring' })).toContainText('as planned');

  // receivers: one string ends too early, and its end is dark in what is seen
  await fill(page, 'Panels on output 1', '24');
  await fill(page, 'Panels on output 2', '20');
  await expect(side(page).getByText('Output 2 of Pier wall counts 20 of 24 panels.')).toBeVisible();
  await expect(page.getByText('seen: otherwise')).toBeVisible();
  await fill(page, 'Panels on output 2', '24');
  await expect(page.getByText('seen: as it is sent')).toBeVisible();

  // the set-up program: a profile for another wall, the scan of the wall before, and numbers from behind
  await page.getByRole('button', { name: 'As on the panel and the wall' }).click();
  await page.getByLabel('Scan').selectOption('1/8');
  await page.getByLabel('Parts are numbered').selectOption('as somebody behind the wall sees them');
  await fill(page, 'Width', '2048');
  await expect(page.getByText('seen: otherwise')).toBeVisible();
  for (const name of ['Set it to 1280', 'Set it to 16', 'Number them from the front'])
    await side(page).getByRole('button', { name }).click();
  await expect(page.getByText('seen: as it is sent')).toBeVisible();
  await page.getByLabel('Stored in the receivers').click();
  await expect(page.getByLabel('Stored in the receivers')).toBeChecked();

  // a profile is read whole or not at all
  await page.getByLabel('Read off the').selectOption('Profile of the panels');
  const profile = page.getByLabel('Read a file');
  const file = (text: string) => ({ name: 'tile.json', mimeType: 'application/json', buffer: Buffer.from(text) });
  const known = { format: 'deep-patch-panel-profile', edition: 1, name: 'Tile' };
  await profile.setInputFiles(file('Dear crew'));
  await expect(page.getByRole('alert')).toContainText('It is no JSON');
  await profile.setInputFiles(file(JSON.stringify({ ...known, width: -1, colours: 'XYZ' })));
  await expect(page.getByRole('alert').getByRole('listitem')).toHaveCount(2);
  await profile.setInputFiles(file(JSON.stringify({ ...known, width: 2048, scan: 16 })));
  await expect(side(page).getByRole('row', { name: /width 1280 1280 2048/ })).toBeVisible();

  // the player
  await page.getByLabel('Read off the').selectOption('Player');
  await page.getByRole('button', { name: 'As on the panel and the wall' }).click();
  await page.getByLabel('Colour order').selectOption('RGB');
  await side(page).getByRole('button', { name: 'Set it to GRB' }).click();
  for (const layer of ['Wiring', 'Receivers', 'Set-up program', 'Stored', 'Player'])
    await expect(side(page).getByRole('listitem').filter({ hasText: layer })).toContainText('as planned');
  const coming = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save as PNG' }).click();
  expect((await coming).suggestedFilename()).toBe('Pier wall orientation 1280x960.png');
  expect(await violations(page)).toEqual([]);
  expect(problems).toEqual([]);
});

test('the order of a wall is traced by what is seen, and what it looks like leads to the cause', async ({ page }) => {
  const problems = watchProblems(page);
  await page.goto('/shows/harbour-finals/wall?do=trace');
  const dialog = page.getByRole('dialog');
  const answer = async (text: string | RegExp, name: string) => {
    await expect(dialog.getByText(text)).toBeVisible();
    await dialog.getByRole('button', { name, exact: true }).click();
  };
  await expect(dialog.getByText('ways are left')).toBeVisible();
  await answer('Send one point at the left', 'right, row 79');
  await answer('Which light comes first', 'red, then green');
  await answer('Let the first receiver blink', 'place 4');
  await expect(dialog).toContainText(
    'scan 1/16, colours GRB, data from the right, and its receivers are numbered from behind.',
  );
  await dialog.getByRole('button', { name: 'Take it back' }).last().click();
  await answer('Let the first receiver blink', 'place 1');
  await expect(dialog).toContainText('scan 1/16, colours GRB, data from the right.');
  expect(await violations(page)).toEqual([]);
  await page.goto('/shows/harbour-finals/wall?do=looks');
  await expect(dialog.getByRole('button', { name: /the scan is really 1\/8/ })).toBeVisible();
  await expect(dialog.getByRole('button', { name: /receivers are numbered from behind/ })).toBeVisible();
  expect(await violations(page)).toEqual([]);
  expect(problems).toEqual([]);
});
