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
import { useEffect, useMemo, useRef, type CSSProperties, type ReactNode } from 'react';
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
  /** What a file says of it, where that is not what it is sorted by. */
  readonly text?: (row: Row) => string;
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
export function DataGrid<Row extends RowData>(props: Props<Row>) {
  const { label, columns: all, selected, onSelect, cells, onChosen } = props;
  const [width, box] = useWidth<HTMLDivElement>(800);
  const columns = useMemo(() => all.filter(({ from = 0 }) => width >= from), [all, width]);
  const { table, lines } = useLines(props, columns);
  const { scroller, virtual } = useScroller(lines, selected);
  const inOrder = useMemo(
    () => lines.flatMap((line) => (line.kind === 'row' ? [{ id: line.id, row: line.row }] : [])),
    [lines],
  );
  const keys = useMemo(() => columns.map(({ key }) => key), [columns]);
  const grid = useCells({ cells, rows: inOrder, keys, selected, onSelect });
  useTelling(grid.chosen, onChosen);
  const template = { gridTemplateColumns: columns.map((column) => column.width).join(' ') };
  const shared = { columns, cells, grid, selected, onLeave: () => scroller.current?.focus() };
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
        <Heads table={table} columns={columns} template={template} />
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
            {virtual.getVirtualItems().map(({ index, start }) => {
              const line = lines[index];
              const place = { transform: `translateY(${start}px)`, height: rowHeight };
              if (line?.kind === 'group')
                return <GroupLine key={`group ${line.group.id}`} {...{ ...line, index, place }} />;
              const style = { ...template, ...place };
              return line && <RowLine key={line.id} {...{ ...line, ...shared, index, style }} />;
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

/** The rows as sorted, with the headings of their groups. */
function useLines<Row extends RowData>(
  { rows, idOf, groupOf }: Pick<Props<Row>, 'rows' | 'idOf' | 'groupOf'>,
  columns: readonly Column<Row>[],
) {
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
  return { table, lines };
}

/** Draws what is in sight, and brings a newly selected row there. */
function useScroller<Row>(lines: readonly Line<Row>[], selected: string | undefined) {
  const scroller = useRef<HTMLDivElement>(null);
  const virtual = useVirtualizer({
    count: lines.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => rowHeight,
    overscan: 8,
  });
  const at = lines.findIndex((line) => line.kind === 'row' && line.id === selected);
  useEffect(() => {
    if (at >= 0) virtual.scrollToIndex(at);
    // only a new selection scrolls, not every new row
    // oxlint-disable-next-line react/exhaustive-deps
  }, [selected]);
  return { scroller, virtual };
}

function useTelling(chosen: readonly string[], onChosen: ((ids: readonly string[]) => void) | undefined): void {
  const tell = useRef(onChosen);
  useEffect(() => {
    tell.current = onChosen;
  });
  const key = chosen.join(' ');
  useEffect(() => {
    tell.current?.(key === '' ? [] : key.split(' '));
  }, [key]);
}

function Heads<Row extends RowData>({
  table,
  columns,
  template,
}: {
  readonly table: ReturnType<typeof useLines<Row>>['table'];
  readonly columns: readonly Column<Row>[];
  readonly template: CSSProperties;
}) {
  return (
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
  );
}

function GroupLine({
  group,
  index,
  place,
}: {
  readonly group: Group;
  readonly index: number;
  readonly place: CSSProperties;
}) {
  return (
    <div
      role="row"
      aria-rowindex={index + 2}
      className="absolute inset-x-0 flex items-center border-b border-rule bg-base-200 px-2.5 text-[12.5px] font-semibold text-mute"
      style={place}
    >
      <span role="gridcell">
        {group.label} <span className="ml-3 font-normal">{group.detail}</span>
      </span>
    </div>
  );
}

interface RowProps<Row> {
  readonly row: Row;
  readonly id: string;
  readonly index: number;
  readonly style: CSSProperties;
  readonly columns: readonly Column<Row>[];
  readonly cells: Cells<Row> | undefined;
  readonly grid: ReturnType<typeof useCells<Row>>;
  readonly selected: string | undefined;
  /** Typing has ended: the keys are the table's again. */
  readonly onLeave: () => void;
}

function RowLine<Row>(props: RowProps<Row>) {
  const { id, index, style, columns, cells, grid, selected } = props;
  const isChosen = grid.isChosen(id);
  return (
    <div
      role="row"
      aria-rowindex={index + 2}
      aria-selected={isChosen}
      onClick={(event) => grid.onRowClick(event, id)}
      className={`absolute inset-x-0 grid cursor-pointer items-center ${cells ? 'select-none' : ''} border-b border-rule hover:bg-base-300/60 ${isChosen ? 'bg-base-300 shadow-[inset_3px_0_0_var(--color-primary)]' : ''}`}
      style={style}
    >
      {columns.map((column) => {
        const isHere = id === selected && column.key === grid.column;
        return (
          <div
            key={column.key}
            role="gridcell"
            onClick={(event) => {
              if (!cells) return;
              event.stopPropagation();
              // a panel that opens at the first of two clicks moves the columns: the second one means the same cell
              if (event.detail < 2) grid.onRowClick(event, id, column.key);
            }}
            onDoubleClick={() => grid.startEditing(grid.column ?? column.key)}
            className={`flex h-full items-center truncate px-2.5 ${isHere ? 'outline-1 -outline-offset-1 outline-primary' : ''}`}
          >
            <CellContent {...props} column={column} isTyped={isHere && grid.editing} />
          </div>
        );
      })}
    </div>
  );
}

function CellContent<Row>({
  row,
  id,
  columns,
  cells,
  grid,
  onLeave,
  column,
  isTyped,
}: RowProps<Row> & { readonly column: Column<Row>; readonly isTyped: boolean }) {
  if (!isTyped || !cells) return <span className="truncate">{column.cell(row)}</span>;
  return (
    <CellInput
      label={`${column.header} of ${cells.textOf(row, columns[0]?.key ?? '')}`}
      text={cells.textOf(row, column.key)}
      onCancel={() => {
        grid.stopEditing();
        onLeave();
      }}
      onCommit={(text) => {
        void grid.commit(id, column.key, text);
        onLeave();
      }}
    />
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
