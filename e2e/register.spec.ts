import { expect, type Page } from '@playwright/test';
import { newShow, pasteGear, placeRest, row, takeIn, watchProblems, well, test, visit } from './steps.ts';

async function cameras(page: Page, name: string, count: number): Promise<string> {
  const showId = await newShow(page, name);
  const lines = Array.from(
    { length: count },
    (_, n) => `Cam ${n + 1},Pan-tilt camera,${n + 1},02:00:00:00:01:${(n + 1).toString(16).padStart(2, '0')}`,
  );
  await pasteGear(page, `name,type,unit,mac\n${lines.join('\n')}\n`);
  await takeIn(page, `${count} units`);
  await visit(page, `/shows/${showId}/addresses?do=add`);
  await page.getByLabel('Range').fill('10.3.0.0/24');
  await page.getByRole('dialog').getByRole('button', { name: 'Add network' }).click();
  await expect(page.getByRole('dialog')).toBeHidden();
  await expect(page.getByText(`${count} interfaces on 1 network`)).toBeVisible();
  return showId;
}

test('a full block says why, offers ways out, and the preview shows what will happen', async ({ page }) => {
  const problems = watchProblems(page);
  await cameras(page, 'Full', 6);
  await page.getByRole('button', { name: /^Cameras/ }).click();
  await page.getByLabel('To', { exact: true }).fill('12');
  await page.getByRole('button', { name: 'Save block' }).click();
  await expect(page.getByRole('button', { name: /^Cameras.*10\.3\.0\.12/ })).toBeVisible();
  await page.getByRole('button', { name: 'Place the rest' }).click();
  const dialog = page.getByRole('dialog', { name: 'Place addresses' });
  await expect(dialog).toContainText('Cameras on Control has room for 3 of 6.');
  await dialog.getByRole('button', { name: /^Widen Cameras to/ }).click();
  await expect(dialog.getByRole('button', { name: 'Nothing to place' })).toBeVisible();
  await dialog.getByRole('button', { name: 'Cancel' }).click();
  await expect(row(page, /Cam 6/)).toContainText(/10\.3\.0\.1\d/);
  expect(problems).toEqual([]);
});

test('the ruler by keyboard and by pointer: a block’s edge moves, the next unit is placed', async ({ page }) => {
  const problems = watchProblems(page);
  await cameras(page, 'Ruler', 3);
  const edge = page.getByRole('slider', { name: 'End of Cameras' });
  await edge.focus();
  const before = Number(await edge.getAttribute('aria-valuenow'));
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: new RegExp(`^Cameras.*10\\.3\\.0\\.${before + 2}$`) })).toBeVisible();
  const caret = page.getByRole('slider', { name: 'Place on the ruler' });
  await caret.focus();
  await page.keyboard.press('Home');
  await page.keyboard.press('PageUp');
  for (let step = 0; step < 4; step += 1) await page.keyboard.press('ArrowRight');
  await expect(caret).toHaveAttribute('aria-valuenow', '15');
  await expect(caret).toHaveAttribute('aria-valuetext', /place Cam 1 here/);
  await page.keyboard.press('Enter');
  await expect(row(page, /Cam 1/)).toContainText('10.3.0.15');
  // with the pointer: a click on a free place puts the next one there
  const box = await page.getByRole('group', { name: 'Ruler of Control' }).boundingBox();
  const at = await edge.boundingBox();
  if (!box || !at) throw new Error('no ruler');
  await page.mouse.click(at.x - 12, at.y + at.height / 2);
  await expect(row(page, /Cam 2/)).toContainText(/10\.3\.0\.\d+/);
  // and the edge itself is dragged
  await page.mouse.move(at.x + at.width / 2, at.y + at.height / 2);
  await page.mouse.down();
  await page.mouse.move(at.x + at.width / 2 + 60, at.y + at.height / 2, { steps: 4 });
  await page.mouse.up();
  await expect(page.getByRole('button', { name: new RegExp(`^Cameras.*10\\.3\\.0\\.${before + 2}$`) })).toBeHidden();
  expect(problems).toEqual([]);
});

