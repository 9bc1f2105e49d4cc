import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { basename, join } from 'node:path';
import type { show as core, Show } from '@deep-patch/core';
import { expect, type Page } from '@playwright/test';
import { begin, cableUp, link, newShow, powerOn, violations, watchProblems, test, visit } from './steps.ts';

const showOf = async (page: Page, showId: string): Promise<Show> =>
  (await (await page.request.get(`/api/shows/${showId}`)).json()) as Show;

/** What a crew would key in at several places, as one change. */
async function change(
  page: Page,
  showId: string,
  edits: readonly Pick<core.Edit, 'table' | 'id' | 'after'>[],
): Promise<void> {
  const show = await showOf(page, showId);
  const full = edits.map(({ table, id, after }) => {
    const there = (show[table] as Readonly<Record<string, core.Row>>)[id];
    if (!there) return { table, id, base: 0, before: null, after };
    const { rev, ...before } = there;
    return { table, id, base: rev, before, after: { ...before, ...after } };
  });
  const body = { id: crypto.randomUUID(), author: 'author-on-air-1', change: { label: 'By the crew', edits: full } };
  const answer = await page.request.post(`/api/shows/${showId}/changes`, { data: body });
  expect([answer.status(), await answer.text()]).toEqual([201, expect.any(String)]);
}

const unit = (show: Show, name: string): core.Device => {
  const found = Object.values(show.devices).find((device) => device.name === name);
  if (!found) throw new Error(`no ${name}`);
  return found;
};

