import { removeRow } from './edits.ts';
import { tableNames, type Change, type Edit, type Row, type TableName } from './entities.ts';
import { rowsBy, rowsOf, type Show } from './show.ts';

/** Which column of which table names a row of another: the same list that the database keeps as foreign keys. */
const references: readonly { from: TableName; column: string; to: TableName }[] = [
  { from: 'types', column: 'libraryId', to: 'libraries' },
  { from: 'blocks', column: 'networkId', to: 'networks' },
  { from: 'devices', column: 'typeId', to: 'types' },
  { from: 'devices', column: 'runsOn', to: 'devices' },
  { from: 'interfaces', column: 'deviceId', to: 'devices' },
  { from: 'addresses', column: 'interfaceId', to: 'interfaces' },
  { from: 'addresses', column: 'networkId', to: 'networks' },
  { from: 'cables', column: 'fromDevice', to: 'devices' },
  { from: 'cables', column: 'toDevice', to: 'devices' },
  { from: 'services', column: 'deviceId', to: 'devices' },
  { from: 'links', column: 'controllerId', to: 'devices' },
  { from: 'links', column: 'targetId', to: 'devices' },
  { from: 'keyedIn', column: 'deviceId', to: 'devices' },
  { from: 'progress', column: 'deviceId', to: 'devices' },
  { from: 'controls', column: 'deviceId', to: 'devices' },
  { from: 'assignments', column: 'deviceId', to: 'devices' },
  { from: 'assignments', column: 'targetId', to: 'devices' },
  { from: 'banks', column: 'deviceId', to: 'devices' },
  { from: 'banks', column: 'targetId', to: 'devices' },
  { from: 'cues', column: 'controllerId', to: 'devices' },
  { from: 'inputRules', column: 'switcherId', to: 'devices' },
  { from: 'clips', column: 'deviceId', to: 'devices' },
  { from: 'timeHops', column: 'fromId', to: 'devices' },
  { from: 'timeHops', column: 'toId', to: 'devices' },
];

/** Rows to remove with the given ones because they would point nowhere, found table by table. */
export function planRemove(show: Show, table: TableName, ids: readonly string[], label: string): Change {
  const gone = new Map<TableName, Set<string>>([[table, new Set(ids)]]);
  for (const from of tableNames) {
    const leading = references.filter((reference) => reference.from === from);
    // a program goes with its computer, and a computer may be listed after it: until nothing more falls
    for (let before = -1; before !== goneIn(gone, from).size;) {
      before = goneIn(gone, from).size;
      for (const { column, to } of leading)
        for (const id of gone.get(to) ?? [])
          for (const row of pointing(show, from, column).get(id) ?? []) goneIn(gone, from).add(row.id);
    }
  }
  const edits: Edit[] = [...tableNames].reverse().flatMap((name) => removals(show, name, gone.get(name)));
  return { label, edits };
}

/** The rows of a table by what a column of theirs names. */
const pointing = (show: Show, from: TableName, column: string): ReadonlyMap<string, readonly Row[]> =>
  rowsBy(show, from, column as never);

/** References of the snapshot that lead nowhere; empty for every show that the server accepted. */
export function danglingReferences(show: Show): string[] {
  return references.flatMap(({ from, column, to }) =>
    rowsOf(show, from)
      .filter((row) => field(row, column) !== '' && !(field(row, column) in show[to]))
      .map((row) => `${from}/${row.id}.${column}`),
  );
}

const field = (row: Row, column: string): string => (row as unknown as Record<string, string>)[column] ?? '';

function goneIn(gone: Map<TableName, Set<string>>, table: TableName): Set<string> {
  const ids = gone.get(table) ?? new Set<string>();
  gone.set(table, ids);
  return ids;
}

const removals = (show: Show, table: TableName, ids: ReadonlySet<string> = new Set()): Edit[] =>
  [...ids].flatMap((id) => {
    const row = show[table][id];
    return row ? [removeRow(table, row)] : [];
  });
