import { readBlock } from '@deep-patch/codecs';
import { show as core } from '@deep-patch/core';
import { useMemo, useState, type ClipboardEvent, type KeyboardEvent, type MouseEvent } from 'react';

export interface CellEdit {
  readonly id: string;
  readonly key: string;
  readonly text: string;
}

/** What a table needs to let people type into it: which columns, what stands there, and how to save. */
export interface Cells<Row> {
  readonly canEdit: (key: string) => boolean;
  readonly textOf: (row: Row, key: string) => string;
  /** The columns by their headings, also those not shown: a block that is pasted may bring its own. */
  readonly headings: ReadonlyMap<string, string>;
  /** The column by whose text a row of such a block is known again. */
  readonly knownBy: string;
  /** Saves all of them or none; true when they are in. */
  readonly save: (edits: readonly CellEdit[]) => Promise<boolean>;
}

interface Input<Row> {
  readonly cells: Cells<Row> | undefined;
  /** Ids of the rows in the order in which they are drawn, and the rows. */
  readonly rows: readonly { readonly id: string; readonly row: Row }[];
  readonly keys: readonly string[];
  readonly selected: string | undefined;
  readonly onSelect: (id: string) => void;
}

/** The cursor: a row, which is the table's selected one, a column, and a range that reaches to where Shift went last. */
function useCursor<Row>({ rows, keys, selected: given, onSelect }: Omit<Input<Row>, 'cells'>) {
  // the selected row comes from the address of the page, which follows a moment later: keys pressed quickly would count
  // from where the cursor was, so it is kept here too and gives way to the page whenever that moves
  const [cursor, setCursor] = useState({ given, id: given });
  if (cursor.given !== given) setCursor({ given, id: given });
  const selected = cursor.given === given ? cursor.id : given;
  const [columnKey, setColumn] = useState<string>();
  const [range, setRange] = useState<ReadonlySet<string>>(new Set());
  const [anchor, setAnchor] = useState<string>();
  const at = rows.findIndex(({ id }) => id === selected);
  const chosen = useMemo(() => {
    const inOrder = rows.flatMap(({ id }) => (range.has(id) ? [id] : []));
    return inOrder.length > 1 ? inOrder : selected === undefined || at < 0 ? [] : [selected];
  }, [rows, range, selected, at]);
  return {
    column: columnKey !== undefined && keys.includes(columnKey) ? columnKey : keys[0],
    setColumn,
    at,
    chosen,
    isChosen: (id: string) => (chosen.length > 1 ? range.has(id) : id === selected),
    goTo: (id: string, extend: boolean) => {
      const start = extend ? (anchor ?? selected) : id;
      setAnchor(start);
      setRange(extend ? between(rows, start, id) : new Set());
      setCursor({ given, id });
      onSelect(id);
    },
    /** In or out of the range, with the cursor's own row in it from the start. */
    toggle: (id: string) => {
      const next = new Set(range.size > 0 ? range : selected === undefined ? [] : [selected]);
      if (next.has(id)) next.delete(id);
      else next.add(id);
      setRange(next);
    },
    chooseAll: () => setRange(new Set(rows.map((row) => row.id))),
  };
}

function between(rows: readonly { readonly id: string }[], from: string | undefined, to: string): Set<string> {
  const ids = rows.map(({ id }) => id);
  const [a, b] = [ids.indexOf(from ?? to), ids.indexOf(to)].sort((x, y) => x - y);
  return new Set(ids.slice(Math.max(0, a ?? 0), (b ?? 0) + 1));
}

interface Block<Row> extends Pick<Input<Row>, 'rows' | 'keys'> {
  readonly cells: Cells<Row>;
  readonly column: string;
  readonly chosen: readonly string[];
}

/** The top cell of the range into all below it, in the column of the cursor. */
function filledDown<Row>({ cells, rows, column, chosen: [first, ...below] }: Block<Row>): CellEdit[] {
  const top = rows.find(({ id }) => id === first);
  if (!top || !cells.canEdit(column)) return [];
  const text = cells.textOf(top.row, column);
  return below.map((id) => ({ id, key: column, text }));
}

/** A block from a spreadsheet lies with its top left cell on the cursor; one value fills the whole range. */
function pasted<Row>({ cells, rows, keys, column, chosen }: Block<Row>, pasting: string): CellEdit[] {
  const block = readBlock(pasting);
  const [left, top] = [keys.indexOf(column), rows.findIndex(({ id }) => id === (chosen[0] ?? ''))];
  if (left < 0 || top < 0) return [];
  const headed = (block[0] ?? []).map((text) => cells.headings.get(text.trim().toLowerCase()));
  if (headed.length > 1 && headed.every((key) => key !== undefined))
    return pastedUnderHeadings({ cells, rows, top }, headed, block.slice(1));
  const [[single = ''] = []] = block;
  const isSingle = block.length === 1 && block[0]?.length === 1;
  const edits = isSingle
    ? chosen.map((id) => ({ id, key: column, text: single }))
    : block.flatMap((line, down) =>
        line.flatMap((text, right): CellEdit[] => {
          const [id, key] = [rows[top + down]?.id, keys[left + right]];
          return id !== undefined && key !== undefined ? [{ id, key, text }] : [];
        }),
      );
  return edits.filter(({ key }) => cells.canEdit(key));
}

/**
 * A block with headings: each column goes under its own heading, and each line to the row that it names. Lines that
 * name none or several, as after typing a new name, lie in their order from the cursor down on what no other line names.
 */
