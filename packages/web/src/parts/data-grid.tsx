import {
  createColumnHelper,
  createSortedRowModel,
  rowSortingFeature,
  sortFn_alphanumeric,
  tableFeatures,
  useTable,
  type RowData,
} from '@tanstack/react-table';
import { useVirtualizer } from '@tanstack/react-virtual';
import { ArrowDown, ArrowUp } from 'lucide-react';
import { useEffect, useMemo, useRef, type ReactNode } from 'react';
import { CellInput } from './cell-input.tsx';
import { useCells, type Cells } from './use-cells.ts';
import { useWidth } from './use-width.ts';

export interface Column<Row> {
  readonly key: string;
  readonly header: string;
  /** A track of CSS grid, such as `1fr` or `8rem`. */
  readonly width: string;
  readonly cell: (row: Row) => ReactNode;
  readonly sortBy?: (row: Row) => string | number;
  /** Shown from this width of the table on, in pixels. */
  readonly from?: number;
}

export interface Group {
  readonly id: string;
  readonly label: string;
  readonly detail?: string;
}

interface Props<Row> {
  readonly label: string;
  readonly rows: readonly Row[];
  readonly columns: readonly Column<Row>[];
  readonly idOf: (row: Row) => string;
  readonly groupOf?: (row: Row) => Group;
  readonly selected?: string | undefined;
  readonly onSelect: (id: string) => void;
  /** Lets people type into cells, choose several rows, fill down and paste. */
  readonly cells?: Cells<Row>;
  /** Told whenever several rows are chosen, or one, or none. */
  readonly onChosen?: (ids: readonly string[]) => void;
}

const features = tableFeatures({
  rowSortingFeature,
  sortedRowModel: createSortedRowModel(),
  sortFns: { alphanumeric: sortFn_alphanumeric },
});
const rowHeight = 32;

type Line<Row> =
  { readonly kind: 'group'; readonly group: Group } | { readonly kind: 'row'; readonly row: Row; readonly id: string };

/**
 * A table for any number of rows: only those in sight are drawn. Arrows move, headers sort. With `cells`, left and
 * right choose a column, Enter types into it, Shift chooses several rows, Ctrl D fills down, pasting lies on the cursor.
 */
