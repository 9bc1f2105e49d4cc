import { useCallback, useRef, useState, type FocusEvent, type KeyboardEvent } from 'react';
import { Options } from './form-fields.tsx';

export interface ViewOf {
  /** Where the browser keeps it. */
  readonly name: string;
  readonly columns: readonly { readonly key: string; readonly header: string }[];
  /** The columns at the start. */
  readonly first: readonly string[];
  /** By what rows can be put together, the usual one first, each as it is called in the choice. */
  readonly groupings: readonly (readonly [string, string])[];
}

interface View {
  readonly columns: readonly string[];
  readonly group: string;
}

function read({ name, columns, first, groupings }: ViewOf): View {
  const usual = { columns: first, group: groupings[0]?.[0] ?? '' };
  try {
    const kept = JSON.parse(localStorage.getItem(name) ?? '') as Partial<View>;
    const known = (kept.columns ?? []).filter((column) => columns.some((candidate) => candidate.key === column));
    const group = groupings.find(([id]) => id === kept.group)?.[0] ?? usual.group;
    return { columns: known.length > 0 ? known : usual.columns, group };
  } catch {
    return usual;
  }
}

/** Which columns a table shows and by what it is grouped; each browser keeps its own. `of` stays the same object. */
export function useTableView(of: ViewOf) {
  const [view, setView] = useState(() => read(of));
  const change = useCallback(
    (next: View) => {
      localStorage.setItem(of.name, JSON.stringify(next));
      setView(next);
    },
    [of],
  );
  const toggle = useCallback(
    (column: string) => {
      const on = view.columns.includes(column);
      const columns = of.columns
        .map(({ key }) => key)
        .filter((candidate) => (candidate === column ? !on : view.columns.includes(candidate)));
      if (columns.length > 0) change({ ...view, columns });
    },
    [view, change, of],
  );
  return {
    ...view,
    of,
    toggle,
    setGroup: (group: string) => change({ ...view, group }),
    reset: () => change({ columns: of.first, group: of.groupings[0]?.[0] ?? '' }),
  };
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
      {view.of.groupings.length > 0 && (
        <label className="grid grid-cols-[5rem_1fr] items-center gap-2 text-[13px]">
          Group by
          <select className="field-select" value={view.group} onChange={(event) => view.setGroup(event.target.value)}>
            <Options of={view.of.groupings} />
          </select>
        </label>
      )}
      <fieldset className="grid grid-cols-2 gap-1 text-[13px]">
        <legend className="col-span-2 pb-1 text-xs font-semibold text-mute">Columns</legend>
        {view.of.columns.map(({ key: column, header }) => (
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
