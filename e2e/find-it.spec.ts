import { readFileSync, writeFileSync } from 'node:fs';
import { expect, type Page } from '@playwright/test';
import { newShow, pasteGear, placeRest, takeIn, violations, watchProblems, well, test, visit } from './steps.ts';

/** A unit's card on the bench. */
const card = (page: Page, name: string) =>
  page.getByRole('region', { name: 'Stand-ins' }).getByRole('link', { name: new RegExp(`^${name}`) });

test('faults found as a crew finds them: a script, a watch over the links, a unit looked for step by step, lamps and symptoms', async ({
  page,
}, info) => {
  test.setTimeout(180_000);
  page.setDefaultTimeout(25_000);
  const problems = watchProblems(page);
  const showId = await newShow(page, 'Find it');
  await pasteGear(
    page,
    'name,type,unit\nHost,Show host,1\nDesk,Lighting desk,1\nHub,Managed switch,1\nBook,Technician’s computer,1\nBank,Fader bank,1\n',
  );
  await takeIn(page, '5 units');
  await visit(page, `/shows/${showId}/addresses?do=add`);
  await page.getByLabel('Range').fill('10.2.0.0/27');
  await page.getByRole('dialog').getByRole('button', { name: 'Add network' }).click();
  await placeRest(page);
  for (const controller of ['Host', 'Book']) {
    await visit(page, `/shows/${showId}/links?do=add`);
    await page.getByLabel('Controller', { exact: true }).selectOption({ label: controller });
    await page.getByRole('group', { name: 'Controls' }).getByRole('checkbox').first().check();
    await page.getByRole('dialog').getByRole('button', { name: 'Add link' }).click();
    await page.getByRole('button', { name: new RegExp(`^Plug .*${controller}`) }).click();
    await expect(page.getByRole('button', { name: new RegExp(`^Plug .*${controller}`) })).toBeHidden();
  }
  // a computer lists only what is joined to its network
  await visit(page, `/shows/${showId}/rig`);
  await page.getByRole('row', { name: /^Bank/ }).click();
  await page.getByLabel('Plug into').selectOption({ label: 'Hub' });
  await page.getByLabel('Socket', { exact: true }).selectOption({ label: 'p8' });
  await page.getByRole('button', { name: 'Plug in' }).click();
  await expect(page.getByRole('button', { name: /^Unplug .* to Hub p8/ })).toBeVisible();
  await visit(page, `/shows/${showId}/bench`);
  await page.getByRole('button', { name: 'Power on' }).click();
  await expect(page.getByText('5 with power')).toBeVisible();

  await test.step('a script is kept as a file, refused with all its faults, played, and its hidden fault found', async () => {
    await page.getByRole('button', { name: 'From a script' }).click();
    expect(await violations(page)).toEqual([]);
    const dialog = page.getByRole('dialog', { name: 'Rehearse from a script' });
    await dialog.getByLabel('Unit of fault 1').selectOption('Desk');
    const saved = page.waitForEvent('download');
    await dialog.getByRole('button', { name: 'Save as a file' }).click();
    const script = JSON.parse(readFileSync(await (await saved).path(), 'utf8')) as { steps: object[] };
    const broken = info.outputPath('broken.json');
    const steps = [...script.steps, { ...script.steps[0], atSeconds: -1 }, { ...script.steps[0], kind: 'rain' }];
    writeFileSync(broken, JSON.stringify({ ...script, steps }));
    await dialog.getByLabel('Open a file').setInputFiles(broken);
    await expect(dialog.getByRole('alert')).toContainText('Fault 2:');
    await expect(dialog.getByRole('alert')).toContainText('Fault 3:');
    await dialog.getByRole('button', { name: 'Start it' }).click();
    const strip = page.getByRole('region', { name: 'Scripted rehearsal' });
    await expect(strip).toContainText('fault 1 is hidden');
    await strip.getByLabel('What is wrong').selectOption('wrong mask');
    await strip.getByLabel('At which unit').selectOption('Desk');
    await strip.getByRole('button', { name: 'That is it' }).click();
    await expect(strip).toContainText('1 wrong guess');
    await strip.getByLabel('What is wrong').selectOption('cable out');
    await strip.getByRole('button', { name: 'That is it' }).click();
    await expect(strip).toContainText(/cable out at Desk found in \d+ s/);
    await expect(strip).toContainText('It is over');
    await strip.getByRole('button', { name: 'Done' }).click();
    await expect(strip).toBeHidden();
  });

  await test.step('a link under watch tells when it breaks and when it heals', async () => {
    await visit(page, `/shows/${showId}/links`);
    await page.getByRole('button', { name: 'Watch' }).click();
    const strip = page.getByRole('region', { name: 'Links under watch' });
    await expect(strip).toContainText('Nothing changed so far');
    await expect(page.getByText(/2 sounded/)).toBeVisible();
    await visit(page, `/shows/${showId}/bench`);
    await card(page, 'Desk').click();
    await well(page).getByRole('button', { name: 'Pull its cable' }).click();
    await visit(page, `/shows/${showId}/links`);
    await expect(strip.getByRole('listitem').filter({ hasText: 'Host → Desk' })).toContainText('stops at cable now', {
      timeout: 40_000,
    });
    await page.getByRole('button', { name: 'Stop watching' }).click();
    await expect(strip).toContainText('Not watched any more');
  });

  await test.step('the unit is looked for step by step, and found once it is mended', async () => {
    await visit(page, `/shows/${showId}/bench`);
    await card(page, 'Desk').click();
    await well(page).getByRole('button', { name: 'Look for it, step by step' }).click();
    await expect(well(page)).toContainText('No lamp is lit at it. Plug its cable in, at both ends.');
    await well(page).getByRole('button', { name: 'Mend: cable out' }).click();
    await well(page).getByRole('button', { name: 'Look again' }).click();
    await expect(well(page)).toContainText('Book finds it.');
  });

  await test.step('a lamp is believed only beside a sounding, and a symptom leads to what is left to look at', async () => {
    await card(page, 'Host').click();
    await expect(well(page)).toContainText(/Untested|Dark, and the link stops at cable/);
    await page.getByRole('link', { name: 'Sound all links' }).click();
    await expect(page.getByText('1 reach bottom · 1 stops short · 2 sounded')).toBeVisible();
    await page.getByRole('row', { name: /^Desk.*answers/ }).click();
    await page.getByText('From what you see to what may cause it').click();
    await page.getByLabel('What do you see?').selectOption('A message leaves but nothing happens');
    await expect(well(page)).toContainText('Ruled out: the sounding went past it');
    await visit(page, `/shows/${showId}/bench`);
    await card(page, 'Host').click();
    await expect(well(page)).toContainText('Its own lamps, and what they are worth');
  });

  await test.step('at the unit: something is done, a set is stored and used, endpoints get their names', async () => {
    await card(page, 'Desk').click();
    await well(page).getByLabel('What to do at it').selectOption('Set the grand master (OSC control)');
    await well(page).getByLabel('share').fill('0.5');
    await well(page).getByRole('button', { name: 'Do it' }).click();
    await expect(well(page)).toContainText('0.5');
    await card(page, 'Bank').click();
    await well(page).getByLabel('Name of the new set').fill('Quay');
    await well(page).getByRole('button', { name: 'Store at 1' }).click();
    await expect(well(page)).toContainText('Quay · in use');
    await card(page, 'Book').click();
    await well(page).getByRole('button', { name: 'Note the list as it is' }).click();
    const input = well(page).getByLabel(/^What in \d+ is/);
    await input.fill('Bank');
    await input.press('Enter');
    await expect(input).toHaveValue('Bank');
  });
  expect(problems).toEqual([]);
});

test('the tour leads through a fresh demo, past every screen, and is left at any time', async ({ page }) => {
  const problems = watchProblems(page);
  await page.goto('/');
  await page.getByRole('button', { name: 'Take the tour' }).click();
  const tour = page.getByRole('region', { name: 'Tour' });
  await expect(tour).toContainText('1 of 7 · The rig.');
  for (const title of ['A unit', 'Addresses', 'Cabling', 'A link', 'The bench', 'Findings']) {
    await tour.getByRole('button', { name: `Next: ${title}` }).click();
    await expect(tour).toContainText(`of 7 · ${title}`);
    await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
    // what the stop tells of is there
    await expect(page.getByText('no longer in the show')).toBeHidden();
  }
  await tour.getByRole('button', { name: 'Back' }).click();
  await expect(tour).toContainText('6 of 7');
  await page.reload();
  await expect(tour).toContainText('6 of 7');
  await tour.getByRole('button', { name: 'Leave the tour' }).click();
  await expect(tour).toBeHidden();
  await page.reload();
  await expect(page.getByRole('heading', { name: 'Bench', level: 1 })).toBeVisible();
  await expect(tour).toBeHidden();
  expect(problems).toEqual([]);
});
