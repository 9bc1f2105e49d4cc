import { expect, type Page } from '@playwright/test';
import { begin, row, violations, watchProblems, test, visit } from './steps.ts';

const side = (page: Page) => page.getByRole('complementary', { name: 'What is right, and what is not' });
const fill = async (page: Page, label: string, value: string) => {
  await page.getByLabel(label, { exact: true }).fill(value);
  await page.getByLabel(label, { exact: true }).press('Enter');
};

test('a wall from how many panels it has to a picture that is right, one layer before the next', async ({ page }) => {
  const problems = watchProblems(page);
  const showId = await begin(page, 'Pier', 'item,type\nBox,LED processor\nHub,managed switch\n', '2 units');
  await visit(page, `/shows/${showId}/wall`);
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
  const say = async (words: Readonly<Record<string, string>>) => {
    for (const [label, word] of Object.entries(words)) await dialog.getByLabel(label).selectOption({ label: word });
    await dialog.getByRole('button', { name: 'That is what I see' }).click();
  };
  await expect(dialog.getByText(/\d{3} ways are left/)).toBeVisible();
  await expect(dialog.getByText('Which light is in each corner of the wall?')).toBeVisible();
  await say({ 'top left': 'red', 'top right': 'green', 'bottom left': 'blue', 'bottom right': 'mixed' });
  const numbers = dialog.getByText('Which numbers are seen?');
  const point = dialog.getByText('look at the first module that shows it. On several');
  await expect(numbers.or(point)).toBeVisible();
  if (await point.isVisible()) {
    await say({ colour: 'red', side: 'left', row: '79', 'receivers that show it, of the first six': '4' });
    await expect(numbers).toBeVisible();
  }
  await say({ 'from the left, row by row': '1, 3, 2, 4' });
  await expect(dialog).toContainText('receivers hang in the order 1, 3, 2, 4');
  await dialog.getByRole('button', { name: 'Take it back' }).last().click();
  await expect(dialog.getByText('ways are left.')).toBeVisible();
  expect(await violations(page)).toEqual([]);
  await page.goto('/shows/harbour-finals/wall?do=looks');
  await dialog.getByRole('button', { name: 'its scan is 1/8' }).click();
  await expect(dialog.getByText('Then its scan is 1/8.')).toBeVisible();
  await dialog.getByRole('button', { name: 'nothing comes from output 3' }).click();
  await expect(dialog.getByText('Look at the cable from output 3, and at its power.')).toBeVisible();
  expect(await violations(page)).toEqual([]);
  expect(problems).toEqual([]);
});

