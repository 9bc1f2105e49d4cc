import { expect, type Page } from '@playwright/test';
import {
  begin,
  cableUp,
  link,
  newShow,
  pasteGear,
  placeRest,
  powerOn,
  row,
  runsOn,
  takeIn,
  watchProblems,
  well,
  test,
  visit,
} from './steps.ts';

/** Every link sounded: all of them reach the bottom with real bytes. */
async function soundAll(page: Page, showId: string, links: number): Promise<void> {
  await visit(page, `/shows/${showId}/links?do=sound`);
  await expect(
    page.getByText(`${links} planned · ${links} reach bottom · 0 stop short · ${links} sounded`),
  ).toBeVisible({ timeout: 60_000 });
}

test('a camera remote with three cameras of two kinds, at slots of its own', async ({ page }) => {
  const problems = watchProblems(page);
  const gear = 'item,type\nRemote,camera remote\nTower x 2,PTZ camera\nHand,film camera\nHub,managed switch\n';
  const showId = await begin(page, 'Cameras', gear, '5 units');
  await link(page, showId, 'Remote', [/^Tower 1/, /^Tower 2/, /^Hand/]);
  await cableUp(page, showId, [/^Tower 1/, /^Tower 2/, /^Hand/]);
  await powerOn(page, showId);
  await soundAll(page, showId, 3);
  expect(problems).toEqual([]);
});

test('cue software starts a light cue by a message that is typed, after a wrong port was mended', async ({ page }) => {
  const gear = 'item,type\nBook,laptop\nCues,Cue program\nDesk,light desk\nHub,plain switch\n';
  const showId = await begin(page, 'Cues', gear, '4 units');
  await runsOn(page, showId, /^Cues/, /^Book/);
  await link(page, showId, 'Cues', [/^Desk OSC/]);
  await cableUp(page, showId, [/^Desk/]);
  await page.getByRole('button', { name: 'Settings' }).click();
  await page.getByLabel('Sends to port').fill('8003');
  await page.getByLabel('Test message').selectOption({ label: 'typed as it goes out' });
  await page.getByLabel('Message', { exact: true }).fill('/desk/cue/12/start 2.5');
  await page.getByRole('button', { name: 'It is “Start a cue”: use that' }).click();
  await page.getByRole('button', { name: 'Save settings' }).click();
  await expect(well(page)).toContainText('3 of 8');
  await page.getByRole('button', { name: 'Send to 8300' }).click();
  await powerOn(page, showId);
  await soundAll(page, showId, 1);
  await row(page, /^Desk/).click();
  await page.getByRole('link', { name: 'See it on the bench' }).click();
  await expect(well(page)).toContainText(/cue.*12.*running, 2.5 s/s);
  // what went over the wire, byte by byte
  await page.getByLabel('Show only lines with').fill('/desk/cue/12/start');
  await page
    .getByRole('button', { name: /bytes$/ })
    .first()
    .click();
  await expect(page.getByRole('region', { name: 'Tap' })).toContainText(/OSC message.*\/desk\/cue\/12\/start.*2\.5/s);
});

test('a panel drives show software through a bridge, whose lamp tells three states', async ({ page }) => {
  const gear = 'item,type\nPanel,key panel\nBook,laptop\nBridge,Panel bridge\nCues,Cue program\nHub,network switch\n';
  const showId = await newShow(page, 'Panel');
  await pasteGear(page, gear);
  // two kinds of switch: somebody has to say which
  await page.getByLabel('What “network switch” is').selectOption('Plain switch');
  await takeIn(page, '5 units');
  await visit(page, `/shows/${showId}/addresses?do=add`);
  await page.getByLabel('Range').fill('10.70.3.0/24');
  await page.getByRole('dialog').getByRole('button', { name: 'Add network' }).click();
  await placeRest(page);
  await runsOn(page, showId, /^Bridge/, /^Book/);
  await runsOn(page, showId, /^Cues/, /^Book/);
  await link(page, showId, 'Panel', [/^Bridge/]);
  await link(page, showId, 'Bridge', [/^Cues/]);
  await cableUp(page, showId, [/^Bridge/, /^Cues/]);
  await powerOn(page, showId);
  await soundAll(page, showId, 2);
  await visit(page, `/shows/${showId}/bench`);
  await page.getByRole('link', { name: /^Bridge up/ }).click();
  await expect(well(page)).toContainText('Lit, and the link works.');
});

