import { useCallback, useRef, useState, type FocusEvent, type KeyboardEvent } from 'react';
import { firstColumns, rigColumns } from './rig-columns.tsx';

export const groupings = [
  ['place', 'place'],
  ['type', 'type'],
  ['system', 'system'],
  ['none', 'nothing'],
] as const;
export type Grouping = (typeof groupings)[number][0];

interface View {
  readonly columns: readonly string[];
  readonly group: Grouping;
}
const key = 'deep-patch-rig-view';
const first: View = { columns: firstColumns, group: 'place' };

function read(): View {
  try {
    const kept = JSON.parse(localStorage.getItem(key) ?? '') as Partial<View>;
    const known = (kept.columns ?? []).filter((column) => rigColumns.some((candidate) => candidate.key === column));
    const group = groupings.find(([id]) => id === kept.group)?.[0] ?? first.group;
    return { columns: known.length > 0 ? known : first.columns, group };
  } catch {
    return first;
  }
}

/** Which columns the table shows and by what it is grouped; each browser keeps its own. */
export function useTableView() {
  const [view, setView] = useState(read);
  const change = useCallback((patch: Partial<View>) => {
    setView((before) => {
      const next = { ...before, ...patch };
      localStorage.setItem(key, JSON.stringify(next));
      return next;
    });
  }, []);
  const toggle = useCallback(
    (column: string) => {
      const on = view.columns.includes(column);
      const columns = rigColumns
        .map((candidate) => candidate.key)
        .filter((candidate) => (candidate === column ? !on : view.columns.includes(candidate)));
      if (columns.length > 0) change({ columns });
    },
    [view, change],
  );
  return { ...view, toggle, setGroup: (group: Grouping) => change({ group }), reset: () => change(first) };
}

/** Columns and grouping, behind one button; closed by the button, Escape or going elsewhere. */
export function TableView({
  view,
  onSave,
}: {
  readonly view: ReturnType<typeof useTableView>;
  /** Saves what the table shows as a file. */
  readonly onSave: () => void;
}) {
  const [open, setOpen] = useState(false);
  const box = useRef<HTMLDivElement>(null);
  const onBlur = (event: FocusEvent) => {
    if (!box.current?.contains(event.relatedTarget)) setOpen(false);
  };
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.key === 'Escape') setOpen(false);
  };
  return (
    <div ref={box} className="relative" onBlur={onBlur} onKeyDown={onKeyDown}>
      <button type="button" className="act" aria-expanded={open} onClick={() => setOpen(!open)}>
        View
      </button>
      {open && (
        <div
          tabIndex={-1}
          className="absolute right-0 z-20 mt-1 grid w-64 gap-2 rounded-box border border-line bg-base-200 p-3 shadow-xl"
        >
          <Choices view={view} />
          <div className="flex gap-2">
            <button type="button" className="act-quiet" onClick={view.reset}>
              As it was
            </button>
            <button type="button" className="act-quiet" onClick={onSave}>
              Save as CSV
            </button>
          </div>
        </div>
      )}
    </div>
  );
}

function Choices({ view }: { readonly view: ReturnType<typeof useTableView> }) {
  return (
    <>
      <label className="grid grid-cols-[5rem_1fr] items-center gap-2 text-[13px]">
        Group by
        <select
          className="field-select"
          value={view.group}
          onChange={(event) => view.setGroup(event.target.value as Grouping)}
        >
          {groupings.map(([id, label]) => (
            <option key={id} value={id}>
              {label}
            </option>
          ))}
        </select>
      </label>
      <fieldset className="grid grid-cols-2 gap-1 text-[13px]">
        <legend className="col-span-2 pb-1 text-xs font-semibold text-mute">Columns</legend>
        {rigColumns.map(({ key: column, header }) => (
          <label key={column} className="flex items-center gap-2">
            <input
              type="checkbox"
              className="checkbox checkbox-xs"
              checked={view.columns.includes(column)}
              onChange={() => view.toggle(column)}
            />
            {header}
          </label>
        ))}
      </fieldset>
    </>
  );
}