test('from dark to right: receivers interchanged, a wrong scan, a profile loaded last, and the player on the other interface', async ({
  page,
}) => {
  const problems = watchProblems(page);
  const gear = 'item,type\nBox,LED processor\nPlayer,media server\nCard,LED receiving card\nHub,managed switch\n';
  const showId = await begin(page, 'Stage', gear, '4 units');
  const plug = async (other: string, socket: string) => {
    await page.getByLabel('Plug into').selectOption({ label: other });
    await page.getByLabel('Socket', { exact: true }).selectOption({ label: socket });
    await page.getByRole('button', { name: 'Plug in' }).click();
    await expect(page.getByRole('button', { name: new RegExp(`^Unplug .* to ${other} ${socket}`) })).toBeVisible();
  };
  await visit(page, `/shows/${showId}/rig`);
  await row(page, /^Player/).click();
  await plug('Hub', 'p5');
  await plug('Card', 'data 1');

  await visit(page, `/shows/${showId}/wall?do=add`);
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('Name').fill('Stage wall');
  await dialog.getByLabel('Panels across').fill('8');
  await dialog.getByLabel('Panels down').fill('6');
  await dialog.getByLabel('Driven by').selectOption('Box');
  await dialog.getByRole('button', { name: 'Make the wall' }).click();
  await side(page).getByRole('button', { name: 'Divide it among 2 outputs' }).click();
  await page.getByRole('button', { name: 'Cheapest strings' }).click();
  const layer = (name: string) => side(page).getByRole('listitem').filter({ hasText: name });
  await expect(layer('Wiring')).toContainText('as planned');

  // as somebody left it: the scan of another wall, a profile over everything, the player on its house network
  const whole = page.getByRole('button', { name: 'As on the panel and the wall' });
  await whole.click();
  await page.getByLabel('Scan').selectOption('1/8');
  await page.getByLabel('Read off the').selectOption('Profile of the panels');
  await fill(page, 'Width', '2048');
  await page.getByLabel('Read off the').selectOption('Player');
  await whole.click();
  await page.getByLabel('Read off the').selectOption('Set-up program');
  await page.getByRole('button', { name: 'Load the profile over it' }).click();
  const output = page.getByRole('region', { name: 'Output of the player' });
  await output.getByLabel('It plays from').selectOption('Player');
  await output.getByLabel('It sends').selectOption('over the network into the receivers');
  await output.getByLabel('By the interface').selectOption({ label: 'control' });
  for (const done of ['Its output is switched on', 'Its settings are saved', 'What runs behind it was started again']) {
    await output.getByLabel(done).click();
    await expect(output.getByLabel(done)).toBeChecked();
  }

  const bench = page.getByRole('region', { name: 'On the bench' });
  const seen = page.getByRole('region', { name: 'Test pictures' });
  await bench.getByRole('button', { name: 'Power on' }).click();
  await expect(bench.getByRole('status')).toContainText('nothing runs in its receivers');
  await bench.getByRole('button', { name: 'How it really is' }).click();
  await bench.getByLabel('Outputs as they hang, from the left').fill('2, 2');
  await bench.getByLabel('Outputs as they hang, from the left').blur();
  await expect(bench.getByText('Each of 1, 2 once, such as 2, 1.')).toBeVisible();
  await bench.getByLabel('Outputs as they hang, from the left').fill('2, 1');
  await bench.getByLabel('Outputs as they hang, from the left').blur();
  await expect(bench.getByText('Really, receivers hang in the order 2, 1.')).toBeVisible();
  await bench.getByRole('button', { name: 'Send the set-up' }).click();
  await expect(bench.getByRole('status')).toContainText('what the player sends goes out by another interface');
  await expect(seen.getByText('seen on the bench: dark')).toBeVisible();

  // receivers first: what hangs there is counted and written down
  await bench.getByRole('button', { name: 'Look what hangs on it' }).click();
  await bench.getByRole('button', { name: 'Write it down' }).click();
  await expect(layer('Receivers')).toContainText('as planned');
  // the set-up program, then; the processor sends by itself until it is right
  await seen.getByLabel('The processor sends it by itself').click();
  await expect(seen.getByText('seen on the bench: otherwise')).toBeVisible();
  for (const name of ['Set it to 1280', 'Set it to 16']) await side(page).getByRole('button', { name }).click();
  await expect(layer('Set-up program')).toContainText('as planned');
  await expect(bench.getByRole('status')).toContainText('send the set-up again');
  await bench.getByRole('button', { name: 'Send the set-up' }).click();
  await expect(bench.getByRole('status')).not.toContainText('send the set-up again');
  await expect(seen.getByText('seen on the bench: otherwise')).toBeVisible();
  // what is left is traced, read off the wall itself
  await page.getByRole('button', { name: 'Trace the order' }).click();
  const found = dialog.getByText(/It is this: .*receivers hang in the order 2, 1/);
  await expect(async () => {
    const read = dialog.getByRole('button', { name: 'Read it off the bench' });
    if (await read.isVisible()) await read.click({ timeout: 5_000 });
    await expect(found).toBeVisible({ timeout: 3_000 });
  }).toPass({ timeout: 200_000 });
  await dialog.getByRole('button', { name: 'Enter it as it is' }).click();
  await expect(dialog).toBeHidden();
  await bench.getByRole('button', { name: 'Send the set-up' }).click();
  await expect(seen.getByText('seen on the bench: as it is sent')).toBeVisible();
  await bench.getByRole('button', { name: 'Store it in the receivers' }).click();
  await expect(layer('Stored')).toContainText('as planned');
  await bench.getByRole('button', { name: 'Power off' }).click();
  await bench.getByRole('button', { name: 'Power on' }).click();
  await expect(seen.getByText('seen on the bench: as it is sent')).toBeVisible();

  // only now the player
  await seen.getByLabel('The player sends it').click();
  await side(page).getByRole('button', { name: 'Send by media' }).click();
  await side(page).getByRole('button', { name: 'Both are done' }).click();
  await expect(layer('Player')).toContainText('as planned');
  await expect(seen.getByText('seen on the bench: as it is sent')).toBeVisible();
  await page.getByRole('button', { name: 'Exactly the wall' }).click();
  await expect(layer('Content')).toContainText('as planned');
  expect(await violations(page)).toEqual([]);
  expect(problems).toEqual([]);
});
