import { Buffer } from 'node:buffer';
import { expect, type Page } from '@playwright/test';
import { demo, newShow, row, violations, watchProblems, well, test } from './steps.ts';

const screens: readonly (readonly [string, string, (page: Page) => Promise<void>])[] = [
  ['shows', '/', async (page) => expect(page.locator(`a[href="${demo}/rig"]`)).toBeVisible()],
  ['rig', `${demo}/rig`, async (page) => expect(row(page, /Caller gateway/)).toBeVisible()],
  ['a device', `${demo}/rig/camera-3`, async (page) => expect(well(page)).toContainText('10.61.20.33')],
  [
    'gear list',
    `${demo}/rig?do=import`,
    async (page) => page.getByLabel('Paste the list here').fill('name,type\nA,Nonsense\nB,Tablet\n'),
  ],
  [
    'several devices',
    `${demo}/rig/remote`,
    async (page) => row(page, /Fader bank right/).click({ modifiers: ['Shift'] }),
  ],
  ['columns', `${demo}/rig`, async (page) => page.getByRole('button', { name: 'View' }).click()],
  [
    'device types',
    `${demo}/rig?do=types`,
    async (page) => page.getByRole('button', { name: /^Pan-tilt camera/ }).click(),
  ],
  ['before the site', `${demo}/rig?do=site`, async (page) => expect(page.getByText('still open')).toBeVisible()],
  [
    'a placement',
    `${demo}/addresses/control?do=place`,
    async (page) => expect(page.getByRole('region', { name: 'What changes' })).toBeVisible(),
  ],
  [
    'what was found',
    `${demo}/addresses/control?do=found`,
    async (page) => page.getByLabel('Paste the listing here').fill('10.61.20.31 02-1e-70-00-00-14\n'),
  ],
  ['an LED wall', `${demo}/wall`, async (page) => expect(page.getByText('seen: otherwise')).toBeVisible()],
  ['bring-up', `${demo}/bring-up`, async (page) => expect(page.getByRole('list', { name: 'Steps' })).toBeVisible()],
  [
    'a task of the bring-up',
    `${demo}/bring-up/key_in%3Acamera-1`,
    async (page) => expect(page.getByRole('heading', { name: /Camera 1/ }).first()).toBeVisible(),
  ],
  ['a block', `${demo}/addresses/control`, async (page) => page.getByRole('button', { name: /^Cameras/ }).click()],
  ['add a device', `${demo}/rig?do=add`, async (page) => expect(page.getByRole('dialog')).toBeVisible()],
  ['addresses', `${demo}/addresses/control`, async (page) => expect(well(page)).toContainText('Blocks')],
  [
    'an address',
    `${demo}/addresses/control/control-camera-3-lan`,
    async (page) => expect(well(page)).toContainText('Key in'),
  ],
  ['add a network', `${demo}/addresses?do=add`, async (page) => expect(page.getByRole('dialog')).toBeVisible()],
  ['cabling', `${demo}/cabling`, async (page) => row(page, /^Amplifier 3/).click()],
  ['a run', `${demo}/cabling?do=add`, async (page) => page.getByRole('button', { name: 'Add run' }).click()],
  [
    'runs that are read',
    `${demo}/cabling?do=read`,
    async (page) => page.getByLabel('Paste the list here').fill('nowhere,,Switch quay\n'),
  ],
  [
    'several runs',
    `${demo}/cabling?do=join`,
    async (page) => page.getByRole('checkbox', { name: 'Camera 4 jury boat' }).check(),
  ],
  [
    'if this goes',
    `${demo}/cabling?see=losses&lost=unit%20switch-quay`,
    async (page) => page.getByRole('button', { name: 'Hold against any one run' }).click(),
  ],
  [
    'sockets',
    `${demo}/cabling?see=sockets`,
    async (page) => expect(page.getByText('right way round').first()).toBeVisible(),
  ],
  [
    'VLANs',
    `${demo}/cabling?see=vlans`,
    async (page) => expect(page.getByRole('button', { name: /^U Switch booth p1,/ })).toBeVisible(),
  ],
  [
    'inputs',
    `${demo}/cabling?see=pictures`,
    async (page) => expect(page.getByText('another number is entered')).toBeVisible(),
  ],
  [
    'changeover',
    `${demo}/cabling?see=changeover`,
    async (page) => expect(page.getByText('Every run is there always')).toBeVisible(),
  ],
  [
    'who controls whom',
    `${demo}/links?see=matrix`,
    async (page) => expect(page.getByText('A figure says')).toBeVisible(),
  ],
  ['chains', `${demo}/links?see=chains`, async (page) => expect(page.getByText('Next to test').first()).toBeVisible()],
  ['sheets', `${demo}/links?see=sheets`, async (page) => expect(page.getByText('HTTP over TCP').first()).toBeVisible()],
  [
    'a unit',
    `${demo}/rig/switch-booth/page`,
    async (page) => expect(page.getByRole('region', { name: 'Back panel' })).toBeVisible(),
  ],
  ['links', `${demo}/links`, async (page) => expect(row(page, /Lighting desk/)).toBeVisible()],
  [
    'a sounding',
    `${demo}/links/remote-to-camera-3`,
    async (page) => page.getByRole('button', { name: 'Settings' }).click(),
  ],
  ['bench', `${demo}/bench/desk`, async (page) => expect(well(page)).toContainText('Its own menu')],
  ['add a link', `${demo}/links?do=add`, async (page) => page.getByText(/^Not in this list/).click()],
  ['ports', `${demo}/links?do=ports`, async (page) => expect(page.getByRole('dialog')).toContainText('8300')],
  ['keys', `${demo}/rig`, async (page) => page.keyboard.press('?')],
  ['all stand-ins', `${demo}/bench`, async (page) => page.getByRole('button', { name: 'All units' }).click()],
  ['addresses heard', `${demo}/bench`, async (page) => page.getByRole('button', { name: /^Addresses / }).click()],
  ['a new show', '/', async (page) => page.getByRole('button', { name: 'New show' }).click()],
  ...['Rename', 'Copy', 'Remove'].map(
    (what) =>
      [
        what,
        '/',
        // a journey beside this one may have made a demo of its own
        (page: Page) =>
          page
            .getByRole('button', { name: `${what} Harbour Finals`, exact: true })
            .first()
            .click(),
      ] as const,
  ),
  [
    'a file that is no show',
    '/',
    async (page) => {
      await page
        .getByLabel('Open a file', { exact: true })
        .setInputFiles({ name: 'x.json', mimeType: 'application/json', buffer: Buffer.from('{}') });
      await expect(page.getByRole('dialog', { name: 'The file was not opened' })).toBeVisible();
    },
  ],
  ['findings', `${demo}/findings`, async (page) => expect(page.getByText(/stop it/).first()).toBeVisible()],
  ['no such screen', `${demo}/nothing`, async (page) => expect(page.getByText('There is no screen')).toBeVisible()],
  ['no such show', '/shows/nowhere/rig', async (page) => expect(page.getByText('No show has this id')).toBeVisible()],
];