test('a desk with its editor and two tablets, each with its own replies', async ({ page }) => {
  const gear =
    'item,type\nMixer,mixing desk\nBook,laptop\nEditor,Mixer editor\nTab x 2,tablet\nHub,plain switch\nAir,wifi access point\n';
  const showId = await begin(page, 'Mixing', gear, '7 units');
  await runsOn(page, showId, /^Editor/, /^Book/);
  await link(page, showId, 'Editor', [/^Mixer OSC/]);
  for (const tab of ['Tab 1', 'Tab 2']) await link(page, showId, tab, [/^Mixer OSC/]);
  await cableUp(page, showId, [/^Mixer/]);
  await powerOn(page, showId);
  await soundAll(page, showId, 3);
});

test('time code runs to who follows it, while two banks of faders move one desk', async ({ page }) => {
  const gear =
    'item,type\nClock,timecode source\nBig,timecode display\nMedia,media server\nMixer,audio mixer\n' +
    'Bank x 2,fader bank\nHub,managed switch\n';
  const showId = await begin(page, 'Time', gear, '7 units');
  await link(page, showId, 'Clock', [/^Big/, /^Media time/]);
  for (const bank of ['Bank 1', 'Bank 2']) await link(page, showId, bank, [/^Mixer network MIDI/]);
  await cableUp(page, showId, [/^Big/, /^Media/, /^Mixer/]);
  await powerOn(page, showId);
  await soundAll(page, showId, 4);
});

test('two presentation computers move each other on, and the switcher starts playout', async ({ page }) => {
  const gear =
    'item,type\nWords x 2,presentation computer\nCut,production switcher\nClips,playout machine\nHub,plain switch\n';
  const showId = await begin(page, 'Pictures', gear, '5 units');
  await link(page, showId, 'Words 1', [/^Words 2/]);
  await link(page, showId, 'Words 2', [/^Words 1/]);
  await link(page, showId, 'Cut', [/^Clips/]);
  await cableUp(page, showId, [/^Words 1/, /^Words 2/, /^Clips/]);
  await powerOn(page, showId);
  await soundAll(page, showId, 3);
});

test('two LED processors share their factory address until the plan is keyed in', async ({ page }) => {
  const gear = 'item,type\nBook,laptop\nWall,Wall program\nPro x 2,small led processor\nHub,plain switch\n';
  const showId = await begin(page, 'Wall', gear, '5 units');
  await runsOn(page, showId, /^Wall/, /^Book/);
  await link(page, showId, 'Wall', [/^Pro 1/, /^Pro 2/]);
  await cableUp(page, showId, [/^Pro 1/, /^Pro 2/]);
  await powerOn(page, showId);
  const everything = async (what: RegExp) => {
    await page.getByRole('button', { name: 'All units' }).click();
    await page.getByRole('button', { name: what }).click();
    await expect(page.getByRole('dialog')).toBeHidden();
  };
  await everything(/as delivered/);
  const errors = page.getByRole('region', { name: 'Errors that units report' });
  await expect(errors).toContainText('another unit has its address: Pro 1, Pro 2');
  await everything(/as planned/);
  await expect(errors).toBeHidden();
  await soundAll(page, showId, 2);
});

