import { expect } from '@playwright/test';
import { demo, newShow, pasteGear, row, takeIn, watchProblems, well, test } from './steps.ts';

test('devices are added, changed and removed by hand, with every fault at its field', async ({ page }) => {
  const problems = watchProblems(page);
  await newShow(page, 'By hand');
  await page.getByRole('button', { name: 'Add device' }).click();
  const dialog = page.getByRole('dialog', { name: 'Add a device' });
  await dialog.getByLabel('Unit').fill('three');
  await dialog.getByLabel('MAC address').fill('02:1e');
  await dialog.getByRole('button', { name: 'Add device' }).click();
  for (const fault of ['Say what it is', 'Give it a name', 'A whole number from 0 to 9999', 'Six pairs of 0-9 and a-f'])
    await expect(dialog.getByText(fault)).toBeVisible();
  await dialog.getByLabel('Type').selectOption({ label: 'Pan-tilt camera' });
  await dialog.getByLabel('Name').fill('Camera 9 pier');
  await dialog.getByLabel('Unit').fill('9');
  await dialog.getByLabel('MAC address').fill('02-1E-70-00-00-09');
  await dialog.getByRole('button', { name: 'Add device' }).click();
  await expect(page).toHaveURL(/rig\/[0-9a-f-]{36}$/);
  await expect(row(page, /Camera 9 pier/)).toContainText('02:1e:70:00:00:09');

  await page.getByLabel('Name').fill('');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(well(page)).toContainText('Give it a name');
  await page.getByLabel('Name').fill('Camera 9 mole');
  await page.getByLabel('Place').fill('Mole');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByRole('row', { name: 'Mole' }).first()).toBeVisible();
  await expect(page.getByRole('button', { name: 'Save', exact: true })).toBeDisabled();
  await page.getByRole('link', { name: 'Its page' }).click();
  await expect(page.getByRole('region', { name: 'Page of Camera 9 mole' })).toContainText('10.88.0.40 /24');
  await page.getByRole('button', { name: 'Remove Camera 9 mole' }).click();
  await expect(page.getByText('Start with the list')).toBeVisible();
  await page.getByRole('status').getByRole('button', { name: 'Take back' }).click();
  await expect(row(page, /Camera 9 mole/)).toBeVisible();
  expect(problems).toEqual([]);
});

test('cables by hand: plug in, see it on both ends, unplug', async ({ page }) => {
  await newShow(page, 'Cables');
  await pasteGear(page, 'name,type\nHost,Show host\nHub,Plain switch\n');
  await takeIn(page, '2 units');
  await row(page, /^Host/).click();
  await page.getByLabel('Plug into').selectOption({ label: 'Hub' });
  await page.getByLabel('Socket', { exact: true }).selectOption({ label: 'p5' });
  await page.getByRole('button', { name: 'Plug in' }).click();
  await expect(page.getByRole('button', { name: 'Unplug wired 1 to Hub p5' })).toBeVisible();
  await row(page, /^Hub/).click();
  await page.getByRole('button', { name: 'Unplug p5 to Host wired 1' }).click();
  await expect(page.getByRole('button', { name: /^Unplug/ })).toHaveCount(0);
});

test('the table filters, sorts and groups by place, and a filter without a match says nothing false', async ({
  page,
}) => {
  await page.goto(`${demo}/rig`);
  await page.getByLabel('Filter devices').fill('pan-tilt');
  await expect(page.getByRole('row', { name: /^Camera \d/ })).toHaveCount(5);
  await page.getByRole('button', { name: 'Unit' }).click();
  await expect(page.getByRole('columnheader', { name: 'Unit' })).toHaveAttribute('aria-sort', 'ascending');
  await page.getByLabel('Filter devices').fill('nothing is called so');
  await expect(page.getByText('No unit has “nothing is called so”')).toBeVisible();
  await expect(page.getByText('41 devices in 5 places')).toBeVisible();
  await page.getByRole('button', { name: 'Show all units' }).click();
  await expect(row(page, /Camera 3 finish/)).toBeVisible();
});

test('what another person saves does not wipe what is being typed', async ({ page, browser }) => {
  const showId = await newShow(page, 'Half typed');
  await pasteGear(page, 'name,type\nTablet 1,Tablet\n');
  await takeIn(page, '1 unit');
  await row(page, /Tablet 1/).click();
  await page.getByLabel('Note').fill('half a thought');
  const second = await browser.newPage();
  await second.goto(`/shows/${showId}/rig`);
  await row(second, /Tablet 1/).click();
  await second.getByLabel('Firmware').fill('3.0');
  await second.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(well(page)).toContainText('Somebody else saved this meanwhile.');
  await expect(page.getByLabel('Note')).toHaveValue('half a thought');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  const dialog = page.getByRole('dialog', { name: 'Changed meanwhile' });
  await expect(dialog.getByRole('row', { name: /^firmware/ })).toContainText('3.0');
  await dialog.getByRole('button', { name: 'Save what I chose' }).click();
  await expect(row(second, /Tablet 1/)).toContainText('3.0');
  await expect(second.getByLabel('Note')).toHaveValue('half a thought');
  await second.close();
});