test('axe finds nothing serious on any screen or dialogue, in both themes', async ({ page }) => {
  test.setTimeout(600_000);
  await page.addInitScript(() => localStorage.setItem('deep-patch-theme', 'night'));
  for (const [name, path, ready] of screens) {
    await page.goto(path);
    await ready(page);
    expect([name, await violations(page)]).toEqual([name, []]);
    // only colours differ between the themes; what fades from one to the other would be read half-way
    await page.evaluate(() => {
      const still = new CSSStyleSheet();
      still.replaceSync('* { transition: none !important; animation: none !important }');
      document.adoptedStyleSheets = [still];
      document.documentElement.dataset['theme'] = 'chart';
    });
    expect([`${name} in chart`, await violations(page, ['color-contrast'])]).toEqual([`${name} in chart`, []]);
  }
});

test('the whole way by keyboard alone', async ({ page }) => {
  const problems = watchProblems(page);
  await newShow(page, 'Keys only');
  const { keyboard } = page;
  const focused = () =>
    page.evaluate(() => document.activeElement?.getAttribute('aria-label') ?? document.activeElement?.textContent);
  await keyboard.press('Control+k');
  await keyboard.type('read a gear');
  await keyboard.press('Enter');
  await expect(page.getByLabel('Paste the list here')).toBeFocused();
  await page.evaluate(() => {
    const data = new DataTransfer();
    data.setData('text', 'name,type,unit\nHost,Show host,1\nDesk,Lighting desk,1\nHub,Managed switch,1\n');
    document.activeElement?.dispatchEvent(
      new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }),
    );
  });
  await expect(page.getByText('nothing to mend')).toBeVisible();
  for (let tries = 0; tries < 25 && (await focused()) !== 'Take in 3 units'; tries += 1) await keyboard.press('Tab');
  await keyboard.press('Enter');
  await expect(page.getByRole('dialog')).toBeHidden();
  await expect(row(page, /Desk/)).toBeVisible();

  await keyboard.press('g');
  await keyboard.press('a');
  await expect(page.getByRole('heading', { name: 'Addresses' })).toBeVisible();
  await keyboard.press('Control+k');
  await keyboard.type('add a network');
  await keyboard.press('Enter');
  await expect(page.getByLabel('Range')).toBeFocused();
  await keyboard.type('10.5.0.0/24');
  await keyboard.press('Enter');
  await expect(row(page, /Desk/)).toBeVisible();
  await keyboard.press('Control+k');
  await keyboard.type('place the rest');
  await keyboard.press('Enter');
  await expect(page.getByRole('dialog', { name: 'Place addresses' })).toBeVisible();
  for (let tries = 0; tries < 12 && !(await focused())?.startsWith('Place '); tries += 1) await keyboard.press('Tab');
  await keyboard.press('Enter');
  await expect(page.getByRole('dialog')).toBeHidden();
  await expect(row(page, /Desk/)).toContainText('10.5.0.');
  await page.getByLabel('Interfaces on Control, rows').focus();
  await keyboard.press('ArrowDown');
  await expect(page.getByRole('row', { selected: true })).toHaveCount(1);

  await keyboard.press('Control+k');
  await keyboard.type('add a link');
  await keyboard.press('Enter');
  await expect(page.getByLabel('Controller', { exact: true })).toBeFocused();
  await keyboard.press('Tab');
  await keyboard.press('Space');
  await expect(page.getByRole('dialog').getByRole('button', { name: 'Add link' })).toBeEnabled();
  for (let tries = 0; tries < 6 && (await focused()) !== 'Add link'; tries += 1) await keyboard.press('Tab');
  await keyboard.press('Enter');
  await expect(well(page)).toContainText('Neither Host nor Desk is plugged in.');
  for (let tries = 0; tries < 40 && !(await focused())?.startsWith('Plug Host'); tries += 1)
    await keyboard.press('Tab');
  await keyboard.press('Enter');
  await expect(well(page)).toContainText('8 of 8');
  await keyboard.press('Control+z');
  await expect(well(page)).toContainText('0 of 8');
  await keyboard.press('Control+Shift+z');
  await expect(well(page)).toContainText('8 of 8');

  await keyboard.press('?');
  await expect(page.getByRole('dialog', { name: 'Keys' })).toContainText('Go to Bench');
  await keyboard.press('Escape');
  await keyboard.press('Control+k');
  await keyboard.type('10.5.0.');
  await expect(page.getByRole('dialog', { name: 'Find' }).getByRole('option').first()).toContainText('10.5.0.');
  await keyboard.press('Enter');
  await expect(well(page)).toContainText('Key in');
  expect(problems).toEqual([]);
});