test('six amplifiers that give themselves addresses: in a chain, as a ring that storms, and as a star', async ({
  page,
}) => {
  const gear = 'item,type\nBook,laptop\nControl,Amplifier program\nAmp x 6,amplifier\nHub,plain switch\n';
  const showId = await newShow(page, 'Amps');
  await pasteGear(page, gear);
  await takeIn(page, '9 units');
  await visit(page, `/shows/${showId}/addresses?do=add`);
  await page.getByLabel('Range').fill('169.254.0.0/16');
  await page.getByRole('dialog').getByRole('button', { name: 'Add network' }).click();
  const chooseAll = async () => {
    await visit(page, `/shows/${showId}/rig`);
    await row(page, /^Amp 1/).click();
    await row(page, /^Amp 6/).click({ modifiers: ['Shift'] });
    await row(page, /^Book/).click({ modifiers: ['Control'] });
  };
  await chooseAll();
  await page.getByLabel('They get their address').selectOption('self');
  await expect(page.getByText('Give 7 units a self-assigned address')).toBeVisible();
  await runsOn(page, showId, /^Control/, /^Book/);
  await link(page, showId, 'Control', [/^Amp 1/, /^Amp 2/, /^Amp 3/, /^Amp 4/, /^Amp 5/, /^Amp 6/]);
  const amps = ['Amp 1', 'Amp 2', 'Amp 3', 'Amp 4', 'Amp 5', 'Amp 6'];
  const join = async (units: readonly string[], how: 'chain' | 'star', closes = false) => {
    await visit(page, `/shows/${showId}/cabling?do=join`);
    const dialog = page.getByRole('dialog');
    await dialog.getByLabel('How').selectOption(how);
    for (const name of units) await dialog.getByRole('checkbox', { name, exact: true }).check();
    if (closes) await dialog.getByRole('checkbox', { name: /a ring/ }).check();
    await dialog.getByRole('button', { name: /^Add \d/ }).click();
    await expect(dialog).toBeHidden();
  };
  await join(['Hub', 'Book'], 'chain');
  await join(['Hub', ...amps], 'chain', true);
  await powerOn(page, showId);
  const errors = page.getByRole('region', { name: 'Errors that units report' });
  await expect(errors).toContainText(/In the circle: .*Amp 6 port \d to Hub/, { timeout: 20_000 });
  // the last run goes: what was a ring is a chain
  await visit(page, `/shows/${showId}/cabling`);
  await row(page, /^Amp 6/).click();
  await page.getByRole('button', { name: 'Unplug it' }).click();
  await visit(page, `/shows/${showId}/bench`);
  await expect(errors).toBeHidden({ timeout: 20_000 });
  // each shows the address that it gave itself
  await chooseAll();
  await page.getByRole('button', { name: 'Write down what 7 units show' }).click({ timeout: 30_000 });
  await expect(page.getByText('Write down what 7 units show', { exact: true })).toBeVisible();
  await soundAll(page, showId, 6);
  // and as a star
  await visit(page, `/shows/${showId}/cabling`);
  await row(page, /^Amp 1/).click();
  await row(page, /^Amp 5/).click({ modifiers: ['Shift'] });
  await page.getByRole('button', { name: 'Unplug 5 runs' }).click();
  await row(page, /^Hub.*Amp 1/).click();
  await page.getByRole('button', { name: 'Unplug it' }).click();
  await expect(page.getByText('1 run', { exact: true }).first()).toBeVisible();
  await join(amps, 'star');
  await soundAll(page, showId, 6);
});

test('a type that nobody has yet is made on the way in, from a similar one, and works to the bottom', async ({
  page,
}) => {
  const showId = await newShow(page, 'Own type');
  await pasteGear(page, 'item,type\nFog,Zephyr fog engine\nBook,laptop\nCues,Cue program\nHub,plain switch\n');
  await page.getByRole('button', { name: 'Make this type' }).click();
  const types = page.getByRole('dialog', { name: 'Device types' });
  await types.getByLabel('Start with').selectOption({ label: 'a copy of Lighting desk' });
  await expect(types.getByLabel('Name', { exact: true })).toHaveValue('Zephyr fog engine');
  await types.getByLabel('Fixed at').fill('10.88.0.191');
  await types.getByRole('button', { name: 'Save the type' }).click();
  await takeIn(page, '4 units');
  await visit(page, `/shows/${showId}/addresses?do=add`);
  await page.getByLabel('Range').fill('10.70.3.0/24');
  await page.getByRole('dialog').getByRole('button', { name: 'Add network' }).click();
  await placeRest(page);
  await expect(row(page, /^Fog/)).toContainText('10.88.0.191');
  await runsOn(page, showId, /^Cues/, /^Book/);
  await link(page, showId, 'Cues', [/^Fog OSC/]);
  await cableUp(page, showId, [/^Fog/]);
  await powerOn(page, showId);
  await soundAll(page, showId, 1);
});