function pastedUnderHeadings<Row>(
  { cells, rows, top }: Pick<Block<Row>, 'cells' | 'rows'> & { readonly top: number },
  headed: readonly string[],
  lines: readonly (readonly string[])[],
): CellEdit[] {
  const byName = core.groupBy(rows, ({ row }) => cells.textOf(row, cells.knownBy));
  const named = lines.map((line) => {
    const found = byName.get(line[headed.indexOf(cells.knownBy)] ?? '') ?? [];
    return found.length === 1 ? found[0] : undefined;
  });
  const rest = rows.slice(top).filter((row) => !named.includes(row));
  return lines.flatMap((line, down) => {
    const target = named[down] ?? rest.shift();
    if (!target) return [];
    return line.flatMap((text, at): CellEdit[] => {
      const key = headed[at];
      const isNew = key !== undefined && cells.canEdit(key) && text !== cells.textOf(target.row, key);
      return isNew ? [{ id: target.id, key, text }] : [];
    });
  });
}

function copied<Row>({ cells, rows, column, chosen }: Block<Row>): string {
  const byId = new Map(rows.map(({ id, row }) => [id, row]));
  const lines = chosen.flatMap((id) => {
    const row = byId.get(id);
    return row === undefined ? [] : [cells.textOf(row, column)];
  });
  return lines.join('\n');
}

/** How far a key moves the cursor: by rows, or by columns. */
const rowSteps = (rows: number): Readonly<Record<string, number>> => ({
  ArrowDown: 1,
  ArrowUp: -1,
  PageDown: 12,
  PageUp: -12,
  Home: -rows,
  End: rows,
});
const sideSteps: Readonly<Record<string, number>> = { ArrowLeft: -1, ArrowRight: 1 };
const within = (at: number, length: number): number => Math.max(0, Math.min(length - 1, at));

/**
 * A cursor of row and column, a range of rows, typing into a cell, filling down and pasting over a block. The row of
 * the cursor is the table's selected row; the range reaches from it to where Shift went last.
 */
export function useCells<Row>(input: Input<Row>) {
  const { cells, rows, keys } = input;
  const cursor = useCursor(input);
  const { column, chosen, goTo } = cursor;
  const [editing, setEditing] = useState(false);
  const isOpen = column !== undefined && (cells?.canEdit(column) ?? false);
  const block = cells && column !== undefined && !editing ? { cells, rows, keys, column, chosen } : undefined;
  const write = async (edits: readonly CellEdit[]) => (edits.length > 0 ? cells?.save(edits) : undefined);
  const move = (id: string, extend: boolean) => {
    setEditing(false);
    goTo(id, extend);
  };
  const keyboard = useKeyboard(input, cursor, {
    move,
    edit: isOpen ? () => setEditing(true) : undefined,
    fillDown: () => block && void write(filledDown(block)),
  });
  return {
    column: cells ? column : undefined,
    chosen,
    isChosen: cursor.isChosen,
    editing: editing && isOpen,
    startEditing: (key: string) => {
      cursor.setColumn(key);
      setEditing(cells?.canEdit(key) ?? false);
    },
    stopEditing: () => setEditing(false),
    commit: async (id: string, key: string, text: string) => {
      setEditing(false);
      await write([{ id, key, text }]);
    },
    onRowClick: (event: MouseEvent, id: string, key?: string) => {
      if (key !== undefined) cursor.setColumn(key);
      if (cells && !event.shiftKey && (event.ctrlKey || event.metaKey)) cursor.toggle(id);
      else move(id, cells !== undefined && event.shiftKey);
    },
    onKeyDown: (event: KeyboardEvent) => {
      if (!editing && event.target === event.currentTarget && keyboard(event)) event.preventDefault();
    },
    onPaste: (event: ClipboardEvent) => {
      const text = event.clipboardData.getData('text');
      if (!block || text === '' || chosen.length === 0) return;
      event.preventDefault();
      void write(pasted(block, text));
    },
    onCopy: (event: ClipboardEvent) => {
      if (!block || chosen.length === 0) return;
      event.preventDefault();
      event.clipboardData.setData('text/plain', copied(block));
    },
  };
}

interface Doing {
  readonly move: (id: string, extend: boolean) => void;
  readonly edit: (() => void) | undefined;
  readonly fillDown: () => void;
}

/** What a key does to the cursor; false where it does nothing here. */
function useKeyboard<Row>(
  { cells, rows, keys }: Input<Row>,
  { at, column, setColumn, chooseAll }: ReturnType<typeof useCursor<Row>>,
  { move, edit, fillDown }: Doing,
) {
  return (event: KeyboardEvent): boolean => {
    const [rowStep, side] = [rowSteps(rows.length)[event.key], cells && sideSteps[event.key]];
    const isControl = event.ctrlKey || event.metaKey;
    const letter = event.key.toLowerCase();
    if (rowStep !== undefined) {
      const next = rows[within((at < 0 && rowStep > 0 ? -1 : at) + rowStep, rows.length)];
      if (next) move(next.id, event.shiftKey && cells !== undefined);
    } else if (side !== undefined && column !== undefined)
      setColumn(keys[within(keys.indexOf(column) + side, keys.length)]);
    else if (edit && at >= 0 && (event.key === 'Enter' || event.key === 'F2')) edit();
    else if (edit && isControl && letter === 'd') fillDown();
    else if (cells && isControl && letter === 'a') chooseAll();
    else return false;
    return true;
  };
}
