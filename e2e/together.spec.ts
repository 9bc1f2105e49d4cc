import { expect } from '@playwright/test';
import { newShow, pasteGear, row, takeIn, violations, watchProblems, well, test } from './steps.ts';

test('two people edit one device: the second sees both values, chooses, and nothing is lost', async ({
  page,
  browser,
}) => {
  const problems = watchProblems(page);
  const showId = await newShow(page, 'Conflict');
  await pasteGear(page, 'name,type,place\nCamera 1,Pan-tilt camera,Quay\n');
  await takeIn(page, '1 unit');
  await row(page, /Camera 1/).click();
  // the second tab is cut off from live news, as a laptop that just woke up
  const context = await browser.newContext();
  const second = await context.newPage();
  await second.routeWebSocket('/api/live', () => undefined);
  await second.goto(`/shows/${showId}/rig`);
  await row(second, /Camera 1/).click();
  await page.getByLabel('Name').fill('Camera one');
  await page.getByLabel('Firmware').fill('2.2');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(row(page, /Camera one/)).toBeVisible();

  await second.getByLabel('Name').fill('Camera eins');
  await second.getByLabel('Place').fill('Tower');
  await second.getByRole('button', { name: 'Save', exact: true }).click();
  const dialog = second.getByRole('dialog', { name: 'Changed meanwhile' });
  await expect(dialog).toBeVisible();
  expect(await violations(second)).toEqual([]);
  await expect(dialog).toContainText('Camera one');
  await expect(dialog).toContainText('Camera eins');
  await expect(dialog.getByRole('row', { name: /^place/ })).toContainText('Tower');
  await dialog.getByRole('radio', { name: 'Camera one' }).check();
  await dialog.getByRole('button', { name: 'Save what I chose' }).click();
  await expect(row(page, /Camera one/)).toBeVisible();
  await expect(page.getByRole('row', { name: 'Tower' })).toBeVisible();
  await expect(row(page, /Camera one/)).toContainText('2.2');
  await context.close();
  expect(problems).toEqual([]);
});

test('a lost connection is said, and restored by itself with what happened meanwhile', async ({ page, request }) => {
  const showId = await newShow(page, 'Cut off');
  let open = true;
  const cut: (() => void)[] = [];
  await page.routeWebSocket('/api/live', (socket) => {
    if (open) {
      socket.connectToServer();
      cut.push(() => void socket.close());
    } else void socket.close();
  });
  await page.reload();
  await expect(page.getByText('1 here')).toBeVisible();
  open = false;
  for (const end of cut) end();
  await expect(page.getByRole('alert')).toContainText('Deep Patch does not answer.');
  const device = {
    id: 'made-meanwhile',
    typeId: 'tablet',
    name: 'Made meanwhile',
    unit: null,
    place: '',
    firmware: null,
    note: '',
  };
  const change = { label: 'Add', edits: [{ table: 'devices', id: device.id, base: 0, before: null, after: device }] };
  const saved = await request.post(`/api/shows/${showId}/changes`, {
    data: { id: 'meanwhile-1', author: 'author-outside', change },
  });
  expect(saved.status()).toBe(201);
  open = true;
  await expect(row(page, /Made meanwhile/)).toBeVisible();
  await expect(page.getByRole('alert')).toBeHidden();
});

test('a change that cannot be saved stays on screen and is saved by trying again', async ({ page }) => {
  await newShow(page, 'Away');
  await pasteGear(page, 'name,type\nTablet 1,Tablet\n');
  await takeIn(page, '1 unit');
  await row(page, /Tablet 1/).click();
  const away = {
    status: 503,
    contentType: 'application/problem+json',
    json: {
      code: 'DATABASE_AWAY',
      title: 'The database does not answer',
      detail: 'Try again in a few seconds.',
      status: 503,
    },
  };
  await page.route('**/changes', (route) =>
    route.request().method() === 'POST' ? route.fulfill(away) : route.continue(),
  );
  await page.getByLabel('Place').fill('Boat');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByText('The database does not answer')).toBeVisible();
  await expect(page.getByLabel('Place')).toHaveValue('Boat');
  await page.unroute('**/changes');
  await page.getByRole('button', { name: 'Try again' }).click();
  await expect(page.getByRole('row', { name: 'Boat' })).toBeVisible();
});

test('what is added is added once, however often and wherever somebody presses when no answer comes', async ({
  page,
}) => {
  await newShow(page, 'Presses');
  const open = () => page.getByRole('button', { name: 'Add device' }).first().click();
  await open();
  await page.getByLabel('Type').selectOption({ label: 'Tablet' });
  await page.getByLabel('Name').fill('Jury tablet');
  // it arrives and is saved; the answer gets lost on its way back
  let lost = 0;
  await page.route('**/changes', async (route) => {
    if (route.request().method() !== 'POST' || lost > 1) return route.continue();
    lost += 1;
    if (lost === 1) await route.fetch();
    return route.abort();
  });
  const add = page.getByRole('dialog').getByRole('button', { name: 'Add device' });
  await add.click();
  await expect(page.getByText('Deep Patch does not answer')).toBeVisible();
  await add.click();
  await expect.poll(() => lost).toBe(2);
  // the older of the two messages is gone: there is one thing to try again
  await expect(page.getByRole('button', { name: 'Try again' })).toHaveCount(1);
  await add.click();
  await expect(page.getByRole('dialog')).toBeHidden();
  await expect(page.getByRole('button', { name: 'Try again' })).toHaveCount(0);
  await page.getByRole('link', { name: /^Rig/ }).first().click();
  await expect(row(page, /Jury tablet/)).toHaveCount(1);
  await expect(page.getByText('1 device')).toBeVisible();
});

test('the demo show: its planning mistakes are found, and the worst are mended by their buttons', async ({ page }) => {
  const problems = watchProblems(page);
  await page.goto('/shows/harbour-finals/findings');
  await expect(page.getByText(/share 10\.61\.20\.33\. Whichever/).first()).toBeVisible();
  await page
    .getByRole('link', { name: /^Links/ })
    .first()
    .click();
  await row(page, /Caller gateway/).click();
  await page.getByRole('button', { name: 'Send to 9310' }).click();
  await expect(well(page)).toContainText('8 of 8');
  await page.getByRole('button', { name: /^Take back: Send/ }).click();
  await expect(well(page)).toContainText('3 of 8');
  expect(problems).toEqual([]);
});
