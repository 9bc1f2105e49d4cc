import { createSocket } from 'node:dgram';
import { once } from 'node:events';
import { expect } from '@playwright/test';
import { newShow, pasteGear, placeRest, row, takeIn, watchProblems, well, test, visit } from './steps.ts';

test('without power the sounding says so, a button mends it, and outside tools reach the desk through a jack', async ({
  page,
}) => {
  const problems = watchProblems(page);
  const showId = await newShow(page, 'Bench alone');
  await pasteGear(page, 'name,type,unit\nHost,Show host,1\nDesk,Lighting desk,1\nHub,Managed switch,1\n');
  await takeIn(page, '3 units');
  await visit(page, `/shows/${showId}/addresses?do=add`);
  await page.getByLabel('Range').fill('10.2.0.0/24');
  await page.getByRole('dialog').getByRole('button', { name: 'Add network' }).click();
  await placeRest(page);
  await visit(page, `/shows/${showId}/links?do=add`);
  await page.getByRole('group', { name: 'Controls' }).getByRole('checkbox').first().check();
  await page.getByRole('dialog').getByRole('button', { name: 'Add link' }).click();
  await page.getByRole('button', { name: /^Plug Host and Desk/ }).click();
  await page.getByRole('button', { name: 'Sound', exact: true }).click();
  await expect(well(page)).toContainText('Host has no power');
  await page.getByRole('button', { name: 'Power on all stand-ins' }).click();
  await page.getByRole('button', { name: 'Sound again' }).click();
  await expect(well(page)).toContainText(/8 of 8.*reply in/s);
  await expect(page.getByRole('link', { name: 'Bench, 3 up' })).toBeVisible();

  await page.getByRole('link', { name: 'See it on the bench' }).click();
  await page.getByRole('button', { name: 'Open its OSC control' }).click();
  const aim = await well(page)
    .getByText(/127\.0\.0\.1:\d+/)
    .first()
    .innerText();
  const socket = createSocket('udp4');
  socket.bind(0, '127.0.0.1');
  await once(socket, 'listening');
  const reply = once(socket, 'message') as Promise<[Buffer]>;
  // "/desk/cue/12/stop" with its type tag, padded to whole words
  socket.send(Buffer.from('/desk/cue/12/stop\0\0\0,\0\0\0', 'latin1'), Number(/:(\d+)/.exec(aim)?.[1]), '127.0.0.1');
  expect((await reply)[0].toString('latin1')).toContain('/desk/cue/12/running');
  socket.close();
  await page.reload();
  await expect(well(page)).toContainText(/cue.*12.*stopped/s);
  await expect(page.getByRole('region', { name: 'Tap' })).toContainText('outside tool');
  await page.getByRole('button', { name: /^Close the osc jack/ }).click();
  await expect(well(page)).not.toContainText('Aim the tool at');

  await page.getByRole('button', { name: 'Cut its power' }).click();
  await expect(page.getByText('3 stand-ins · 2 with power')).toBeVisible();
  await page
    .getByRole('link', { name: /^Links/ })
    .first()
    .click();
  await row(page, /Desk/).click();
  await page.getByRole('button', { name: 'Sound again' }).click();
  await expect(well(page)).toContainText('Desk has no power');
  expect(problems).toEqual([]);
});

test('an old measurement is marked as such once the plan moves, and a new one replaces it', async ({ page }) => {
  const showId = await newShow(page, 'Stale');
  await pasteGear(page, 'name,type,unit\nHost,Show host,1\nDesk,Lighting desk,1\n');
  await takeIn(page, '2 units');
  await visit(page, `/shows/${showId}/addresses?do=add`);
  await page.getByLabel('Range').fill('10.2.0.0/24');
  await page.getByRole('dialog').getByRole('button', { name: 'Add network' }).click();
  await placeRest(page);
  await visit(page, `/shows/${showId}/links?do=add`);
  await page.getByRole('group', { name: 'Controls' }).getByRole('checkbox').first().check();
  await page.getByRole('dialog').getByRole('button', { name: 'Add link' }).click();
  // no switch in this rig: straight from one to the other
  await page.getByRole('button', { name: 'Cable Host to Desk' }).click();
  await expect(page.getByRole('button', { name: 'Cable Host to Desk', exact: true })).toBeHidden();
  await page.getByRole('button', { name: 'Sound', exact: true }).click();
  await page.getByRole('button', { name: 'Power on all stand-ins' }).click();
  await page.getByRole('button', { name: 'Sound again' }).click();
  await expect(well(page)).toContainText('reply in');
  await page.getByRole('button', { name: 'Settings' }).click();
  await page.getByLabel('Arguments').fill('7, 2.5');
  await page.getByRole('button', { name: 'Save settings' }).click();
  await expect(well(page)).toContainText('the plan was changed since');
  await expect(row(page, /Desk/)).toContainText('changed since sounded');
  await page.getByRole('button', { name: 'Sound again' }).click();
  await expect(well(page)).toContainText('cue 7');
  await page.getByLabel('Arguments').fill('seven');
  await page.getByRole('button', { name: 'Save settings' }).click();
  await expect(well(page)).toContainText('The message has 1 argument; the command takes 2.');
  await page.getByRole('button', { name: /^Use “\/desk\/cue\/31\/start 4”/ }).click();
  await expect(well(page)).toContainText('in its command list');
  await page.getByRole('button', { name: 'Remove', exact: true }).click();
  await expect(page.getByText('Say who controls what, such as')).toBeVisible();
});
