import { Buffer } from 'node:buffer';
import { expect, test, type Page } from '@playwright/test';
import { newShow, row, takeIn } from './steps.ts';

const choose = async (page: Page, name: string, bytes: Buffer) => {
  await page.getByLabel('or choose a file').setInputFiles({ name, mimeType: 'text/csv', buffer: bytes });
};

test('bad files are explained and change nothing', async ({ page }) => {
  await newShow(page, 'Bad lists');
  await page.getByRole('button', { name: 'Read a gear list' }).first().click();
  await choose(page, 'picture.csv', Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a, 0, 0, 0, 0xff]));
  await expect(page.getByRole('alert')).toContainText('This is no text and no workbook.');
  await page.getByRole('button', { name: 'Try another' }).click();
  await choose(page, 'large.csv', Buffer.alloc(10_500_000, 'a,b\n'));
  await expect(page.getByRole('alert')).toContainText('larger than 10 MB');
  await choose(page, 'garbage.csv', Buffer.from('x;;y\n"unclosed,,,\n;;;\n1;2'));
  await expect(page.getByRole('button', { name: /^Take in/ })).toBeDisabled();
  await expect(page.getByRole('list', { name: 'Problems' })).toContainText('No column says what the gear is.');
  await page.getByRole('button', { name: 'Start over' }).click();
  const latin = Buffer.from('name,type,place\nCaf\xe9 tablet,Tablet,Kai\n', 'latin1');
  await choose(page, 'latin.csv', latin);
  await expect(page.getByRole('alert')).toContainText('not UTF-8');
  await page.getByRole('button', { name: 'Read it as Western European' }).click();
  await takeIn(page, '1 unit');
  await expect(row(page, /Café tablet/)).toBeVisible();
});

test('columns can be put right by hand, and marked rows left out', async ({ page }) => {
  await newShow(page, 'Columns');
  await page.getByRole('button', { name: 'Read a gear list' }).first().click();
  await page
    .getByLabel('Paste the list here')
    .fill('Quay,Tablet A,Tablet\nQuay,Tablet B,Tablet\nQuay,Thing,Nonsense\n');
  await page.getByLabel('Column 1 holds').selectOption('Place');
  await page.getByLabel('Column 2 holds').selectOption('Name');
  await page.getByLabel('Column 3 holds').selectOption('Type');
  await page.getByLabel('Leave out the 1 marked line').check();
  await takeIn(page, '2 units');
  await expect(row(page, /Tablet A/)).toBeVisible();
  await expect(row(page, /Tablet B/)).toBeVisible();
});

test('5,000 rows are read with progress, taken in as one change, and the table stays light', async ({ page }) => {
  await newShow(page, 'Crowded');
  const rows = Array.from({ length: 5000 }, (_, at) => `Camera ${at},Pan-tilt camera,${at},Place ${at % 40},2.1`);
  await page.getByRole('button', { name: 'Read a gear list' }).first().click();
  await page.evaluate(() => {
    (window as unknown as { seen: number }).seen = 0;
    new MutationObserver(() => {
      if (document.querySelector('progress[aria-label="Reading the list"]'))
        (window as unknown as { seen: number }).seen += 1;
    }).observe(document.body, { childList: true, subtree: true, attributes: true });
  });
  await choose(page, 'crowded.csv', Buffer.from(`name,type,unit,place,firmware\n${rows.join('\n')}`));
  await expect(page.getByText('5000 units read')).toBeVisible();
  expect(await page.evaluate(() => (window as unknown as { seen: number }).seen)).toBeGreaterThan(0);
  await takeIn(page, '5000 units');
  await expect(page.getByText('5000 devices in 40 places')).toBeVisible({ timeout: 30_000 });
  expect(await page.getByRole('row').count()).toBeLessThan(80);
  await page.getByLabel('Filter devices').fill('camera 4999');
  await expect(row(page, /Camera 4999/)).toBeVisible();
  await page.getByRole('button', { name: 'Take back: Take in 5000 units' }).click();
  await expect(page.getByText('Start with the list')).toBeVisible({ timeout: 30_000 });
});
