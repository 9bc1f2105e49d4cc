import { links, show as core } from '@deep-patch/core';
import { demoShow } from '@deep-patch/demo';
import { screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { beforeEach, expect, test, vi } from 'vitest';
import { held } from '../../test/held-workspace.ts';
import { openScreen } from '../../test/whole-screen.tsx';
import { LinksScreen } from './links-screen.tsx';

const asked = vi.hoisted((): string[][] => []);
vi.mock('../live/workspace.tsx', async () => (await import('../../test/held-workspace.ts')).workspaceModule);
vi.mock('../live/notices.tsx', async () => (await import('../../test/whole-screen.tsx')).noticesModule);
vi.mock('../bench/use-bench.ts', () => ({ useBench: () => ({ act: () => Promise.resolve() }) }));
vi.mock('./use-sound.ts', () => ({
  useSound: () => ({ sounding: undefined, stop: () => undefined, soundAll: (ids: string[]) => asked.push(ids) }),
}));
vi.mock('@tanstack/react-virtual', async () => (await import('../../test/whole-screen.tsx')).virtualModule);

const user = userEvent.setup();
beforeEach(() => {
  held.begin(demoShow());
  asked.length = 0;
});

const open = (at = '') => openScreen(<LinksScreen />, 'links', ['linkId'], at);
const [aLink] = core.rowsOf(held.show, 'links').filter((link) => link.slot !== null);
const linkId = aLink?.id ?? '';
const link = () => held.show.links[linkId] ?? expect.fail('no link');

test('every link stands under its controller, with the count of those that reach bottom, and all are sounded in that order', async () => {
  const router = open('?do=sound');
  const count = core.rowsOf(held.show, 'links').length;
  expect(screen.getByText(new RegExp(`^${count} planned · `))).toBeTruthy();
  const deep = [...held.analysis.depths.values()].filter(({ depth }) => depth === 8).length;
  expect(screen.getByText(new RegExp(` · ${deep} reach bottom · ${count - deep} `))).toBeTruthy();
  // the address asked for it, once
  expect(asked.map((ids) => ids.length)).toEqual([count]);
  expect(router.state.location.search).toBe('');
  await user.click(screen.getByRole('button', { name: 'Sound all' }));
  expect(asked).toHaveLength(2);
  expect(asked[1]).toEqual(asked[0]);
});

test('a link is added from a controller to what it can drive, at the next slot or the one that is typed', async () => {
  const router = open('?do=add');
  const dialog = within(screen.getByRole('dialog', { name: 'Add a link' }));
  const controller = core
    .devicesByName(held.show)
    .find(
      (device) =>
        (core.typeOf(held.show, device)?.drives.length ?? 0) > 0 && links.drivable(held.show, device).length > 0,
    );
  await user.selectOptions(dialog.getByLabelText('Controller'), controller?.id ?? '');
  const [target] = links.drivable(held.show, controller ?? expect.fail('no controller'));
  expect(dialog.getByRole<HTMLButtonElement>('button', { name: 'Add link' }).disabled).toBe(true);
  const offered = within(dialog.getByRole('group', { name: 'Controls' })).getAllByRole('checkbox');
  const at = links
    .drivable(held.show, controller ?? expect.fail('no controller'))
    .sort((a, b) => core.byName(a.target, b.target))
    .findIndex(({ service }) => service.id === target?.service.id);
  await user.click(offered[at] ?? expect.fail('not offered'));
  await user.clear(dialog.getByLabelText('Slot in the controller'));
  await user.type(dialog.getByLabelText('Slot in the controller'), '77');
  await user.click(dialog.getByRole('button', { name: 'Add link' }));
  const made = core.rowsOf(held.show, 'links').find(({ slot }) => slot === 77);
  expect(made).toMatchObject({ controllerId: controller?.id, targetId: target?.target.id });
  expect(router.state.location.pathname).toBe(`/shows/${held.show.id}/links/${made?.id}`);
});

test('a link’s own entry takes only what can be, keeps everything of it in one change, and the link can go', async () => {
  const router = open(`/${linkId}`);
  await user.click(screen.getByRole('button', { name: 'Settings' }));
  const form = within(screen.getByRole('form', { name: 'Settings of this link' }));
  const retype = async (label: string, text: string) => {
    await user.clear(form.getByLabelText(label));
    await user.type(form.getByLabelText(label), text);
  };
  await retype('Address entered', '10.61.20');
  await retype('Sends to port', '0');
  await retype('Slot', '10000');
  await user.click(form.getByRole('button', { name: 'Save settings' }));
  expect(await form.findByText('An address such as 10.61.20.33')).toBeTruthy();
  expect(form.getByText('A port goes from 1 to 65535')).toBeTruthy();
  expect(form.getByText('A whole number from 0 to 9999')).toBeTruthy();
  expect(held.saved).toEqual([]);
  await retype('Address entered', '10.61.20.250');
  await retype('Sends to port', '9001');
  await retype('Slot', '12');
  await user.click(form.getByRole('button', { name: 'Save settings' }));
  await vi.waitFor(() => expect(held.saved).toHaveLength(1));
  expect(link()).toMatchObject({ host: '10.61.20.250', port: 9001, slot: 12 });
  await user.click(screen.getByRole('button', { name: 'Remove' }));
  expect(held.show.links[linkId]).toBeUndefined();
  expect(router.state.location.pathname).toBe(`/shows/${held.show.id}/links`);
});

test('the dialogue of ports lists what core works out, and frames follow the rate', async () => {
  // a hop whose delay is two frames at one rate and three at another
  const cables = core
    .rowsOf(held.show, 'cables')
    .map((row) => (row.medium === 'wireless' ? { ...row, delayMs: 45 } : row));
  held.begin({ ...held.show, cables: Object.fromEntries(cables.map((row) => [row.id, row])) });
  open('?do=ports');
  const dialog = within(screen.getByRole('dialog', { name: 'Ports, firewalls, VLANs, air' }));
  expect(dialog.getByText(`Ports by machine · ${links.portTable(held.show).length}`)).toBeTruthy();
  expect(dialog.getByText(`What firewalls must let through · ${links.firewallRules(held.show).length}`)).toBeTruthy();
  const facts = links.linkFacts(held.show, held.analysis.addressing);
  const [first] = links.overTheAir(held.show, facts, core.nothingSeen).filter(({ delayMs }) => delayMs !== undefined);
  const frames = (rate: number) => links.framesFor(first?.delayMs ?? 0, rate);
  const table = () => dialog.getByRole('region', { name: 'Links over the air' }).textContent;
  expect(frames(24)).not.toBe(frames(60));
  expect(table()).toContain(`${frames(50)} frame`);
  await user.selectOptions(dialog.getByLabelText('frames a second'), '24');
  expect(table()).toContain(`${frames(24)} frame`);
});