test('a cut to playout over the air: the delay is worked out from takes, set, and no frame is frozen', async ({
  page,
}) => {
  const problems = watchProblems(page);
  const showId = await begin(
    page,
    'Over the air',
    'item,type\nMix,production switcher\nReel,playout machine\nHub,managed switch\n',
    '3 units',
  );
  await link(page, showId, 'Mix', [/^Reel/]);
  await cableUp(page, showId, [/^Reel/]);
  const show = await showOf(page, showId);
  const [mix, reel] = [unit(show, 'Mix'), unit(show, 'Reel')];
  const run = Object.values(show.cables).find(
    ({ fromDevice, toDevice }) => fromDevice === reel.id || toDevice === reel.id,
  );
  const entry = Object.values(show.links)[0];
  await change(page, showId, [
    {
      table: 'cables',
      id: run?.id ?? '',
      after: { medium: 'wireless', grade: null, lengthM: null, delayMs: 55 } as never,
    },
    { table: 'links', id: entry?.id ?? '', after: { slot: 5 } as never },
    {
      table: 'cables',
      id: 'picture',
      after: {
        ...{ id: 'picture', fromDevice: reel.id, fromSocket: 'out-1', toDevice: mix.id, toSocket: 'in-5' },
        ...{ medium: 'copper', grade: null, stage: 'both', lengthM: 3, delayMs: null },
      } as never,
    },
  ]);
  await visit(page, `/shows/${showId}/on-air?see=lists`);
  await page.getByRole('button', { name: 'Add an item' }).click();
  const item = page.getByRole('complementary', { name: 'The item' });
  await item.getByLabel('File').fill('regatta.mp4');
  await item.getByLabel('Length in seconds').fill('20');
  await item.getByLabel('Length in seconds').press('Enter');
  await item.getByRole('button', { name: 'Add one' }).click();
  await item.getByLabel('Second', { exact: true }).fill('18');
  await item.getByLabel('Second', { exact: true }).press('Enter');
  await expect(item).toContainText('goes on beyond its end');
  await visit(page, `/shows/${showId}/on-air/${mix.id}/5`);
  await page.getByLabel('Pictures a second of Mix').selectOption('25');
  await page.getByRole('button', { name: 'Take 200 times' }).click();
  const set = page.getByRole('button', { name: /^Set the switcher to/ });
  await expect(set).toBeVisible({ timeout: 60_000 });
  await expect(page.getByText(/200 of 200 takes of input 5 showed a frozen first frame/)).toBeVisible({
    timeout: 60_000,
  });
  const frames = Number(/\d+/.exec((await set.textContent()) ?? '')?.[0]);
  // the player alone needs three frames and more, the air another one and a half
  expect(frames).toBeGreaterThanOrEqual(6);
  await set.click();
  await expect(page.getByRole('heading', { name: 'That hides every start.' })).toBeVisible();
  expect(unit(await showOf(page, showId), 'Mix').takeDelay).toBe(frames);
  // over the air one packet in a few hundred is lost, and its order comes late: more takes find that, and the figure follows
  const stop = page.getByRole('button', { name: /^Stop at/ });
  const tooFew = page.getByRole('heading', { name: /frames? hides? every start\.$/ });
  for (let more = 1; more === 1 || (await tooFew.isVisible()); more += 1) {
    expect(more).toBeLessThan(9);
    if (await tooFew.isVisible()) await set.click();
    await expect(tooFew).toBeHidden();
    await page.getByRole('button', { name: 'Take 200 times again' }).click();
    await expect(stop).toBeVisible();
    await expect(stop).toBeHidden({ timeout: 60_000 });
    await expect(page.getByRole('columnheader', { name: `what ${more === 1 ? 400 : 500} takes show` })).toBeVisible();
  }
  await expect(page.getByText(/showed a frozen first frame/)).toBeHidden();
  // by the keys of the handle: one frame less is seen for what it is
  await page.getByRole('slider', { name: 'Take delay in frames' }).focus();
  for (let less = 0; less < 3; less += 1) await page.keyboard.press('ArrowLeft');
  await expect(page.getByRole('row', { name: /show the first frame frozen/ }).last()).toBeVisible();
  expect(await violations(page)).toEqual([]);
  await visit(page, `/shows/${showId}/on-air/${mix.id}/5?see=happens`);
  await page.getByLabel(/^Cuts, one after the other/).fill('5 at 1, 1 at 8, nine');
  await expect(page.getByRole('alert')).toContainText('“nine” is no cut.');
  await page.getByLabel(/^Cuts, one after the other/).fill('5 at 1, 1 at 8');
  await page.getByRole('button', { name: 'The same on the bench' }).click();
  await expect(page.getByText('The bench did the same.')).toBeVisible({ timeout: 60_000 });
  await powerOn(page, showId);
  await visit(page, `/shows/${showId}/on-air/${mix.id}/5`);
  await page.getByRole('button', { name: 'Take 5', exact: true }).click();
  await expect(page.getByRole('button', { name: /^5 Reel.* on air$/ })).toBeVisible();
  // whatever else the switcher can be told, each with what its own screen says after it
  await page.getByRole('button', { name: 'Switcher', exact: true }).click();
  const deed = (label: string) => page.getByRole('listitem').filter({ hasText: label });
  await deed('Load a still into a place').getByRole('button', { name: 'Do it' }).click();
  await expect(deed('Load a still into a place').getByRole('status')).toContainText('still: 1: final-board.png');
  await expect(deed('Load a still into a place').getByRole('img', { name: 'passes' })).toBeVisible();
  await deed('Put a colour on air').getByRole('button', { name: 'Do it' }).click();
  await expect(deed('Put a colour on air').getByRole('status')).toContainText('on air: blue fill');
  await deed('Bring an input on air over').getByLabel('input').fill('9');
  await expect(deed('Bring an input on air over').getByRole('button', { name: 'Do it' })).toBeDisabled();
  await deed('Bring an input on air over').getByLabel('input').fill('1');
  await deed('Bring an input on air over').getByRole('button', { name: 'Do it' }).click();
  await expect(deed('Bring an input on air over').getByRole('img', { name: 'passes' })).toBeVisible();
  expect(problems).toEqual([]);
});