export function DataGrid<Row extends RowData>({
  label,
  rows,
  columns: all,
  idOf,
  groupOf,
  selected,
  onSelect,
  cells,
  onChosen,
}: Props<Row>) {
  const [width, box] = useWidth<HTMLDivElement>(800);
  const columns = useMemo(() => all.filter(({ from = 0 }) => width >= from), [all, width]);
  const defs = useMemo(() => {
    const helper = createColumnHelper<typeof features, Row>();
    return helper.columns(
      columns.map(({ key, header, sortBy }) =>
        helper.accessor((row) => sortBy?.(row) ?? '', {
          id: key,
          header,
          enableSorting: sortBy !== undefined,
          sortFn: 'alphanumeric',
          sortDescFirst: false,
        }),
      ),
    );
  }, [columns]);
  const table = useTable({ features, columns: defs, data: rows });
  const sorted = table.getRowModel().rows;
  const lines = useMemo(
    () =>
      linesOf(
        sorted.map(({ original }) => original),
        idOf,
        groupOf,
      ),
    [sorted, idOf, groupOf],
  );

  const scroller = useRef<HTMLDivElement>(null);
  const virtual = useVirtualizer({
    count: lines.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => rowHeight,
    overscan: 8,
  });
  const template = { gridTemplateColumns: columns.map(({ width }) => width).join(' ') };
  const at = lines.findIndex((line) => line.kind === 'row' && line.id === selected);

  useEffect(() => {
    if (at >= 0) virtual.scrollToIndex(at);
    // only a new selection scrolls, not every new row
    // oxlint-disable-next-line react/exhaustive-deps
  }, [selected]);

  const inOrder = useMemo(
    () => lines.flatMap((line) => (line.kind === 'row' ? [{ id: line.id, row: line.row }] : [])),
    [lines],
  );
  const keys = useMemo(() => columns.map(({ key }) => key), [columns]);
  const grid = useCells({ cells, rows: inOrder, keys, selected, onSelect });
  const tellChosen = useRef(onChosen);
  useEffect(() => {
    tellChosen.current = onChosen;
  });
  const chosenKey = grid.chosen.join(' ');
  useEffect(() => {
    tellChosen.current?.(chosenKey === '' ? [] : chosenKey.split(' '));
  }, [chosenKey]);
  const active = grid.column === undefined ? undefined : columns.find(({ key }) => key === grid.column);
  const activeRow = inOrder.find(({ id }) => id === selected)?.row;

  return (
    <>
      <div
        role="grid"
        aria-label={label}
        aria-rowcount={lines.length + 1}
        aria-multiselectable={cells !== undefined}
        ref={box}
        className="flex min-h-0 min-w-0 flex-1 flex-col"
      >
        <div role="row" aria-rowindex={1} className="grid border-b border-rule bg-base-200" style={template}>
          {table.getHeaderGroups().flatMap((group) =>
            group.headers.map((header) => {
              const direction = header.column.getIsSorted();
              const name = columns.find(({ key }) => key === header.id)?.header ?? '';
              return (
                <div
                  key={header.id}
                  role="columnheader"
                  aria-sort={direction === 'asc' ? 'ascending' : direction === 'desc' ? 'descending' : 'none'}
                  className="truncate px-2.5 py-1.5 text-xs font-semibold text-faint"
                >
                  {header.column.getCanSort() ? (
                    <button
                      type="button"
                      className="inline-flex items-center gap-1 hover:text-base-content"
                      onClick={header.column.getToggleSortingHandler()}
                    >
                      {name}
                      {direction === 'asc' && <ArrowUp size={12} aria-hidden />}
                      {direction === 'desc' && <ArrowDown size={12} aria-hidden />}
                    </button>
                  ) : (
                    name
                  )}
                </div>
              );
            }),
          )}
        </div>
        <div
          ref={scroller}
          role="rowgroup"
          tabIndex={0}
          aria-label={`${label}, rows`}
          onKeyDown={grid.onKeyDown}
          onPaste={grid.onPaste}
          onCopy={grid.onCopy}
          className="min-h-0 flex-1 overflow-auto"
        >
          <div role="presentation" className="relative" style={{ height: virtual.getTotalSize() }}>
            {virtual.getVirtualItems().map((item) => {
              const line = lines[item.index];
              if (!line) return null;
              const place = { transform: `translateY(${item.start}px)`, height: rowHeight };
              if (line.kind === 'group')
                return (
                  <div
                    key={`group ${line.group.id}`}
                    role="row"
                    aria-rowindex={item.index + 2}
                    className="absolute inset-x-0 flex items-center border-b border-rule bg-base-200 px-2.5 text-[12.5px] font-semibold text-mute"
                    style={place}
                  >
                    <span role="gridcell">
                      {line.group.label} <span className="ml-3 font-normal">{line.group.detail}</span>
                    </span>
                  </div>
                );
              const chosen = grid.isChosen(line.id);
              return (
                <div
                  key={line.id}
                  role="row"
                  aria-rowindex={item.index + 2}
                  aria-selected={chosen}
                  onClick={(event) => grid.onRowClick(event, line.id)}
                  className={`absolute inset-x-0 grid cursor-pointer items-center ${cells ? 'select-none' : ''} border-b border-rule hover:bg-base-300/60 ${chosen ? 'bg-base-300 shadow-[inset_3px_0_0_var(--color-primary)]' : ''}`}
                  style={{ ...template, ...place }}
                >
                  {columns.map(({ key, cell, header }) => {
                    const here = line.id === selected && key === grid.column;
                    return (
                      <div
                        key={key}
                        role="gridcell"
                        onClick={(event) => {
                          if (!cells) return;
                          event.stopPropagation();
                          grid.onRowClick(event, line.id, key);
                        }}
                        onDoubleClick={() => grid.startEditing(key)}
                        className={`flex h-full items-center truncate px-2.5 ${here ? 'outline-1 -outline-offset-1 outline-primary' : ''}`}
                      >
                        {here && grid.editing && cells ? (
                          <CellInput
                            label={`${header} of ${cells.textOf(line.row, columns[0]?.key ?? '')}`}
                            text={cells.textOf(line.row, key)}
                            onCancel={() => {
                              grid.stopEditing();
                              scroller.current?.focus();
                            }}
                            onCommit={(text) => {
                              void grid.commit(line.id, key, text);
                              scroller.current?.focus();
                            }}
                          />
                        ) : (
                          <span className="truncate">{cell(line.row)}</span>
                        )}
                      </div>
                    );
                  })}
                </div>
              );
            })}
          </div>
        </div>
      </div>
      {cells && active && activeRow !== undefined && (
        <p className="sr-only" aria-live="polite">
          {active.header}: {cells.textOf(activeRow, active.key)}
        </p>
      )}
    </>
  );
}

function linesOf<Row>(
  rows: readonly Row[],
  idOf: (row: Row) => string,
  groupOf: ((row: Row) => Group) | undefined,
): Line<Row>[] {
  const asLine = (row: Row): Line<Row> => ({ kind: 'row', row, id: idOf(row) });
  if (!groupOf) return rows.map(asLine);
  const groups = new Map<string, { group: Group; rows: Row[] }>();
  for (const row of rows) {
    const group = groupOf(row);
    const known = groups.get(group.id);
    if (known) known.rows.push(row);
    else groups.set(group.id, { group, rows: [row] });
  }
  return [...groups.values()].flatMap(({ group, rows: inside }) => [
    { kind: 'group' as const, group },
    ...inside.map(asLine),
  ]);
}
