import { show as core } from '@deep-patch/core';
import { demoShow } from '@deep-patch/demo';
import { screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { beforeEach, expect, test, vi } from 'vitest';
import { held } from '../../test/held-workspace.ts';
import { openScreen } from '../../test/whole-screen.tsx';
import { AddressesScreen } from './addresses-screen.tsx';

const sent = vi.hoisted((): { path: string; body: unknown }[] => []);
vi.mock('../live/workspace.tsx', async () => (await import('../../test/held-workspace.ts')).workspaceModule);
vi.mock('../live/notices.tsx', async () => (await import('../../test/whole-screen.tsx')).noticesModule);
vi.mock('../live/api.ts', async (original) => ({
  ...(await original<object>()),
  api: { post: (path: string, body: unknown) => Promise.resolve(sent.push({ path, body })) },
}));
vi.mock('@tanstack/react-virtual', async () => (await import('../../test/whole-screen.tsx')).virtualModule);

const user = userEvent.setup();
beforeEach(() => {
  held.begin(demoShow());
  sent.length = 0;
});

const open = (at = '') => openScreen(<AddressesScreen />, 'addresses', ['networkId', 'addressId'], at);
const [firstNetwork] = held.analysis.addressing.networks;
const networkId = firstNetwork?.network.id ?? '';
const network = () => held.show.networks[networkId] ?? expect.fail('no network');
const panel = () => screen.getByRole('complementary', { name: `Network ${network().name}` });
async function retype(field: HTMLElement, text: string) {
  await user.clear(field);
  if (text !== '') await user.type(field, text);
}

test('a network is made of what people type: a range without a size is asked for it, a free one is offered', async () => {
  const router = open('?do=add');
  const dialog = screen.getByRole('dialog', { name: 'Add a network' });
  const range = within(dialog).getByLabelText('Range');
  await user.type(range, '10.99.7.20');
  await user.click(within(dialog).getByRole('button', { name: 'Add network' }));
  expect(within(dialog).getByText(/Say how large it is/)).toBeTruthy();
  expect(held.saved).toEqual([]);
  await retype(range, '');
  await user.click(within(dialog).getByRole('button', { name: /^Take .*, which is free$/ }));
  await retype(range, '10.99.7.20/24');
  expect(within(dialog).getByText(/^10.99.7.1 to 10.99.7.254/)).toBeTruthy();
  await retype(within(dialog).getByLabelText('Name'), 'Pier');
  await user.click(within(dialog).getByRole('button', { name: 'Add network' }));
  const made = core.rowsOf(held.show, 'networks').find(({ name }) => name === 'Pier');
  expect(made).toMatchObject({ network: '10.99.7.0', prefix: 24, vlan: null });
  expect(router.state.location.pathname).toBe(`/shows/${held.show.id}/addresses/${made?.id}`);
});

test('whoever went elsewhere while a network was being saved is not fetched back', async () => {
  let answers = (_: boolean) => {};
  held.answer = new Promise((done) => (answers = done));
  const router = open('?do=add');
  const dialog = within(screen.getByRole('dialog', { name: 'Add a network' }));
  await user.type(dialog.getByLabelText('Range'), '10.99.7.20/24');
  await user.click(dialog.getByRole('button', { name: 'Add network' }));
  expect(held.saved.length).toBe(1);
  window.history.pushState(null, '', '/elsewhere');
  answers(true);
  await held.answer;
  await Promise.resolve();
  expect(router.state.location.pathname).toBe(`/shows/${held.show.id}/addresses`);
});

test('a pool with one end, or ends that are exchanged, stays in the form; the house is asked for its ranges', async () => {
  open(`/${networkId}`);
  const form = within(panel());
  const before = network();
  await retype(form.getByLabelText('Automatic pool from'), '');
  await retype(form.getByLabelText('to'), '.40');
  await user.click(form.getByRole('button', { name: 'Save network' }));
  expect(await form.findByText('A pool needs both ends.')).toBeTruthy();
  await retype(form.getByLabelText('Automatic pool from'), '.90');
  await user.click(form.getByRole('button', { name: 'Save network' }));
  expect(await form.findByText('The end comes before the start.')).toBeTruthy();
  expect(held.saved).toEqual([]);
  await retype(form.getByLabelText('Automatic pool from'), '');
  await retype(form.getByLabelText('to'), '');
  await user.selectOptions(form.getByLabelText('Whose it is'), 'house');
  await user.type(form.getByLabelText('Granted to us'), '.60 - .69');
  await user.click(form.getByRole('button', { name: 'Save network' }));
  const subnet = before.network.split('.').slice(0, 3).join('.');
  expect(network()).toMatchObject({
    owner: 'house',
    poolFrom: null,
    poolTo: null,
    granted: [{ first: `${subnet}.60`, last: `${subnet}.69` }],
  });
});

test('a block says all that is wrong with it at once, is kept by one press, and goes by another', async () => {
  open(`/${networkId}`);
  await user.click(within(panel()).getByRole('button', { name: 'Add a block' }));
  const form = within(panel());
  await retype(form.getByLabelText('From'), '.250');
  await retype(form.getByLabelText('To'), '.240');
  await user.click(form.getByRole('button', { name: 'Add block' }));
  expect(form.getByText('Give it a name')).toBeTruthy();
  expect(form.getByText('The end comes before the start.')).toBeTruthy();
  const names = form.getAllByLabelText('Name');
  await user.type(names.at(-1) ?? expect.fail('no name'), 'Guests');
  await retype(form.getByLabelText('To'), '.253');
  await user.selectOptions(form.getByLabelText('For', { selector: 'select' }), 'keep_free');
  await user.click(form.getByRole('button', { name: 'Add block' }));
  expect(held.labels()).toEqual(['Add block Guests']);
  await user.click(form.getByRole('button', { name: /^Guests/ }));
  await user.click(form.getByRole('button', { name: 'Remove' }));
  expect(core.rowsOf(held.show, 'blocks').some(({ label }) => label === 'Guests')).toBe(false);
});

test('a listing that was pasted is shown with the units that it names before it is taken in; other text is refused', async () => {
  open('?do=found');
  const dialog = screen.getByRole('dialog', { name: 'As found' });
  const paste = within(dialog).getByLabelText('Paste the listing here');
  await user.click(paste);
  await user.paste('no address at all');
  expect(within(dialog).getByRole('alert').textContent).toMatch(/No address was recognised/);
  const known = held.analysis.addressing.planned.find((item) => item.ip !== null && item.interface.mac !== null);
  const line = `? (${known?.address.ip}) at ${known?.interface.mac} on en0`;
  await user.click(within(dialog).getByLabelText('Paste the listing here'));
  await user.paste(`${line}\n? (10.250.9.9) at 02:00:5e:00:99:01 on en0\n`);
  const table = within(dialog).getByRole('region', { name: 'Hosts found' });
  expect(within(table).getByText(known?.device.name ?? '')).toBeTruthy();
  expect(within(table).getByText('not in the plan')).toBeTruthy();
  await user.click(within(dialog).getByRole('button', { name: 'Take in 2 hosts' }));
  expect(sent).toMatchObject([{ path: `/shows/${held.show.id}/found`, body: { hosts: [{}, {}] } }]);
});

test('an address is held, taken back, and shown with what to key in', async () => {
  const item = held.analysis.addressing.byNetwork
    .get(networkId)
    ?.planned.find(({ ip, address }) => ip !== null && !address.held);
  open(`/${networkId}/${item?.address.id}`);
  const page = () => within(screen.getByRole('complementary', { name: `Address of ${item?.device.name}` }));
  expect(page().getAllByText(item?.address.ip ?? '').length).toBeGreaterThan(0);
  await user.click(page().getByRole('button', { name: 'Hold this address' }));
  expect(held.show.addresses[item?.address.id ?? '']?.held).toBe(true);
  await user.click(page().getByRole('button', { name: 'Take the address back' }));
  expect(held.show.addresses[item?.address.id ?? '']?.ip).toBeNull();
});