test('time code over network MIDI to a receiver whose name is one letter wrong: found, mended, and it runs', async ({
  page,
}) => {
  const problems = watchProblems(page);
  const showId = await begin(
    page,
    'One letter',
    'item,type\nClock,timecode source\nWall server,media server\nHub,managed switch\n',
    '3 units',
  );
  await link(page, showId, 'Clock', [/^Wall server time code/]);
  await cableUp(page, showId, [/^Wall server/]);
  await powerOn(page, showId);
  await visit(page, `/shows/${showId}/timecode`);
  await page.getByLabel('Time code from').selectOption({ label: 'Clock' });
  await page.getByLabel('Time code to').selectOption({ label: 'Wall server' });
  await page.getByRole('button', { name: 'Add the hop' }).click();
  const hop = page.getByRole('complementary', { name: 'The hop' });
  await hop.getByLabel('Name at Clock').fill('Pier clock');
  await hop.getByLabel('Name chosen at Wall server').fill('Pier c1ock');
  await hop.getByLabel(/^Time code input/).focus();
  await hop.getByLabel('Rate of Wall server').selectOption('25');
  await expect(page.getByText('The names are different: “Pier c1ock” waits for “Pier clock”.')).toBeVisible();
  const server = page.getByRole('button', { name: /^Wall server waits for/ });
  await expect(server).toContainText('stands');
  // the bench says so too: nothing is heard there
  const face = async () => {
    const id = unit(await showOf(page, showId), 'Wall server').id;
    const state = (await (await page.request.get(`/api/bench/${showId}`)).json()) as {
      standins: { deviceId: string; face: [string, string][] }[];
    };
    return Object.fromEntries(state.standins.find(({ deviceId }) => deviceId === id)?.face ?? []) as Record<
      string,
      string
    >;
  };
  await expect.poll(async () => (await face())['time code']).toBe('none');
  await page.getByRole('button', { name: 'Use “Pier clock”' }).click();
  await expect(server).toContainText(/\d\d:\d\d:\d\d:\d\d/, { timeout: 30_000 });
  const before = await server.textContent();
  await expect.poll(() => server.textContent()).not.toBe(before);
  await expect(server).toContainText(/with the source|behind|ahead/);
  expect(await violations(page)).toEqual([]);
  // off the wire: the same code, with how evenly it comes
  await page.getByRole('button', { name: 'Read MIDI' }).click();
  await page.getByRole('button', { name: 'What the bench’s tap has' }).click();
  const stream = page.getByRole('region', { name: /^From Clock/ }).first();
  await expect(stream).toContainText('MIDI time code at 25', { timeout: 30_000 });
  await expect(stream.locator('dd').nth(4)).toHaveText('0');
  expect(problems).toEqual([]);
});

test('somebody calls in: a channel on an input, the call placed, taken on air, and ended', async ({ page }) => {
  const problems = watchProblems(page);
  const gear = 'item,type\nMix,production switcher\nBooth,caller gateway\nHub,managed switch\n';
  const showId = await begin(page, 'Calls', gear, '3 units');
  await powerOn(page, showId);
  await visit(page, `/shows/${showId}/on-air`);
  await page.getByRole('button', { name: /^3 Input 3/ }).click();
  await page.getByLabel('Declared as').selectOption('a caller');
  await page.getByLabel('Caller channel').selectOption('Channel 2 of Booth');
  const call = page.getByRole('region', { name: 'A call on the bench' });
  await expect(call).toContainText('Channel 2 of Booth: nobody');
  await call.getByLabel('Who calls in').fill('Pier Nine');
  await call.getByRole('button', { name: 'Place the call' }).click();
  await expect(call).toContainText('Channel 2 of Booth: Pier Nine');
  await expect(page.getByRole('button', { name: /^3 / })).toContainText('caller, Channel 2: Pier Nine');
  await call.getByRole('button', { name: 'Take it' }).click();
  await expect(call).toContainText('on air: Pier Nine');
  await call.getByRole('button', { name: 'Hang up' }).click();
  await expect(call).toContainText('on air: nobody');
  expect(await violations(page)).toEqual([]);
  expect(problems).toEqual([]);
});

