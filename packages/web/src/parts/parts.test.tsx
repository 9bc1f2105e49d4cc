import type { links } from '@deep-patch/core';
import { act, render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { beforeEach, describe, expect, test, vi } from 'vitest';
import { DataGrid, type Column } from './data-grid.tsx';
import { DepthGlyph } from './depth-glyph.tsx';
import { Dialog } from './dialog.tsx';
import { useRowForm } from './use-row-form.ts';

vi.mock('@tanstack/react-virtual', async () => (await import('../../test/whole-screen.tsx')).virtualModule);

interface Row {
  readonly id: string;
  readonly name: string;
  readonly unit: number;
  readonly place: string;
}
const rows: readonly Row[] = [
  { id: 'a', name: 'Camera 10', unit: 10, place: 'Quay' },
  { id: 'b', name: 'Camera 2', unit: 2, place: 'Tower' },
  { id: 'c', name: 'Camera 1', unit: 1, place: 'Quay' },
];
const columns: readonly Column<Row>[] = [
  { key: 'name', header: 'Name', width: '1fr', sortBy: ({ name }) => name, cell: ({ name }) => name },
  { key: 'unit', header: 'Unit', width: '4rem', sortBy: ({ unit }) => unit, cell: ({ unit }) => String(unit) },
  { key: 'wide', header: 'Only when wide', width: '9rem', from: 2000, cell: () => 'hidden' },
];

function Grid({ grouped = false, onSelect = () => undefined }: { grouped?: boolean; onSelect?: (id: string) => void }) {
  const [selected, select] = useState<string>();
  return (
    <DataGrid
      label="Devices"
      rows={rows}
      columns={columns}
      idOf={({ id }) => id}
      {...(grouped ? { groupOf: ({ place }: Row) => ({ id: place, label: place }) } : {})}
      selected={selected}
      onSelect={(id) => {
        select(id);
        onSelect(id);
      }}
    />
  );
}
const names = () =>
  screen
    .getAllByRole('row')
    .slice(1)
    .map((row) => within(row).getAllByRole('gridcell')[0]?.textContent);

describe('the table', () => {
  test('sorts numbers as numbers, up first, then down, then as it was', async () => {
    const user = userEvent.setup();
    render(<Grid />);
    expect(names()).toEqual(['Camera 10', 'Camera 2', 'Camera 1']);
    const header = screen.getByRole('button', { name: 'Unit' });
    await user.click(header);
    expect(names()).toEqual(['Camera 1', 'Camera 2', 'Camera 10']);
    expect(screen.getByRole('columnheader', { name: 'Unit' }).getAttribute('aria-sort')).toBe('ascending');
    await user.click(header);
    expect(names()).toEqual(['Camera 10', 'Camera 2', 'Camera 1']);
    await user.click(screen.getByRole('button', { name: 'Name' }));
    expect(names()).toEqual(['Camera 1', 'Camera 2', 'Camera 10']);
  });

  test('keeps groups together and does not let the keyboard stop on their headings', async () => {
    const user = userEvent.setup();
    const chosen: string[] = [];
    render(<Grid grouped onSelect={(id) => chosen.push(id)} />);
    expect(names().map((name) => name?.trim())).toEqual(['Quay', 'Camera 10', 'Camera 1', 'Tower', 'Camera 2']);
    screen.getByRole('rowgroup').focus();
    await user.keyboard('{ArrowDown}{ArrowDown}{ArrowDown}{ArrowDown}{ArrowUp}{Home}{End}');
    expect(chosen).toEqual(['a', 'c', 'b', 'b', 'c', 'a', 'b']);
    expect(screen.getByRole('row', { selected: true }).textContent).toContain('Camera 2');
  });

  test('leaves out columns for which there is no room', () => {
    render(<Grid />);
    expect(screen.queryByText('Only when wide')).toBeNull();
  });
});

describe('the depth of a link', () => {
  const depth = (states: string, measured: boolean): links.Depth => {
    const marks = Array.from(states, (state, at) => ({
      layer: (['cable', 'segment', 'address', 'port', 'service', 'access', 'message', 'reply'] as const)[at] ?? 'reply',
      state: ({ p: 'pass', r: 'risky', f: 'fail', w: 'waits' } as const)[state] ?? 'waits',
    }));
    const stop = marks.find(({ state }) => state === 'fail');
    return {
      marks,
      depth: states.search(/[fw]|$/),
      measured,
      stale: false,
      proven: measured,
      rttMs: null,
      stopsAt: stop?.layer,
    };
  };

  test.each([
    ['pppfwwww', false, '3 of 8, stops here: port, forecast'],
    ['pppppppp', true, '8 of 8, measured'],
    ['prpppppp', false, '8 of 8, forecast'],
  ])('%s is told in words too', (states, measured, told) => {
    render(<DepthGlyph depth={depth(states, measured)} />);
    const glyph = screen.getByRole('img', { name: told });
    // shapes differ, so that nobody needs the colours
    const shapeOf = ({ className }: Element) =>
      ['clip-path', 'rounded-full', 'border-dashed'].find((shape) => className.includes(shape));
    const shapes = new Set([...glyph.children].map(shapeOf));
    expect(shapes.size).toBe(new Set(Array.from(states)).size);
  });
});

describe('a form on a row', () => {
  interface Thing {
    readonly rev: number;
    readonly name: string;
  }
  const seen: Thing[] = [];
  let answer: Promise<void> = Promise.resolve();
  let where = 0;
  beforeEach(() => (where += 1));
  const nameOf = ({ name }: Thing) => ({ name });
  function Form({ row }: { row: Thing }) {
    const { register, handleSubmit, opened, movedOn, settle, adopt } = useRowForm(row, nameOf, `thing ${where}`);
    return (
      <form
        onSubmit={(event) =>
          void handleSubmit(async (values) => {
            seen.push({ ...opened, ...values });
            await answer;
            settle(values);
          })(event)
        }
      >
        <input aria-label="Name" {...register('name')} />
        <output>{movedOn ? 'moved on' : 'settled'}</output>
        <button type="submit">Save</button>
        <button type="button" onClick={adopt}>
          Take theirs
        </button>
      </form>
    );
  }
  const field = () => screen.getByLabelText<HTMLInputElement>('Name').value;

  test('follows the row while nobody types', () => {
    const { rerender } = render(<Form row={{ rev: 1, name: 'One' }} />);
    rerender(<Form row={{ rev: 2, name: 'Two' }} />);
    expect([field(), screen.getByRole('status').textContent]).toEqual(['Two', 'settled']);
  });

  test('left half-typed it is found so again, on the revision that it was typed on, and saved it is clean', async () => {
    const user = userEvent.setup();
    const { unmount } = render(<Form row={{ rev: 1, name: 'One' }} />);
    await user.type(screen.getByLabelText('Name'), ' half');
    unmount();
    const again = render(<Form row={{ rev: 1, name: 'One' }} />);
    expect([field(), screen.getByRole('status').textContent]).toEqual(['One half', 'settled']);
    again.unmount();
    // somebody else saved it meanwhile: what was typed stays on the revision that it was typed on
    const late = render(<Form row={{ rev: 2, name: 'Two' }} />);
    expect([field(), screen.getByRole('status').textContent]).toEqual(['One half', 'moved on']);
    await user.click(screen.getByRole('button', { name: 'Save' }));
    expect(seen.at(-1)).toEqual({ rev: 1, name: 'One half' });
    late.unmount();
    render(<Form row={{ rev: 3, name: 'One half' }} />);
    expect([field(), screen.getByRole('status').textContent]).toEqual(['One half', 'settled']);
  });

  test('keeps what was typed and the revision that it was typed on, until it is saved or given up', async () => {
    const user = userEvent.setup();
    const { rerender } = render(<Form row={{ rev: 1, name: 'One' }} />);
    await user.type(screen.getByLabelText('Name'), '!');
    rerender(<Form row={{ rev: 2, name: 'Two' }} />);
    expect([field(), screen.getByRole('status').textContent]).toEqual(['One!', 'moved on']);
    await user.click(screen.getByRole('button', { name: 'Save' }));
    expect(seen.at(-1)).toEqual({ rev: 1, name: 'One!' });
    await user.clear(screen.getByLabelText('Name'));
    rerender(<Form row={{ rev: 3, name: 'Three' }} />);
    await user.click(screen.getByRole('button', { name: 'Take theirs' }));
    expect([field(), screen.getByRole('status').textContent]).toEqual(['Three', 'settled']);
  });

  test.each([
    ['before the row that was saved comes back', false],
    ['after it', true],
  ])(
    'keeps what is typed while it is being saved, answered %s, and saves that on the new revision',
    async (_, isRowFirst) => {
      const user = userEvent.setup();
      let done = (): void => undefined;
      answer = new Promise((resolve) => (done = resolve));
      const { rerender } = render(<Form row={{ rev: 1, name: 'One' }} />);
      await user.type(screen.getByLabelText('Name'), '!');
      await user.click(screen.getByRole('button', { name: 'Save' }));
      await user.type(screen.getByLabelText('Name'), '?');
      const comesBack = () => rerender(<Form row={{ rev: 2, name: 'One!' }} />);
      if (isRowFirst) comesBack();
      await act(async () => {
        done();
        await answer;
      });
      if (!isRowFirst) comesBack();
      expect([field(), screen.getByRole('status').textContent]).toEqual(['One!?', 'settled']);
      await user.click(screen.getByRole('button', { name: 'Save' }));
      expect(seen.at(-1)).toEqual({ rev: 2, name: 'One!?' });
      // from here on others are others again
      await user.type(screen.getByLabelText('Name'), '.');
      rerender(<Form row={{ rev: 3, name: 'One!?' }} />);
      rerender(<Form row={{ rev: 4, name: 'Theirs' }} />);
      expect([field(), screen.getByRole('status').textContent]).toEqual(['One!?.', 'moved on']);
    },
  );
});

test.each([0, 1, 2])('a form with %i things to tick follows its row, and is as clean as before', async (count) => {
  interface Ticked {
    readonly rev: number;
    readonly ticks: readonly string[];
  }
  function Form({ row }: { row: Ticked }) {
    const { register, formState, movedOn } = useRowForm(row, ({ ticks }) => ({ ticks: [...ticks] }), `ticks ${count}`);
    return (
      <form>
        {['a', 'b'].slice(0, count).map((tick) => (
          <input key={tick} type="checkbox" aria-label={tick} value={tick} {...register('ticks')} />
        ))}
        <output>{`${formState.isDirty} ${movedOn}`}</output>
      </form>
    );
  }
  const ticked = () =>
    screen.queryAllByRole<HTMLInputElement>('checkbox').flatMap(({ checked, value }) => (checked ? [value] : []));
  const { rerender } = render(<Form row={{ rev: 1, ticks: [] }} />);
  for (const [rev, ticks] of [
    [2, ['a']],
    [3, []],
    [4, ['a', 'b']],
  ] as const) {
    rerender(<Form row={{ rev, ticks }} />);
    expect([ticked(), screen.getByRole('status').textContent]).toEqual([ticks.slice(0, count), 'false false']);
  }
  if (count === 0) return;
  await userEvent.click(screen.getByLabelText('a'));
  rerender(<Form row={{ rev: 5, ticks: [] }} />);
  expect([ticked(), screen.getByRole('status').textContent]).toEqual([['b'].slice(0, count - 1), 'true true']);
});

test('a dialogue puts the focus on its first field, not on its close button', () => {
  const onClose = vi.fn();
  render(
    <Dialog title="Add" onClose={onClose}>
      <label>
        Range <input />
      </label>
    </Dialog>,
  );
  expect(document.activeElement).toBe(screen.getByLabelText('Range'));
  act(() => screen.getByRole('button', { name: 'Close' }).click());
  expect(onClose).toHaveBeenCalledOnce();
});