test('deep links, the back button and a deleted thing', async ({ page }) => {
  await page.goto(`${demo}/rig/desk`);
  await expect(well(page)).toContainText('Lighting desk');
  await page.getByRole('link', { name: /driven by Show host/ }).click();
  await expect(page).toHaveURL(/links\/host-to-desk$/);
  await page.goBack();
  await expect(page).toHaveURL(/rig\/desk$/);
  await page.goto(`${demo}/links/never-was`);
  await expect(page.getByText('This link is no longer in the show.')).toBeVisible();
});

for (const [width, height] of [
  [390, 844],
  [1024, 640],
  // 1280x800 at 200 %
  [640, 400],
] as const)
  test(`every panel can be read and its last button pressed at ${width}x${height}`, async ({ page }) => {
    await page.setViewportSize({ width, height });
    await page.goto(`${demo}/links`);
    const linkRow = page.locator('[role=row][aria-selected]').first();
    await linkRow.click();
    await expect(well(page)).toContainText('of 8');
    const link = new URL(page.url()).pathname;
    await page.goto(`${demo}/addresses`);
    await page.locator('[role=row][aria-selected]').first().click();
    await expect(well(page)).toHaveAccessibleName(/^Address of /);
    const address = new URL(page.url()).pathname;
    for (const path of [link, address, `${demo}/rig/camera-3`, `${demo}/bench/camera-3`, `${demo}/addresses`]) {
      await page.goto(path);
      await expect(well(page).getByRole('button').first()).toBeVisible();
      const box = await well(page).boundingBox();
      expect([path, (box?.width ?? 0) >= Math.min(width - 4, 300), (box?.height ?? 0) >= 100]).toEqual([
        path,
        true,
        true,
      ]);
      const last = well(page).getByRole('button').last();
      await last.scrollIntoViewIfNeeded();
      // pressing it would change the show: whether something lies over it is tried without
      await last.click({ trial: true });
      expect(await page.evaluate(() => document.documentElement.scrollWidth - innerWidth)).toBe(0);
      const close = well(page).getByRole('link', { name: /^Close / });
      if ((await close.count()) === 0) continue;
      await close.click();
      await expect(close).toBeHidden();
    }
  });