/** A film of a second and a still, as the browser itself encodes them. */
async function filmed(page: Page): Promise<{ film: Buffer; still: Buffer }> {
  const bytes = await page.evaluate(async () => {
    const canvas = document.createElement('canvas');
    Object.assign(canvas, { width: 320, height: 180 });
    const pen = canvas.getContext('2d');
    const recorder = new MediaRecorder(canvas.captureStream(25), { mimeType: 'video/mp4' });
    const parts: Blob[] = [];
    recorder.addEventListener('dataavailable', ({ data }) => parts.push(data));
    recorder.start();
    for (let at = 0; at < 25; at += 1) {
      if (pen) pen.fillStyle = `hsl(${at * 10} 80% 50%)`;
      pen?.fillRect(0, 0, 320, 180);
      await new Promise((done) => setTimeout(done, 40));
    }
    await new Promise((done) => {
      recorder.addEventListener('stop', done);
      recorder.stop();
    });
    const still = await new Promise<Blob | null>((done) => canvas.toBlob(done, 'image/jpeg'));
    const of = async (blob: Blob) => [...new Uint8Array(await blob.arrayBuffer())];
    return { film: await of(new Blob(parts)), still: await of(still ?? new Blob()) };
  });
  return { film: Buffer.from(bytes.film), still: Buffer.from(bytes.still) };
}

