import { readFile } from 'node:fs/promises';
import { expect } from '@playwright/test';
import { newShow, pasteGear, row, takeIn, watchProblems, test } from './steps.ts';

test('a unit is set, the plan moves, and the unit says what to key in again, instead of what, and what follows', async ({
  page,
}) => {
  const problems = watchProblems(page);
  await newShow(page, 'Setting');
  await pasteGear(page, 'name,type,unit,place\nCam A,Pan-tilt camera,1,Quay\nCam B,Pan-tilt camera,2,Quay\n');
  await takeIn(page, '2 units');
  await row(page, /Cam A/).click();
  const due = page.getByRole('region', { name: 'To set on Cam A' });
  await expect(due).toContainText('on, hears 80');
  await due.getByRole('button', { name: 'All of it is set' }).click();
  await expect(due).toContainText('Set as planned');

  // IPv6 is planned off: one line, then the acts of this camera
  await page.keyboard.press('o');
  const sheet = page.getByRole('region', { name: 'Page of Cam A' });
  await sheet.getByLabel('IPv6').selectOption('off after first contact');
  await sheet.getByRole('button', { name: 'Save these' }).click();
  await expect(due).toContainText(/IPv6.*off.*instead of nothing.*Then confirm the page, then restart the unit/s);
  const download = page.waitForEvent('download');
  await due.getByRole('button', { name: 'Save as a file: settings of Cam A' }).click();
  const file = JSON.parse(await readFile(await (await download).path(), 'utf8')) as Record<string, unknown>;
  expect(file).toMatchObject({ format: 'deep-patch/unit-settings', unit: 'Cam A' });
  await due.getByRole('button', { name: 'IPv6 is set' }).click();
  await expect(due).toContainText('Set as planned');

  // who knows the password, and a paper that stays with the show
  await sheet.getByText('Accounts', { exact: true }).click();
  await sheet.getByLabel('Account to add').fill('quay-admin');
  await sheet.getByLabel('Who knows the password').fill('Ines');
  await sheet.getByRole('button', { name: 'Add the account' }).click();
  await expect(sheet).toContainText('Ines knows the password');
  await sheet.getByText('Papers and commands').click();
  await sheet.getByLabel('What the paper is').fill('guide to first sign-in');
  await sheet
    .getByLabel('A paper for Pan-tilt camera')
    .setInputFiles({ name: 'guide.txt', mimeType: 'text/plain', buffer: Buffer.from('press and hold') });
  const paper = page.waitForEvent('download');
  await sheet.getByRole('link', { name: 'guide to first sign-in' }).click();
  expect(await readFile(await (await paper).path(), 'utf8')).toBe('press and hold');

  await page.getByRole('link', { name: 'Back to the rig' }).click();
  await page.getByRole('button', { name: 'Before the site' }).click();
  const list = page.getByRole('dialog', { name: 'Before the site' });
  await expect(list.getByRole('checkbox', { name: /its administrator: quay-admin, Ines knows/ })).toBeChecked();
  await expect(list.getByRole('checkbox', { name: /Cam A: guide to first sign-in.*kept with the show/ })).toBeChecked();
  await list.getByLabel('Name', { exact: true }).fill('Ottilie');
  await list.getByLabel('What they know').fill('the panels');
  await list.getByRole('button', { name: 'Add the person' }).click();
  await expect(list.getByText('Ottilie')).toBeVisible();
  expect(problems).toEqual([]);
});
