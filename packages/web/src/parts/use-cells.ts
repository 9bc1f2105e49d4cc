import { useCallback, useMemo, useState, type ClipboardEvent, type KeyboardEvent, type MouseEvent } from 'react';

export interface CellEdit {
  readonly id: string;
  readonly key: string;
  readonly text: string;
}

/** What a table needs to let people type into it: which columns, what stands there, and how to save. */
export interface Cells<Row> {
  readonly canEdit: (key: string) => boolean;
  readonly textOf: (row: Row, key: string) => string;
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

/**
 * A cursor of row and column, a range of rows, typing into a cell, filling down and pasting over a block. The row of
 * the cursor is the table's selected row; the range reaches from it to where Shift went last.
 */
export function useCells<Row>({ cells, rows, keys, selected: given, onSelect }: Input<Row>) {
  // the selected row comes from the address of the page, which follows a moment later: keys pressed quickly would count
  // from where the cursor was, so it is kept here too and gives way to the page whenever that moves
  const [cursor, setCursor] = useState({ given, id: given });
  if (cursor.given !== given) setCursor({ given, id: given });
  const selected = cursor.given === given ? cursor.id : given;
  const [columnKey, setColumn] = useState<string>();
  const [range, setRange] = useState<ReadonlySet<string>>(new Set());
  const [anchor, setAnchor] = useState<string>();
  const [editing, setEditing] = useState(false);
  const column = columnKey !== undefined && keys.includes(columnKey) ? columnKey : keys[0];
  const at = rows.findIndex(({ id }) => id === selected);
  const chosen = useMemo(() => {
    const inOrder = rows.flatMap(({ id }) => (range.has(id) ? [id] : []));
    return inOrder.length > 1 ? inOrder : selected === undefined || at < 0 ? [] : [selected];
  }, [rows, range, selected, at]);

  const between = useCallback(
    (from: string | undefined, to: string): Set<string> => {
      const ids = rows.map(({ id }) => id);
      const [a, b] = [ids.indexOf(from ?? to), ids.indexOf(to)].sort((x, y) => x - y);
      return new Set(ids.slice(Math.max(0, a ?? 0), (b ?? 0) + 1));
    },
    [rows],
  );

  const goTo = (id: string, extend: boolean) => {
    const start = extend ? (anchor ?? selected) : id;
    setAnchor(start);
    setRange(extend ? between(start, id) : new Set());
    setEditing(false);
    setCursor({ given, id });
    onSelect(id);
  };

  const onRowClick = (event: MouseEvent, id: string, key?: string) => {
    if (key !== undefined) setColumn(key);
    if (cells && event.shiftKey) {
      goTo(id, true);
      return;
    }
    if (cells && (event.ctrlKey || event.metaKey)) {
      const next = new Set(range.size > 0 ? range : selected === undefined ? [] : [selected]);
      if (next.has(id)) next.delete(id);
      else next.add(id);
      setRange(next);
      return undefined;
    }
    goTo(id, false);
  };

  const write = async (edits: readonly CellEdit[]) => (edits.length > 0 ? cells?.save(edits) : undefined);
  const isOpen = column !== undefined && (cells?.canEdit(column) ?? false);

  /** The top cell of the range into all below it, in the column of the cursor. */
  const fillDown = () => {
    const [first, ...below] = chosen;
    const top = rows.find(({ id }) => id === first);
    if (!cells || !top || column === undefined || !isOpen) return;
    const text = cells.textOf(top.row, column);
    void write(below.map((id) => ({ id, key: column, text })));
  };

  /** A block from a spreadsheet lies with its top left cell on the cursor; one value fills the whole range. */
  const paste = (text: string) => {
    const block = text
      .replace(/\r?\n$/, '')
      .split(/\r?\n/)
      .map((line) => line.split('\t'));
    const left = column === undefined ? -1 : keys.indexOf(column);
    const single = block.length === 1 && block[0]?.length === 1;
    const top = rows.findIndex(({ id }) => id === (chosen[0] ?? ''));
    if (!cells || left < 0 || top < 0) return;
    const edits = single
      ? chosen.map((id) => ({ id, key: column ?? '', text: block[0]?.[0] ?? '' }))
      : block.flatMap((line, down) =>
          line.flatMap((cell, right): CellEdit[] => {
            const [id, key] = [rows[top + down]?.id, keys[left + right]];
            return id !== undefined && key !== undefined ? [{ id, key, text: cell }] : [];
          }),
        );
    void write(edits.filter(({ key }) => cells.canEdit(key)));
  };

  const onPaste = (event: ClipboardEvent) => {
    const text = event.clipboardData.getData('text');
    if (!cells || editing || text === '' || chosen.length === 0) return;
    event.preventDefault();
    paste(text);
  };

  const onCopy = (event: ClipboardEvent) => {
    if (!cells || editing || column === undefined || chosen.length === 0) return;
    const byId = new Map(rows.map(({ id, row }) => [id, row]));
    const lines = chosen.flatMap((id) => {
      const row = byId.get(id);
      return row === undefined ? [] : [cells.textOf(row, column)];
    });
    event.preventDefault();
    event.clipboardData.setData('text/plain', lines.join('\n'));
  };

  const step = (event: KeyboardEvent): number | undefined =>
    ({ ArrowDown: 1, ArrowUp: -1, PageDown: 12, PageUp: -12, Home: -rows.length, End: rows.length })[event.key];

  const onKeyDown = (event: KeyboardEvent) => {
    if (editing || event.target !== event.currentTarget) return;
    const rowStep = step(event);
    const side = cells ? { ArrowLeft: -1, ArrowRight: 1 }[event.key] : undefined;
    if (rowStep !== undefined) {
      const next = rows[Math.max(0, Math.min(rows.length - 1, (at < 0 && rowStep > 0 ? -1 : at) + rowStep))];
      if (next) goTo(next.id, event.shiftKey && cells !== undefined);
    } else if (side !== undefined && column !== undefined) {
      setColumn(keys[Math.max(0, Math.min(keys.length - 1, keys.indexOf(column) + side))]);
    } else if (isOpen && at >= 0 && (event.key === 'Enter' || event.key === 'F2')) setEditing(true);
    else if (isOpen && event.key.toLowerCase() === 'd' && (event.ctrlKey || event.metaKey)) fillDown();
    else if (cells && event.key.toLowerCase() === 'a' && (event.ctrlKey || event.metaKey))
      setRange(new Set(rows.map(({ id }) => id)));
    else return;
    event.preventDefault();
  };

  return {
    column: cells ? column : undefined,
    chosen,
    isChosen: (id: string) => (chosen.length > 1 ? range.has(id) : id === selected),
    editing: editing && isOpen,
    startEditing: (key: string) => {
      setColumn(key);
      setEditing(cells?.canEdit(key) ?? false);
    },
    stopEditing: () => setEditing(false),
    commit: async (id: string, key: string, text: string) => {
      setEditing(false);
      await write([{ id, key, text }]);
    },
    clear: () => setRange(new Set()),
    onRowClick,
    onKeyDown,
    onPaste,
    onCopy,
  };
}
