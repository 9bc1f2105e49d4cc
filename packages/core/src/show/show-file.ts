import { showFileSchema, type ShowFile } from '../schemas/index.ts';
import { contentOf } from './change.ts';
import { insertRow } from './edits.ts';
import { tableNames, type Content, type Edit } from './entities.ts';
import { danglingReferences } from './references.ts';
import { emptyShow, rowsOf, type Show } from './show.ts';
import { structureFaults } from './structure-faults.ts';

export interface ShowFileFault {
  readonly at: string;
  readonly message: string;
}
export type ShowFileRead =
  | { readonly ok: true; readonly show: Show; readonly papers: ShowFile['papers'] }
  | { readonly ok: false; readonly faults: readonly ShowFileFault[] };

const mostFaults = 100;

/** A show as one file, without revisions and passwords; `papers` by the SHA-256 that its documents name. */
export function writeShowFile(show: Show, papers: ShowFile['papers']): ShowFile {
  const passwords = (['services', 'links'] as const).flatMap((table) =>
    rowsOf(show, table).flatMap(({ id, secretId }) => (secretId === null ? [] : [`${table}/${id}`])),
  );
  const tables = Object.fromEntries(
    tableNames.map((table) => [
      table,
      // in one order, so that two files of one show are alike
      rowsOf(show, table)
        .sort((a, b) => (a.id < b.id ? -1 : 1))
        .map((row) => withoutSecret(contentOf(row))),
    ]),
  );
  return {
    format: 'deep-patch/show',
    version: 1,
    name: show.name,
    subtitle: show.subtitle,
    tables: tables as unknown as ShowFile['tables'],
    passwords,
    papers,
  };
}

const withoutSecret = <Row extends object>(row: Row): Row => ('secretId' in row ? { ...row, secretId: null } : row);

/** Reads such a file whole, or names all its faults: fields, doubled ids, rows that point nowhere, sockets that are not there. */
export function readShowFile(text: string, id: string): ShowFileRead {
  let parsed: unknown;
  try {
    parsed = JSON.parse(text);
  } catch (error) {
    return refused([{ at: '', message: `This is no JSON: ${error instanceof Error ? error.message : ''}` }]);
  }
  const read = showFileSchema.safeParse(parsed);
  if (!read.success)
    return refused(read.error.issues.map(({ path, message }) => ({ at: path.map(String).join('.'), message })));
  const { name, subtitle, tables, papers } = read.data;
  const rows = Object.fromEntries(
    tableNames.map((table) => [
      table,
      Object.fromEntries(tables[table].map((row) => [row.id, { ...withoutSecret(row), rev: 0 }])),
    ]),
  );
  const show = { ...emptyShow({ id, name, subtitle }), ...rows } as Show;
  const faults = [...doubled(tables), ...pointless(show), ...broken(show), ...missingPapers(show, papers)];
  return faults.length > 0 ? refused(faults) : { ok: true, show, papers };
}

const refused = (faults: readonly ShowFileFault[]): ShowFileRead => ({
  ok: false,
  faults: faults.slice(0, mostFaults),
});

const doubled = (tables: ShowFile['tables']): ShowFileFault[] =>
  tableNames.flatMap((table) => {
    const seen = new Set<string>();
    return tables[table].flatMap(({ id }, at) => {
      if (!seen.has(id)) return (seen.add(id), []);
      return [{ at: `tables.${table}.${at}.id`, message: `“${id}” stands here twice` }];
    });
  });

const pointless = (show: Show): ShowFileFault[] =>
  danglingReferences(show).map((at) => ({ at: `tables.${at}`, message: 'It names a row that is not in the file' }));

function broken(show: Show): ShowFileFault[] {
  const edits: Edit[] = (['devices', 'interfaces', 'cables'] as const).flatMap((table) =>
    rowsOf(show, table).map((row) => insertRow(table, contentOf(row) as Content<typeof table>)),
  );
  return structureFaults(show, { edits }).map(({ path, message }) => {
    const edit = edits[Number(path[2])];
    return { at: `tables.${edit?.table}/${edit?.id}.${String(path.at(-1))}`, message };
  });
}

const missingPapers = (show: Show, papers: ShowFile['papers']): ShowFileFault[] =>
  rowsOf(show, 'documents').flatMap(({ id, title, fileId }) =>
    fileId in papers ? [] : [{ at: `tables.documents/${id}`, message: `The paper “${title}” is not in the file` }],
  );

/** A show as a start for another one: the plan without passwords, and without anything that was keyed in or ticked. */
export function templateOf(show: Show, about: { id: string; name: string; subtitle: string }): Show {
  const fresh = (row: object): object => ({ ...row, rev: 0 });
  const devices = Object.fromEntries(
    rowsOf(show, 'devices').map((row) => [row.id, { ...row, rev: 0, done: [], savedOn: null, swaps: 0 }]),
  );
  const rows = Object.fromEntries(
    tableNames.map((table) => [
      table,
      Object.fromEntries(rowsOf(show, table).map((row) => [row.id, fresh(withoutSecret(row))])),
    ]),
  );
  return { ...emptyShow(about), ...rows, devices, keyedIn: {}, progress: {} };
}
