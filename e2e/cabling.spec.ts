import { readFileSync } from 'node:fs';
import { expect } from '@playwright/test';
import { demo, ownDemo, newShow, pasteGear, row, takeIn, violations, watchProblems, test, visit } from './steps.ts';

test('runs are written down by part of a name, moved in a cell, read from a list, and saved as one that is read again', async ({
  page,
}) => {
  const problems = watchProblems(page);
  const showId = await newShow(page, 'Runs');
  await pasteGear(page, 'item,type\nTower x 3,PTZ camera\nHub,managed switch\nBook,laptop\n');
  await takeIn(page, '5 units');
  await visit(page, `/shows/${showId}/cabling?do=add`);
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
  const far = row(page, /^Tower 1/)
    .getByRole('gridcell')
    .nth(3);
  // chosen first: the panel that opens then takes its room from the table
  await far.click();
  await expect(page.getByRole('complementary', { name: /^Tower 1/ })).toBeVisible();
  await far.dblclick();
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

test('what a loss takes down fades, the fewest runs prevent it, and the bench pulls each in turn', async ({ page }) => {
  const problems = watchProblems(page);
  const id = await ownDemo(page);
  const own = `/shows/${id}`;
  const { devices } = (await (await page.request.get(`/api${own}`)).json()) as { devices: Record<string, unknown> };
  const bench = `/api/bench/${id}`;
  await page.request.post(`${bench}/power`, { data: { deviceIds: Object.keys(devices), on: true } });
  await visit(page, `${own}/cabling`);
  await page.getByRole('button', { name: 'If this goes' }).click();
  const list = page.getByRole('region', { name: 'If this goes' });
  const answer = page.getByRole('region', { name: 'What stops' });
  await list.getByRole('button', { name: 'Switch booth p24 to Switch quay p24' }).click();
  await expect(answer).toContainText(/Without Switch booth p24 to Switch quay p24, \d+ links stop\./);
  await expect(answer).toContainText('Show host → Lighting desk');
  const strip = (name: string) => page.locator('svg g[opacity]', { hasText: name }).last();
  await expect(strip('Lighting desk')).toHaveAttribute('opacity', '0.25');
  await expect(strip('Playout A')).toHaveAttribute('opacity', '1');
  await answer.getByLabel('And at the same time').selectOption({ label: 'Switch quay' });
  await expect(answer).toContainText('Without Switch booth p24 to Switch quay p24 and Switch quay, 14 links stop');
  await page.getByRole('button', { name: 'Hold against any one run' }).click();
  await expect(answer).toContainText('One more run prevents it for 1 run. No fewer would do.');
  await expect(answer).toContainText('No socket is left for a second run at:');
  await answer.getByRole('button', { name: 'Plug it in' }).click();
  await expect(page.getByText('45 runs')).toBeVisible();
  // the second way is there: without the first one nothing stops any more that went over it
  await expect(list.getByRole('button', { name: 'Switch booth p24 to Switch quay p24' })).toBeHidden();
  await page.getByRole('button', { name: 'Pull each in turn' }).click();
  await expect(answer.getByText(/^([3-9]|\d\d) of 45 pulled/)).toBeVisible({ timeout: 60_000 });
  await answer.getByRole('button', { name: 'Stop' }).click();
  await expect(answer).toContainText('Nothing stopped that is not foretold. Ended before all were pulled.');
  await page.getByLabel('Filter runs').fill('booth p1');
  await expect(list.getByRole('row')).toHaveCount(2);
  await page.keyboard.press('Control+z');
  expect(problems).toEqual([]);
});

test('a socket in the wrong VLAN is told and set as planned; an input is entered as it is fed; a run is for set-up', async ({
  page,
}) => {
  const problems = watchProblems(page);
  const id = await ownDemo(page);
  const own = `/shows/${id}`;
  await visit(page, `${own}/cabling?see=vlans`);
  await page.getByRole('button', { name: 'U Switch booth p1, VLAN 20: untagged' }).click();
  await expect(page.getByText('Without a tag Switch booth p1 takes nothing')).toBeVisible();
  await page.getByRole('button', { name: 'Set it as planned' }).click();
  await expect(page.getByRole('button', { name: 'U Switch booth p1, VLAN 20: untagged' })).toBeVisible();
  await page.getByRole('button', { name: 'Inputs' }).click();
  const wrong = row(page, /Playout B/);
  await expect(wrong).toContainText('another number is entered');
  await wrong.getByRole('textbox').fill('Slow motion');
  await wrong.getByRole('textbox').press('Enter');
  await expect(page.getByText('Production switcher input 7: Slow motion')).toBeVisible();
  await visit(page, `${own}/findings`);
  await page.getByRole('button', { name: 'Enter Playout B as 7' }).click();
  await visit(page, `${own}/cabling?see=pictures`);
  await expect(row(page, /Playout B/)).toContainText('the same in both');
  await visit(page, `${own}/cabling?do=add`);
  const entry = page.getByRole('form', { name: 'A run' });
  for (const [label, text] of [
    ['From', 'Playout A'],
    ['To', 'Switch booth'],
    ['When', 'set-up only'],
  ] as const)
    await entry.getByLabel(label, { exact: true }).fill(text);
  await entry.getByRole('button', { name: 'Add run' }).click();
  await expect(page.getByRole('alert')).toContainText('no free socket');
  await entry.getByLabel('From', { exact: true }).fill('Camera 5');
  await entry.getByLabel('To', { exact: true }).fill('Production');
  await entry.getByRole('button', { name: 'Add run' }).click();
  await page.getByRole('button', { name: 'Changeover' }).click();
  await expect(page.getByRole('list', { name: 'What to move' })).toContainText('Pull Camera 5 shoulder picture out');
  await page.getByRole('button', { name: 'Change it over to set-up' }).click();
  await expect(page.getByText('On the bench the runs of set-up are plugged in.')).toBeVisible();
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
