import { readFileSync } from 'node:fs';
import { expect, type Page } from '@playwright/test';
import { newShow, pasteGear, placeRest, row, takeIn, watchProblems, well, test, visit } from './steps.ts';

async function startUps(page: Page, mode: string): Promise<void> {
  await page.getByRole('button', { name: 'All units' }).click();
  await page.getByLabel('Start-up times').selectOption(mode);
  await page.keyboard.press('Escape');
  await expect(page.getByRole('dialog')).toBeHidden();
}

test('a site on the desk: keyed in and lost, broken and mended, scanned, tapped, saved as a capture, and rehearsed', async ({
  page,
}) => {
  test.setTimeout(120_000);
  page.setDefaultTimeout(15_000);
  const problems = watchProblems(page);
  const showId = await newShow(page, 'Dress rehearsal');
  await pasteGear(
    page,
    'name,type,unit\nHost,Show host,1\nDesk,Lighting desk,1\nHub,Managed switch,1\nBook,Technician’s computer,1\n',
  );
  await takeIn(page, '4 units');
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
  await expect(well(page)).toContainText('Sound');
  await visit(page, `/shows/${showId}/bench`);

  await test.step('start-up times are skipped unless they are asked for', async () => {
    await startUps(page, 'real');
    await page.getByRole('button', { name: 'Power on' }).click();
    await page.getByRole('link', { name: /^Desk/ }).click();
    await expect(well(page)).toContainText(/starting, \d+ s to go/);
    await startUps(page, 'skipped');
    await well(page).getByRole('button', { name: 'Cut its power' }).click();
    await well(page).getByRole('button', { name: 'Power on' }).click();
    await expect(well(page)).toContainText('took in 0 messages');
  });

  await test.step('what is keyed in counts after its acts, and is lost with the power', async () => {
    const own = well(page);
    const before = await own.getByText(/^10\.2\.0\.\d+ \/27/).innerText();
    await own.getByRole('button', { name: 'Key something in' }).click();
    await expect(own.getByRole('list', { name: 'Ways to set it' })).toContainText('works now');
    await own.getByLabel('Address and mask').fill('10.2.0.300/27');
    await own.getByRole('button', { name: 'Key it in', exact: true }).click();
    await expect(own.getByLabel('Address and mask')).toHaveAttribute('aria-invalid', 'true');
    await own.getByLabel('Address and mask').fill('10.2.0.30/27');
    await own.getByRole('button', { name: 'Key it in', exact: true }).click();
    await expect(own).toContainText('Keyed in, not in force yet');
    await own.getByRole('button', { name: 'Cut its power' }).click();
    await own.getByRole('button', { name: 'Power on' }).click();
    await expect(own).not.toContainText('Keyed in, not in force yet');
    await expect(own).toContainText(before);
    await own.getByRole('button', { name: 'Key something in' }).click();
    await own.getByLabel('Address and mask').fill('10.2.0.30/27');
    await own.getByRole('button', { name: 'Key it in', exact: true }).click();
    await own.getByRole('button', { name: 'Confirm each entry' }).click();
    await own.getByRole('button', { name: /^Restart the unit/ }).click();
    await expect(own).toContainText('10.2.0.30 /27');
    await expect(own).toContainText('keyed in at the unit');
    await own.getByRole('button', { name: 'As planned again' }).click();
    await expect(own).toContainText(before);
  });

  await test.step('a fault is set, stops the link, is counted, and mended', async () => {
    await well(page).getByRole('button', { name: 'Pull its cable' }).click();
    await expect(page.getByText('1 fault set by you')).toBeVisible();
    await well(page).getByRole('link', { name: /^Host/ }).click();
    await page
      .getByRole('button', { name: /^Sound/ })
      .first()
      .click();
    await expect(well(page)).toContainText('no lamp at Desk');
    await page.goBack();
    await well(page).getByRole('button', { name: 'Mend: cable out' }).click();
    await expect(page.getByText('1 fault set by you')).toBeHidden();
  });

  await test.step('a scan finds what answers, and the plan is compared with it', async () => {
    await page.getByRole('button', { name: 'Scan', exact: true }).click();
    const strip = page.getByRole('region', { name: 'Scan' });
    await expect(strip).toContainText(/looked round: \d+ units answered/);
    await strip.getByRole('link', { name: 'Compare with the plan' }).click();
    await expect(row(page, /Desk/)).toContainText('there');
    await visit(page, `/shows/${showId}/bench`);
  });

  await test.step('the tap shows what goes over the network, filtered, held, by address, and as a file', async () => {
    const tap = page.getByRole('region', { name: 'Tap' });
    await page.getByRole('link', { name: 'Sound all links' }).click();
    await expect(page.getByText('1 reach bottom · 1 stops short · 2 sounded')).toBeVisible();
    await page
      .getByRole('link', { name: /^Bench/ })
      .first()
      .click();
    await tap.getByLabel('Protocol').selectOption('OSC');
    await expect(tap).toContainText('/desk/cue/31/start 4.0');
    await expect(tap).not.toContainText('who has');
    await tap.getByLabel('Show only lines with').fill('nothing like it');
    await expect(tap).toContainText('No line passes the filter.');
    await tap.getByLabel('Show only lines with').fill('');
    await tap.getByRole('button', { name: 'Hold' }).click();
    await expect(tap.getByRole('button', { name: 'Go on' })).toHaveAttribute('aria-pressed', 'true');
    await tap.getByRole('button', { name: 'Go on' }).click();
    await tap.getByRole('button', { name: /^Addresses/ }).click();
    await expect(page.getByRole('dialog')).toContainText('/desk/cue/31/start');
    await page.getByRole('dialog').getByRole('button', { name: 'Close' }).click();
    const saved = page.waitForEvent('download');
    await tap.getByRole('link', { name: 'Save capture' }).click();
    const bytes = readFileSync(await (await saved).path());
    expect(bytes.subarray(0, 4).toString('hex')).toBe('0a0d0d0a');
    expect(bytes.includes('/desk/cue/31/start')).toBe(true);
  });

  await test.step('a rehearsal hides a fault, tells a guess from the truth, and mends it', async () => {
    await page.getByRole('button', { name: 'Rehearse a fault' }).click();
    const strip = page.getByRole('region', { name: 'Rehearsal' });
    await expect(strip).toContainText('Host no longer drives Desk');
    await strip.getByLabel('What is wrong').selectOption('loop without spanning tree');
    await strip.getByLabel('At which unit').selectOption('Hub');
    await strip.getByRole('button', { name: 'That is it' }).click();
    await expect(strip).toContainText(/Not that: it was .* at (Host|Desk), not loop without spanning tree at Hub/);
    await strip.getByRole('button', { name: 'Another one' }).click();
    await strip.getByRole('button', { name: 'Tell me' }).click();
    await expect(strip).toContainText('Given up: it was');
    await strip.getByRole('button', { name: 'Done' }).click();
    await expect(strip).toBeHidden();
  });
  expect(problems).toEqual([]);
});