test('what was found: pasted, matched, taken in, seen by another tab, and forgotten', async ({ page, browser }) => {
  const problems = watchProblems(page);
  const showId = await cameras(page, 'Found', 3);
  await placeRest(page);
  // the second tab has read the show, and its line stands only after the first has taken in what was found
  const second = await browser.newPage();
  let stand: () => void = () => undefined;
  const late = new Promise<void>((done) => (stand = done));
  await second.routeWebSocket('/api/live', (line) => {
    const server = line.connectToServer();
    line.onMessage((message) => void late.then(() => server.send(message)));
  });
  await second.goto(`/shows/${showId}/addresses`);
  await expect(row(second, /Cam 2/)).toContainText('free to use');
  await page.getByRole('button', { name: 'Read what is there' }).click();
  const dialog = page.getByRole('dialog', { name: 'As found' });
  await dialog.getByLabel('Paste the listing here').fill('nothing of that kind\n');
  await expect(dialog.getByRole('alert')).toContainText('No address was recognised');
  const listing = ['10.3.0.11 02-00-00-00-01-01', '10.88.0.40 02-00-00-00-01-02', '10.3.0.77 02-aa-00-00-00-01'].join(
    '\n',
  );
  await dialog.getByLabel('Paste the listing here').fill(`${listing}\n`);
  await expect(dialog.getByRole('row', { name: /Cam 2 still as delivered/ })).toBeVisible();
  await expect(dialog.getByRole('row', { name: /10\.3\.0\.77.*not in the plan/ })).toBeVisible();
  await dialog.getByRole('button', { name: 'Take in 3 hosts' }).click();
  await expect(dialog).toBeHidden();
  await expect(row(page, /Cam 1/)).toContainText('there');
  await expect(row(page, /Cam 3/)).toContainText('not found');
  stand();
  await expect(row(second, /Cam 2/)).toContainText('still as delivered');
  await row(page, /Cam 2/).click();
  await expect(well(page)).toContainText('still has its factory address 10.88.0.40');
  await page.getByRole('button', { name: 'Read what is there' }).click();
  await dialog.getByRole('button', { name: 'Forget the 3 hosts found so far' }).click();
  await expect(page.getByRole('columnheader', { name: 'As found' })).toHaveCount(0);
  await second.close();
  expect(problems).toEqual([]);
});

test('a capture is read on the server with what it holds, and a damaged one says how far it got', async ({ page }) => {
  await cameras(page, 'Capture', 2);
  const frame = (n: number) => [
    255,
    255,
    255,
    255,
    255,
    255,
    2,
    0,
    0,
    0,
    1,
    n,
    8,
    6,
    0,
    1,
    8,
    0,
    6,
    4,
    0,
    2,
    2,
    0,
    0,
    0,
    1,
    n,
    10,
    3,
    0,
    10 + n,
    0,
    0,
    0,
    0,
    0,
    0,
    10,
    3,
    0,
    9,
  ];
  const record = (n: number) => [0, 0, 0, 0, 0, 0, 0, 0, 42, 0, 0, 0, 42, 0, 0, 0, ...frame(n)];
  const head = [0xd4, 0xc3, 0xb2, 0xa1, 2, 0, 4, 0, 0, 0, 0, 0, 0, 0, 0, 0, 255, 255, 0, 0, 1, 0, 0, 0];
  const file = (bytes: number[]) => ({
    name: 'site.pcap',
    mimeType: 'application/octet-stream',
    buffer: Buffer.from(bytes),
  });
  await page.getByRole('button', { name: 'Read what is there' }).click();
  const dialog = page.getByRole('dialog', { name: 'As found' });
  await dialog.getByLabel('or choose a file').setInputFiles(file([...head, ...record(1), ...record(2)]));
  await expect(dialog).toContainText('2 packets read.');
  await expect(dialog.getByRole('row', { name: /10\.3\.0\.12 .*Cam 2/ })).toBeVisible();
  await dialog.getByRole('button', { name: 'Start over' }).click();
  await dialog.getByLabel('or choose a file').setInputFiles(file([...head, ...record(1), ...record(2).slice(0, 30)]));
  await expect(dialog.getByRole('alert')).toContainText('ends in the middle of a packet, at byte 82');
  await expect(dialog.getByRole('button', { name: 'Take in 1 host' })).toBeVisible();
});

test('a second address over the same cable, a leased one, and who has to be told before an address changes', async ({
  page,
}) => {
  await page.goto('/shows/harbour-finals/addresses/control/control-camera-1-lan');
  await expect(well(page)).toContainText(/Who stores this address.*Camera remote.*slot 1.*looks it up once/s);
  await page.getByLabel('Second address').selectOption({ label: 'Audio' });
  await page.getByRole('link', { name: /^Audio/ }).click();
  await expect(row(page, /Camera 1 pan-tilt/)).toContainText('waits');
  await page
    .getByRole('button', { name: /^Take back/ })
    .first()
    .click();
  await expect(row(page, /Camera 1 pan-tilt/)).toHaveCount(0);
});
