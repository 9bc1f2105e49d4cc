import { readFile } from 'node:fs/promises';
import { expect, type Page } from '@playwright/test';
import { newShow, pasteGear, row, takeIn, watchProblems, well, test } from './steps.ts';

const rows = (page: Page) => page.getByRole('rowgroup', { name: 'Devices, rows' });
const gear =
  'name,type,unit,place\nCam A,Pan-tilt camera,1,Quay\nCam B,Pan-tilt camera,2,Quay\nCam C,Pan-tilt camera,3,Quay\n';

test('the rig is edited as in a spreadsheet: typing, filling down, pasting a block, several at once', async ({
  page,
  context,
}) => {
  const problems = watchProblems(page);
  await context.grantPermissions(['clipboard-read', 'clipboard-write']);
  await newShow(page, 'Cells');
  await pasteGear(page, gear);
  await takeIn(page, '3 units');

  // by keyboard alone: to the version of the first, type, fill down over three
  await row(page, /Cam A/).getByRole('gridcell').nth(3).click();
  await rows(page).focus();
  await page.keyboard.press('Enter');
  await page.getByRole('textbox', { name: 'Version of Cam A' }).fill('2.1');
  await page.keyboard.press('Enter');
  await expect(row(page, /Cam A/)).toContainText('2.1');
  await rows(page).focus();
  await page.keyboard.press('Shift+ArrowDown');
  await page.keyboard.press('Shift+ArrowDown');
  await page.keyboard.press('Control+d');
  await expect(row(page, /Cam C/)).toContainText('2.1');
  await expect(well(page).getByRole('heading', { name: '3 units' })).toBeVisible();

  // a block from a spreadsheet lies on the cursor: unit and version of two
  await row(page, /Cam A/).getByRole('gridcell').nth(2).click();
  await page.evaluate(() => navigator.clipboard.writeText('11\t3.0\n12\t3.1\n'));
  await rows(page).focus();
  await page.keyboard.press('Control+v');
  await expect(row(page, /Cam B/)).toContainText(/12.*3\.1/s);

  // one bad cell keeps the whole block out and names itself
  await page.evaluate(() => navigator.clipboard.writeText('13\tx\nfourteen\ty\n'));
  await rows(page).focus();
  await page.keyboard.press('Control+v');
  await expect(page.getByRole('alert')).toContainText('Cam B, Unit: “fourteen”');
  await expect(row(page, /Cam A/)).toContainText('11');
  await page.getByRole('alert').getByRole('button', { name: 'Close' }).click();

  // several at once, and all of it back again
  await row(page, /Cam A/).click();
  await row(page, /Cam C/).click({ modifiers: ['Shift'] });
  await page.getByLabel('Value').fill('Tower');
  await page.getByRole('button', { name: 'Set for 3 units' }).click();
  await expect(page.getByText('3 devices in 1 place', { exact: true })).toBeVisible();
  await expect(row(page, /Tower/)).toBeVisible();
  await page
    .getByRole('button', { name: /^Take back/ })
    .first()
    .click();
  await expect(row(page, /Quay/)).toBeVisible();

  // columns and grouping are kept
  await page.getByRole('button', { name: 'View' }).click();
  await page.getByRole('checkbox', { name: 'Serial' }).click();
  await page.getByLabel('Group by').selectOption('type');
  await page.reload();
  await expect(page.getByRole('columnheader', { name: 'Serial' })).toBeVisible();
  await expect(row(page, /Pan-tilt camera 3 units/)).toBeVisible();
  expect(problems).toEqual([]);
});

test('device types: a shipped one is changed as our own, travels as a file, and a file with faults is refused whole', async ({
  page,
}) => {
  const problems = watchProblems(page);
  await newShow(page, 'Types');
  await pasteGear(page, gear);
  await takeIn(page, '3 units');
  await page.getByRole('button', { name: 'Types' }).click();
  const dialog = page.getByRole('dialog', { name: 'Device types' });
  await dialog.getByRole('button', { name: /^Pan-tilt camera/ }).click();
  await dialog.getByLabel('Fixed at').fill('10.88.0.400');
  await expect(dialog.getByText('An IPv4 address has four numbers from 0 to 255').first()).toBeVisible();
  await expect(dialog.getByRole('button', { name: 'Save as our own' })).toBeDisabled();
  await dialog.getByLabel('Fixed at').fill('10.88.0.44');
  await dialog.getByLabel('Version of this sheet').fill('0.9');
  await dialog.getByRole('button', { name: 'Save as our own' }).click();
  await expect(dialog.getByRole('heading', { name: 'Our own types' })).toBeVisible();
  await expect(dialog.getByRole('button', { name: /Pan-tilt camera hidden · 1\.0/ })).toBeVisible();
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    dialog.getByRole('button', { name: 'Save as a file' }).first().click(),
  ]);
  const text = await readFile(await download.path(), 'utf8');
  expect(JSON.parse(text)).toMatchObject({
    format: 'device-types',
    types: [{ model: 'pan-tilt-camera', version: '0.9' }],
  });
  const file = (name: string, content: string) => ({
    name,
    mimeType: 'application/json',
    buffer: Buffer.from(content),
  });
  await dialog.getByLabel('Read a file').setInputFiles(file('bad.json', text.replace('"10.88.0.44"', '"nowhere"')));
  await expect(dialog.getByRole('alert')).toContainText('types.0.factory.ip');
  await dialog
    .getByLabel('Read a file')
    .setInputFiles(file('good.json', text.replace('Our own types', 'From a colleague')));
  await expect(dialog.getByRole('heading', { name: 'From a colleague' })).toBeVisible();
  await dialog.getByRole('button', { name: 'Close' }).click();
  // the older one of our own hides the newer shipped one, and that is said
  await page.getByRole('link', { name: /stop it/ }).click();
  await expect(page.getByText('hides the newer 1.0')).toBeVisible();
  expect(problems).toEqual([]);
});

test('the list before the site is ticked off, and what is ticked stays', async ({ page }) => {
  await page.goto('/');
  await newShow(page, 'Site');
  await pasteGear(page, gear);
  await takeIn(page, '3 units');
  await page.getByRole('button', { name: 'Before the site' }).click();
  const dialog = page.getByRole('dialog', { name: 'Before the site' });
  const copy = dialog.getByRole('checkbox', { name: /Cam A: a copy of stored positions/ });
  await copy.click();
  await expect(copy).toBeChecked();
  await page.reload();
  await expect(copy).toBeChecked();
  await dialog.getByLabel('only what is open').check();
  await expect(copy).toHaveCount(0);
});
