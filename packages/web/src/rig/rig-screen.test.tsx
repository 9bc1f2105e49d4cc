import { show as core } from '@deep-patch/core';
import { demoShow } from '@deep-patch/demo';
import { screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { readBlock, readCsv, writeBlock } from '@deep-patch/codecs';
import { beforeEach, expect, test, vi } from 'vitest';
import { held } from '../../test/held-workspace.ts';
import { tableCsv } from '../parts/table-csv.ts';
import { openScreen } from '../../test/whole-screen.tsx';
import { rigColumns, rigRows, withHeadings } from './rig-columns.tsx';
import { RigScreen } from './rig-screen.tsx';

vi.mock('../live/workspace.tsx', async () => (await import('../../test/held-workspace.ts')).workspaceModule);
vi.mock('../live/notices.tsx', async () => (await import('../../test/whole-screen.tsx')).noticesModule);
vi.mock('@tanstack/react-virtual', async () => (await import('../../test/whole-screen.tsx')).virtualModule);

const user = userEvent.setup();
beforeEach(() => held.begin(demoShow()));

const open = (at = '') => openScreen(<RigScreen />, 'rig', ['deviceId'], at);
const named = (name: string) => {
  const found = core.rowsOf(held.show, 'devices').find((device) => device.name === name);
  if (!found) throw new Error(`no ${name}`);
  return found;
};
const rowOf = (name: string) => screen.getByRole('row', { name: new RegExp(`^${name} `) });
/** Units in the order of the table, which has headings between them. */
const deviceRows = () =>
  screen
    .getAllByRole('row')
    .slice(1)
    .filter((row) => within(row).getAllByRole('gridcell').length > 1);
const names = () => deviceRows().map((row) => within(row).getAllByRole('gridcell')[0]?.textContent ?? '');

test('the table is filtered by every word, and says how much there is', async () => {
  open();
  const count = core.rowsOf(held.show, 'devices').length;
  expect(screen.getByText(new RegExp(`^${count} devices in`))).toBeTruthy();
  await user.type(screen.getByLabelText('Filter devices'), 'pan-tilt camera 2');
  const shown = deviceRows();
  expect(shown.length).toBeGreaterThan(0);
  for (const row of shown) expect(row.textContent?.toLowerCase()).toMatch(/pan-tilt camera/);
});

test('a unit is changed on its page: a fault stands at its field and nothing is saved, then all of it is one change', async () => {
  const [first] = core.devicesByName(held.show);
  const { id, name } = first ?? expect.fail('no unit');
  open(`/${id}`);
  const page = await screen.findByRole('complementary', { name }, { timeout: 10_000 });
  const unit = within(page).getByLabelText('Unit');
  await user.clear(unit);
  await user.type(unit, '12345');
  await user.type(within(page).getByLabelText('Name'), '!');
  await user.click(within(page).getByRole('button', { name: 'Save' }));
  expect(await within(page).findByText('A whole number from 0 to 9999')).toBeTruthy();
  expect(held.saved).toEqual([]);
  await user.clear(unit);
  await user.type(unit, '77');
  await user.click(within(page).getByRole('button', { name: 'Save' }));
  expect(held.saved).toHaveLength(1);
  expect(named(`${name}!`)).toMatchObject({ unit: 77 });
});

test('several units at once: chosen by Shift, given one value, numbered in the order of the table, taken out', async () => {
  const router = open();
  const [first = '', second = '', third = ''] = names();
  const ids = [first, second, third].map((name) => named(name).id);
  await user.click(rowOf(first));
  await user.keyboard('{Shift>}');
  await user.click(rowOf(third));
  await user.keyboard('{/Shift}');
  const panel = screen.getByRole('complementary', { name: '3 units' });
  await user.type(within(panel).getByLabelText('Value'), 'Pier 9');
  await user.click(within(panel).getByRole('button', { name: 'Set for 3 units' }));
  expect(ids.map((id) => held.show.devices[id]?.place)).toEqual(['Pier 9', 'Pier 9', 'Pier 9']);
  const from = within(panel).getByLabelText('Number them from');
  await user.clear(from);
  await user.type(from, '4x0');
  await user.click(within(panel).getByRole('button', { name: 'Number' }));
  expect(ids.map((id) => held.show.devices[id]?.unit)).toEqual([40, 41, 42]);
  await user.click(within(panel).getByRole('button', { name: 'Remove 3 units' }));
  expect(ids.some((id) => id in held.show.devices)).toBe(false);
  expect(router.state.location.pathname).toBe(`/shows/${held.show.id}/rig`);
});

test('what is pasted over cells is saved whole, or refused whole with every fault', async () => {
  open();
  const [first = '', second = ''] = names();
  const ids = [first, second].map((name) => named(name).id);
  await user.click(within(rowOf(first)).getAllByRole('gridcell')[2] ?? expect.fail('no unit cell'));
  screen.getByRole('rowgroup').focus();
  await user.paste('11\n12345678');
  expect(screen.getByRole('alert').textContent).toMatch(/Nothing was changed.*“12345678”/);
  expect(held.saved).toEqual([]);
  await user.click(screen.getByRole('button', { name: 'Close' }));
  screen.getByRole('rowgroup').focus();
  await user.paste('11\n12');
  expect(ids.map((id) => held.show.devices[id]?.unit)).toEqual([11, 12]);
  const unitOfFirst = () => held.show.devices[ids[0] ?? '']?.unit;
  await user.keyboard('{Enter}');
  expect(screen.getByRole('textbox', { name: `Unit of ${first}` })).toBe(document.activeElement);
  await user.keyboard('5{Escape}');
  expect([screen.queryByRole('textbox', { name: `Unit of ${first}` }), unitOfFirst()]).toEqual([null, 11]);
  await user.keyboard('{Enter}13{Enter}');
  expect(unitOfFirst()).toBe(13);
});

test('rows go to a spreadsheet with their headings, and come back in another order under the names they had', async () => {
  open();
  const [first, second] = [named(names()[0] ?? ''), named(names()[1] ?? '')];
  const text = withHeadings(held.show, [first, second]);
  const [heads = [], one = [], two = []] = readBlock(text);
  expect(heads.slice(0, 3)).toEqual(['Name', 'Unit', 'Place']);
  const note = heads.indexOf('Note');
  // in another order, and one under a new name
  const back = writeBlock([heads, two.with(note, 'tab\tand "line"\nend').with(0, 'Renamed'), one.with(note, '=first')]);
  await user.click(within(rowOf(first.name)).getAllByRole('gridcell')[0] ?? expect.fail('no cell'));
  screen.getByRole('rowgroup').focus();
  await user.paste(back);
  const notes = [first, second].map(({ id }) => held.show.devices[id]?.note);
  expect(notes).toEqual(['=first', 'tab\tand "line"\nend']);
  expect(held.show.devices[second.id]?.name).toBe('Renamed');
  // nothing else of the first has changed
  expect(held.show.devices[first.id]).toEqual({ ...first, note: '=first', rev: 2 });
});

test('a filter without hits says so, and how to see all again; the table is kept as a file', async () => {
  open();
  const all = names().length;
  await user.type(screen.getByRole('searchbox'), 'nobody has this');
  expect(screen.getByText('No unit has “nobody has this” in any column.')).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'Show all units' }));
  expect(names()).toHaveLength(all);
  const rows = rigRows(held.show, held.analysis.findings);
  const read = readCsv(new TextEncoder().encode(tableCsv(rigColumns, rows)));
  const cells = read.ok ? read.cells : [];
  expect(cells).toHaveLength(rows.length + 1);
  expect(cells[0]).toEqual(rigColumns.map(({ header }) => header));
  expect(cells.slice(1).map(([name]) => name)).toEqual(rows.map(({ device }) => device.name));
});

test('an empty rig asks for the list, and a unit that was removed is told', () => {
  const { id, name } = held.show;
  held.begin(core.emptyShow({ id, name }));
  open('/gone');
  expect(screen.getByText(/Start with the list of what is in the cases/)).toBeTruthy();
  expect(screen.getByText(/This device is no longer in the show/)).toBeTruthy();
});