test('linear time code is made, read back whole, and a damaged copy says where', async ({ page }, info) => {
  const problems = watchProblems(page);
  await page.goto('/shows/harbour-finals/timecode?see=sound');
  await page.getByRole('button', { name: 'Make a file' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('Rate').selectOption('29.97df');
  await dialog.getByLabel('First time').fill('10:59:30:00');
  await dialog.getByLabel('Minutes').fill('99x');
  await expect(dialog.getByRole('button', { name: 'Make the file' })).toBeDisabled();
  await dialog.getByLabel('Minutes').fill('1');
  await dialog.getByLabel('User bits').fill('00261108');
  const coming = page.waitForEvent('download');
  await dialog.getByRole('button', { name: 'Make the file' }).click();
  const file = await (await coming).path();
  await dialog.getByRole('button', { name: 'Close' }).click();
  const pick = page.getByLabel('A sound with time code in it');
  await pick.setInputFiles(file);
  const read = page.getByRole('region', { name: 'What was read' });
  await expect(read).toContainText('linear time code at 29.97 drop-frame · forwards, at its usual speed', {
    timeout: 30_000,
  });
  await expect(read).toContainText('1,798 of 1,798');
  await expect(read).toContainText('11:00:29;27');
  await expect(read).toContainText('No break from its first word to its last.');
  const bytes = readFileSync(file);
  // two seconds of silence in the middle, and the end cut off
  bytes.fill(0, 44 + 20 * 96_000, 44 + 22 * 96_000);
  const damaged = join(info.outputDir, 'damaged.wav');
  mkdirSync(info.outputDir, { recursive: true });
  writeFileSync(damaged, bytes.subarray(0, 44 + 50 * 96_000));
  await pick.setInputFiles(damaged);
  await expect(read).toContainText('The file ends 10.0 s before it says.', { timeout: 30_000 });
  await expect(read).toContainText(/6\d frames missing/);
  const letter = join(info.outputDir, 'letter.wav');
  writeFileSync(letter, 'Dear crew, this is no sound at all.');
  await pick.setInputFiles(letter);
  await expect(page.getByRole('alert')).toContainText(
    'It is no WAV file: it does not begin as one. The browser cannot unpack it either.',
  );
  // the same file in a watched folder, beside a picture and a letter: headers are read here, and nothing is taken over yet
  await page.goto('/shows/harbour-finals/on-air/switcher/5?see=lists&player=deck-a&list=Sailors');
  await page.getByRole('button', { name: 'Follow a folder' }).click();
  const picture = join(import.meta.dirname, '../docs/screenshots/rig.png');
  const named = join(info.outputDir, 'clock.wav');
  writeFileSync(named, readFileSync(file));
  const { film, still } = await filmed(page);
  // the brand of its first box tells a QuickTime film from an MPEG-4 one (ISO/IEC 14496-12, section 4.3)
  const quickTime = Buffer.concat([film.subarray(0, 8), Buffer.from('qt  '), film.subarray(12)]);
  const real = [
    ...[named, picture, letter].map((path) => ({ name: basename(path), mimeType: '', buffer: readFileSync(path) })),
    { name: 'finish.mp4', mimeType: 'video/mp4', buffer: film },
    { name: 'finish.mov', mimeType: 'video/quicktime', buffer: quickTime },
    { name: 'finish.jpg', mimeType: 'image/jpeg', buffer: still },
  ];
  await page.getByLabel('Files of the folder').setInputFiles(real);
  const folder = page.getByRole('region', { name: 'What the folder changes' });
  await expect(folder.getByRole('row', { name: /comes clock\.wav 1:00 · PCM/ })).toBeVisible({ timeout: 30_000 });
  await expect(folder.getByRole('row', { name: /comes rig\.png \? · PNG 1280 x 800/ })).toBeVisible();
  await expect(folder.getByRole('row', { name: /goes lindquist\.mp4 not in the folder/ })).toBeVisible();
  await expect(folder.getByRole('row', { name: /comes finish\.mp4 0:0\d\S* · it knows no VP9/ })).toBeVisible();
  await expect(folder.getByRole('row', { name: /comes finish\.jpg \? · JPEG 320 x 180/ })).toBeVisible();
  await page.getByRole('button', { name: 'Take over: 6 come, 3 go' }).click();
  const forms = async () => {
    const { clips } = await showOf(page, 'harbour-finals');
    const films = Object.values(clips).filter(({ name }) => name.startsWith('finish.m'));
    return films
      .map(({ name, form }) => [name, form?.container, form?.codec, form?.width, form?.height].join(' '))
      .sort();
  };
  await expect.poll(forms).toEqual(['finish.mov QuickTime VP9 320 180', 'finish.mp4 MPEG-4 VP9 320 180']);
  await page.keyboard.press('Control+z');
  await expect.poll(forms).toEqual([]);
  expect(problems).toEqual([]);
});

test('every view of both rooms can be read by everybody, in both themes, and is told where it is empty', async ({
  page,
}) => {
  test.setTimeout(300_000);
  await page.addInitScript(() => localStorage.setItem('deep-patch-theme', 'night'));
  const air = '/shows/harbour-finals/on-air/switcher';
  const time = '/shows/harbour-finals/timecode';
  const views = [
    [`${air}/5`, 'Input 5, Playout A'],
    [`${air}/4`, 'Input 4'],
    [`${air}/5?see=happens`, 'Cuts, one after the other'],
    [`${air}/5?see=lists&player=deck-a&list=Sailors&clip=deck-a-sailors-2`, 'At a time within it'],
    [`${air}/5?see=switcher`, 'Load a still into a place'],
    [`${air}/5?see=together`, 'whether frame for frame'],
    [`${time}?hop=clock-to-media`, 'Both have to be the same'],
    [`${time}?see=sessions`, 'Fader bank right'],
    [`${time}?see=sound`, 'It is read in the browser'],
    [`${time}?see=midi`, 'Listen to a MIDI input'],
    [`${time}?see=calculator`, 'They lose a frame of 25'],
    [`${time}?do=make`, 'Make the file'],
  ] as const;
  for (const [path, text] of views) {
    await page.goto(path);
    await expect(page.getByText(text).first()).toBeVisible();
    expect([path, await violations(page)]).toEqual([path, []]);
    await page.evaluate(() => (document.documentElement.dataset['theme'] = 'chart'));
    await expect.poll(() => violations(page, ['color-contrast'])).toEqual([]);
  }
  const showId = await newShow(page, 'Nothing yet');
  await visit(page, `/shows/${showId}/on-air`);
  await expect(page.getByText('Put a switcher into the rig first')).toBeVisible();
  await visit(page, `/shows/${showId}/timecode`);
  await expect(page.getByText('Put a source and a receiver into the rig first')).toBeVisible();
});
