import { Buffer } from 'node:buffer';
import { expect, type Page } from '@playwright/test';
import writeSheets from 'write-excel-file/universal';
import { newShow, row, takeIn, test } from './steps.ts';

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

test('a list of 400 units from a workbook with 30 faults is mended with the keyboard, and is in within three minutes', async ({
  page,
}) => {
  const kinds = ['Pan-tilt camera', 'Tablet', 'Lighting desk', 'Amplifier', 'Laptop'];
  const rows = Array.from({ length: 400 }, (_, at) => ({
    name: `Unit ${at + 1}`,
    type: kinds[at % kinds.length] ?? '',
    place: `Place ${at % 12}`,
    unit: String(at + 1),
    mac: `02:1e:70:00:${(at >> 8).toString(16).padStart(2, '0')}:${(at & 255).toString(16).padStart(2, '0')}`,
  }));
  const spoil = (at: number, patch: Partial<(typeof rows)[number]>) => Object.assign(rows[at] ?? {}, patch);
  // eight lines of one kind that nobody knows, six of another, and sixteen of their own
  for (let n = 0; n < 8; n += 1) spoil(10 + n * 7, { type: 'Harbour horn' });
  for (let n = 0; n < 6; n += 1) spoil(100 + n * 11, { type: 'Buoy sender' });
  const macs = [200, 210, 220, 230, 240];
  const numbers = [251, 261, 271, 281];
  const names = [300, 310, 320, 330];
  const twins = [350, 360, 370];
  for (const at of macs) spoil(at, { mac: '02:1e:70:zz' });
  for (const at of numbers) spoil(at, { unit: 'many' });
  for (const at of names) spoil(at, { name: '' });
  for (const at of twins) spoil(at, { name: 'Unit 1' });
  const cells = [
    [{ value: 'Harbour crew, gear of the day' }],
    [],
    ['Device', 'Model', 'Location', 'No', 'MAC'].map((value) => ({ value })),
    ...rows.map(({ name, type, place, unit, mac }) => [name, type, place, unit, mac].map((value) => ({ value }))),
  ];
  const blob = await writeSheets([{ sheet: 'Gear', data: cells }] as never).toBlob();
  await newShow(page, 'Workbook');
  await page.getByRole('button', { name: 'Read a gear list' }).first().click();
  await choose(page, 'gear.xlsx', Buffer.from(await blob.arrayBuffer()));
  const problems = page.getByRole('list', { name: 'Problems' });
  await expect(problems.getByRole('listitem')).toHaveCount(
    2 + macs.length + numbers.length + names.length + twins.length,
  );
  const begun = Date.now();
  await page.getByLabel('What “Harbour horn” is').selectOption('Tablet');
  await page.getByLabel('What “Buoy sender” is').selectOption('Laptop');
  await expect(problems.getByRole('listitem')).toHaveCount(16);
  const lineOf = (at: number) => at + 4;
  const right = new Map([
    ...macs.map((at) => [lineOf(at), `02:1e:70:01:00:${at.toString(16)}`] as const),
    ...numbers.map((at) => [lineOf(at), String(at + 1)] as const),
    ...[...names, ...twins].map((at) => [lineOf(at), `Unit ${at + 1}`] as const),
  ]);
  // in the order of the list: what is selected is typed over, Enter goes on to the next
  await problems.getByRole('textbox').first().focus();
  for (let left = right.size; left > 0; left -= 1) {
    const label = await page.evaluate(() => document.activeElement?.getAttribute('aria-label') ?? '');
    await page.keyboard.type(right.get(Number(/\d+$/.exec(label)?.[0])) ?? '', { delay: 15 });
    await page.keyboard.press('Enter');
  }
  await takeIn(page, '400 units');
  await expect(page.getByText('400 devices in 12 places')).toBeVisible();
  expect(Date.now() - begun).toBeLessThan(180_000);
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
