import { show as core, type Change, type Conflict } from '@deep-patch/core';
import { render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { beforeEach, expect, test, vi } from 'vitest';
import { ConflictDialog } from './conflict-dialog.tsx';

const saved: (Change | undefined)[] = [];
let closed = 0;
vi.mock('../live/workspace.tsx', () => ({
  useWorkspace: () => ({
    save: (change: Change | undefined) => {
      saved.push(change);
      return Promise.resolve(true);
    },
    closeConflict: () => (closed += 1),
  }),
}));
beforeEach(() => {
  saved.length = 0;
  closed = 0;
});

const device = (patch: object) =>
  core.filledRow('devices', {
    id: 'a',
    typeId: 't',
    name: 'One',
    unit: 1,
    place: 'Quay',
    firmware: null,
    note: '',
    ...patch,
  });
const conflict: Conflict = {
  table: 'devices',
  id: 'a',
  base: device({}),
  yours: device({ name: 'Mine', place: 'Tower' }),
  theirs: { ...device({ name: 'Theirs', unit: 7 }), rev: 9 },
};
const other = core.insertRow('devices', device({ id: 'b' }));
const change: Change = {
  label: 'Change One',
  edits: [{ table: 'devices', id: 'a', base: 3, before: conflict.base, after: conflict.yours }, other],
};
const choose = (field: string, value: string) =>
  within(screen.getByRole('row', { name: new RegExp(`^${field}`) })).getByLabelText(value);

test('starts with what each side changed, and saves what was chosen together with what did not clash', async () => {
  const user = userEvent.setup();
  render(<ConflictDialog change={change} conflicts={[conflict]} />);
  expect(screen.getAllByRole('row').map((row) => row.textContent)).toEqual([
    'FieldWasYoursTheirs',
    'nameOneMineTheirs',
    'unit117',
    'placeQuayTowerQuay',
  ]);
  const checked = (field: string, value: string) => (choose(field, value) as HTMLInputElement).checked;
  expect([checked('name', 'Mine'), checked('unit', '7'), checked('place', 'Tower')]).toEqual([true, true, true]);
  await user.click(choose('name', 'Theirs'));
  await user.click(screen.getByRole('button', { name: 'Save what I chose' }));
  expect(closed).toBe(1);
  expect(saved[0]?.edits).toEqual([
    other,
    {
      table: 'devices',
      id: 'a',
      base: 9,
      before: device({ name: 'Theirs', unit: 7 }),
      after: device({ name: 'Theirs', unit: 7, place: 'Tower' }),
    },
  ]);
});

test('keeping theirs saves nothing', async () => {
  render(<ConflictDialog change={change} conflicts={[conflict]} />);
  await userEvent.setup().click(screen.getByRole('button', { name: 'Keep theirs' }));
  expect([saved, closed]).toEqual([[], 1]);
});

test('a row that one side removed is told in a sentence, and saving does what was wanted', async () => {
  const user = userEvent.setup();
  const gone: Conflict = { ...conflict, yours: null };
  const { unmount } = render(<ConflictDialog change={{ label: 'Remove', edits: [] }} conflicts={[gone]} />);
  expect(screen.getByText(/you wanted to remove it/)).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'Save what I chose' }));
  expect(saved[0]?.edits).toMatchObject([{ base: 9, after: null }]);
  unmount();
  render(<ConflictDialog change={{ label: 'Change', edits: [] }} conflicts={[{ ...conflict, theirs: null }]} />);
  expect(screen.getByText(/was removed by somebody else/)).toBeTruthy();
});
