import { expect } from '@playwright/test';
import { newShow, pasteGear, placeRest, row, takeIn, watchProblems, well, test } from './steps.ts';

const gear = `Type;Name;Unit;Place;MAC;Firmware
Show host;Show host;1;Booth;02:1e:70:00:00:01;5.1
Lighting desk;Lighting desk;1;Quay;02:1e:70:00:00:02;7.4
Camera remote;Camera remote;1;Booth;02:1e:70:00:00:03;2.3
Pan-tilt camera;Camera 3 finish line;3;Tower;02:1e:70:00:00:04;2.1
Managed switch;Switch quay;1;Quay;02:1e:70:00:00:05;4.2`;

test('from a gear list to an answered command, in a new and empty show', async ({ page, browser }) => {
  const problems = watchProblems(page);
  const showId = await newShow(page, 'First line');

  await test.step('a list with faults is marked by row and column and refused whole', async () => {
    await pasteGear(
      page,
      gear.replace('Lighting desk;Lighting', 'Lihgting desk;Lighting').replace('02:1e:70:00:00:03', '02:1e:70'),
    );
    const faults = page.getByRole('list', { name: 'Problems' });
    await expect(faults).toContainText('line 3 Type Nothing is called “Lihgting desk”');
    await expect(faults).toContainText('line 4 MAC A MAC address is six pairs');
    await expect(page.getByRole('button', { name: 'Take in 5 units' })).toBeDisabled();
    await page.getByRole('button', { name: 'Use Lighting desk' }).click();
    await expect(faults).not.toContainText('line 3');
    await page.getByLabel('Line 4, MAC').fill('02-1e-70-00-00-03');
    await page.getByLabel('Line 4, MAC').press('Enter');
  });

  await test.step('the mended list is taken in as one change', async () => {
    await expect(page.getByText('nothing to mend')).toBeVisible();
    await takeIn(page, '5 units');
    await expect(row(page, /Camera 3 finish line/)).toBeVisible();
    await page.getByRole('button', { name: 'Take back: Take in 5 units' }).click();
    await expect(page.getByText('Start with the list of what is in the cases')).toBeVisible();
    await page.getByRole('button', { name: 'Do again: Take in 5 units' }).click();
    await expect(row(page, /Camera 3 finish line/)).toBeVisible();
  });

  await test.step('a network, and one button gives every interface an address by its number', async () => {
    await page.getByRole('link', { name: /^Addresses/ }).click();
    await page.getByRole('button', { name: 'Add network' }).first().click();
    await page.getByLabel('Range').fill('10.61.2O.0/24');
    await page.getByRole('dialog').getByRole('button', { name: 'Add network' }).click();
    await page.getByRole('button', { name: 'Use 10.61.20.0/24' }).click();
    await page.getByRole('dialog').getByRole('button', { name: 'Add network' }).click();
    await placeRest(page);
    await expect(row(page, /Camera 3 finish line/)).toContainText('10.61.20.23');
    await expect(page.getByRole('group', { name: 'Ruler of Control' })).toBeVisible();
  });

  await test.step('faulty addresses are explained and mended by a button', async () => {
    await row(page, /Camera 3 finish line/).click();
    const move = async (to: string) => {
      await page.getByLabel('Move to').fill(to);
      await page.getByRole('button', { name: 'Move', exact: true }).click();
    };
    await move('10.61.20');
    await expect(well(page)).toContainText('An address has four numbers; this has fewer.');
    await move('255');
    await expect(well(page)).toContainText('the address that means everybody on 10.61.20.0/24');
    await page.getByRole('button', { name: 'Move Camera 3 finish line to 10.61.20.23' }).click();
    await expect(row(page, /Camera 3 finish line/)).toContainText('free to use');
    await move('10.61.30.5');
    await expect(well(page)).toContainText('outside Control');
    await page.getByRole('button', { name: /^Move Camera 3 finish line to/ }).click();
    await page.getByRole('button', { name: 'Hold this address' }).click();
    await expect(row(page, /Camera 3 finish line/).getByRole('img', { name: 'held' })).toBeVisible();
    await row(page, /Camera remote/).click();
    await move('23');
    await expect(well(page)).toContainText('share 10.61.20.23');
    await page.getByRole('button', { name: /^Move Camera/ }).click();
    await expect(page.getByRole('contentinfo')).toContainText('0 stop it');
  });

  const addLink = async (controller: string, target: RegExp) => {
    await page.getByRole('button', { name: 'Add link' }).first().click();
    await page.getByLabel('Controller', { exact: true }).selectOption({ label: controller });
    await page.getByRole('group', { name: 'Controls' }).getByRole('checkbox', { name: target }).check();
    await page.getByRole('dialog').getByRole('button', { name: 'Add link' }).click();
    await expect(page.getByRole('dialog')).toBeHidden();
  };

  await test.step('two links; the first thing missing is the cable, and buttons plug it in', async () => {
    await page.getByRole('link', { name: /^Links/ }).click();
    await addLink('Show host', /Lighting desk OSC/);
    await expect(well(page)).toContainText('Neither Show host nor Lighting desk is plugged in.');
    await page.getByRole('button', { name: /^Plug Show host and Lighting desk into Switch quay/ }).click();
    await expect(well(page)).toContainText('8 of 8');
    await addLink('Camera remote', /Camera 3/);
    await page.getByRole('button', { name: /^Plug/ }).click();
    await expect(well(page)).toContainText('Anybody on the network may control Camera 3 finish line.');
  });

  await test.step('unequal passwords stop at Access', async () => {
    await page.getByRole('link', { name: /^Rig/ }).click();
    await row(page, /Camera 3 finish line/).click();
    await page.getByRole('link', { name: 'Its page' }).click();
    await page.getByLabel('Account', { exact: true }).fill('ops');
    await page.getByLabel('Password', { exact: true }).fill('harbour-wall');
    await page.getByRole('button', { name: 'Save remote control' }).click();
    await page.getByRole('link', { name: /driven by Camera remote/ }).click();
    await expect(well(page)).toContainText('5 of 8');
    await expect(well(page)).toContainText('asks for a login and Camera remote has none');
    await page.getByRole('button', { name: 'Settings' }).click();
    await page.getByLabel('Account', { exact: true }).fill('ops');
    await page.getByLabel('Password', { exact: true }).fill('harbour-mole');
    await page.getByRole('button', { name: 'Save settings' }).click();
    await expect(well(page)).toContainText('The two passwords differ.');
  });

  await test.step('swapped ports stop at Port', async () => {
    await row(page, /Lighting desk/).click();
    await page.getByRole('button', { name: 'Settings' }).click();
    await page.getByLabel('Sends to port').fill('8310');
    await page.getByLabel('Hears replies on port').fill('8300');
    await page.getByRole('button', { name: 'Save settings' }).click();
    await expect(well(page)).toContainText('3 of 8');
    await expect(well(page)).toContainText('the port that Lighting desk sends from');
  });

  await test.step('the bench sees the same two faults with real bytes', async () => {
    await page.getByRole('link', { name: 'Bench', exact: true }).click();
    await page.getByRole('button', { name: 'Power on' }).first().click();
    await expect(page.getByText('5 stand-ins · 5 with power')).toBeVisible();
    await page.getByRole('link', { name: 'Sound all links' }).click();
    await expect(row(page, /Lighting desk/)).toContainText('Port: UDP 8310 is closed');
    await expect(row(page, /Camera 3/)).toContainText('Access: turned away');
  });

  await test.step('mended, both reach bottom with a measured time and the desk does what was asked', async () => {
    await row(page, /Lighting desk/).click();
    await page.getByRole('button', { name: 'Send to 8300' }).click();
    await page.getByRole('button', { name: /^Sound again/ }).click();
    await expect(well(page)).toContainText(/8 of 8.*reply in \d+(\.\d)? ms/s);
    await row(page, /Camera 3/).click();
    // however long saving takes, what is sounded next is the plan with it
    const order: string[] = [];
    let letThrough: () => void = () => undefined;
    const held = new Promise<void>((resolve) => (letThrough = resolve));
    page.on('request', (request) => void (request.url().endsWith('/sound') && order.push('sounded')));
    await page.route('**/changes', async (route) => {
      await held;
      const response = await route.fetch();
      order.push('saved');
      await route.fulfill({ response });
    });
    await page.getByRole('button', { name: /^Send the login of Camera 3/ }).click();
    await page.getByRole('button', { name: /^Sound again/ }).click();
    await expect(page.getByRole('button', { name: 'Sounding' })).toBeVisible();
    letThrough();
    await expect(well(page)).toContainText(/8 of 8.*it says: position 1.*reply in/s);
    expect(order).toEqual(['saved', 'sounded']);
    await page.unroute('**/changes');
    await row(page, /Lighting desk/).click();
    await page.getByRole('link', { name: 'See it on the bench' }).click();
    await expect(well(page)).toContainText(/cue.*31.*running, 4 s/s);
    await expect(page.getByRole('region', { name: 'Tap' })).toContainText('/desk/cue/31/start 4.0');
  });

  await test.step('all is there after a reload, and another browser sees each change within a second', async () => {
    await page.reload();
    await page.getByRole('link', { name: /^Links/ }).click();
    await expect(page.getByText('2 planned · 2 reach bottom · 0 stop short · 2 sounded')).toBeVisible();
    const second = await browser.newPage();
    await second.goto(`/shows/${showId}/rig`);
    await expect(second.getByText('2 here')).toBeVisible();
    await page.getByRole('link', { name: /^Rig/ }).click();
    await row(page, /Lighting desk/).click();
    await page.getByLabel('Name').fill('Lighting desk, main');
    await page.getByRole('button', { name: 'Save', exact: true }).click();
    await expect(row(page, /Lighting desk, main/)).toBeVisible();
    await expect(row(second, /Lighting desk, main/)).toBeVisible();
    await second.close();
  });
  expect(problems).toEqual([]);
});
