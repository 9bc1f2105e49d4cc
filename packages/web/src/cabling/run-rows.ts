import { writeBlock } from '@deep-patch/codecs';
import { type addressing, cabling, findings, show as core, type show } from '@deep-patch/core';
import type { Column } from '../parts/data-grid.tsx';
import { tableCsv } from '../parts/table-csv.ts';

export interface RunRow extends Readonly<Record<cabling.RunField, string>> {
  readonly cable: show.Cable;
  readonly carries: string;
}

export function runRows(show: core.Show, facts: addressing.AddressingFacts | undefined): RunRow[] {
  const carried = facts && cabling.carriedBy(show, cabling.cablingFacts(show), facts);
  return core
    .rowsOf(show, 'cables')
    .map((cable) => ({
      cable,
      from: show.devices[cable.fromDevice]?.name ?? '',
      fromSocket: core.socketLabel(show, cable.fromDevice, cable.fromSocket),
      to: show.devices[cable.toDevice]?.name ?? '',
      toSocket: core.socketLabel(show, cable.toDevice, cable.toSocket),
      medium: cabling.kindWords(cable),
      length: cable.lengthM === null ? '' : String(cable.lengthM),
      stage: cabling.stageWords[cable.stage],
      carries: (carried?.get(cable.id) ?? []).map(({ name }) => name).join(', '),
    }))
    .sort((a, b) => inOrder(a.from, b.from) || inOrder(a.fromSocket, b.fromSocket));
}

const collator = new Intl.Collator('en-GB', { numeric: true });
const inOrder = (a: string, b: string): number => collator.compare(a, b);

const column = (key: cabling.RunField | 'carries', header: string, width: string, from = 0): Column<RunRow> => ({
  key,
  header,
  width,
  from,
  sortBy: (row) => row[key],
  cell: (row) => row[key] || '—',
});
export const runColumns: readonly Column<RunRow>[] = [
  column('from', 'From', 'minmax(7rem,1.4fr)'),
  column('fromSocket', 'Socket', 'minmax(5rem,0.8fr)', 420),
  column('to', 'To', 'minmax(7rem,1.4fr)'),
  column('toSocket', 'Its socket', 'minmax(5rem,0.8fr)', 420),
  column('medium', 'Kind', '5rem', 560),
  { ...column('length', 'Length', '5.5rem'), sortBy: ({ cable }) => cable.lengthM ?? -1, text: ({ length }) => length },
  column('carries', 'Carries', 'minmax(6rem,1fr)', 640),
  column('stage', 'When', '6.5rem', 760),
];

/** The runs as a file that can be read in again. */
export const runCsv = (rows: readonly RunRow[], columns: readonly Column<RunRow>[]): string =>
  tableCsv(
    columns.map(({ header, ...rest }) => ({ ...rest, header: header === 'Its socket' ? 'Socket' : header })),
    rows,
  );

/** The same for a spreadsheet: what `readRuns` reads again. */
export const runBlock = (rows: readonly RunRow[]): string =>
  writeBlock([
    runColumns.map(({ header }) => (header === 'Its socket' ? 'Socket' : header)),
    ...rows.map((row) => runColumns.map(({ key }) => row[key as cabling.RunField | 'carries'])),
  ]);

/** How much of each kind there is, and how many nobody has measured. */
export function sumsOf(rows: readonly RunRow[]): string {
  const metres = Object.entries(cabling.mediumWords).flatMap(([medium, word]) => {
    if (medium === 'wireless') return [];
    const sum = rows.reduce((all, { cable }) => all + (cable.medium === medium ? (cable.lengthM ?? 0) : 0), 0);
    return sum > 0 ? [`${Math.round(sum * 10) / 10} m ${word}`] : [];
  });
  const unknown = rows.filter(({ cable }) => cable.lengthM === null && cable.medium !== 'wireless').length;
  return [
    findings.counted(rows.length, 'run'),
    ...metres,
    ...(unknown > 0 ? [`${unknown} without a length`] : []),
  ].join(' · ');
}

/** Edits of cells as runs that are written anew: a unit that changes takes the first socket that fits. */
export function writtenOf(
  rows: readonly RunRow[],
  edits: readonly { readonly id: string; readonly key: string; readonly text: string }[],
): cabling.WrittenRun[] {
  const byId = new Map(rows.map((row, at) => [row.cable.id, { row, line: at + 1 }]));
  return [...core.groupBy(edits, ({ id }) => id)].flatMap(([id, own]) => {
    const known = byId.get(id);
    if (!known) return [];
    const { row, line } = known;
    const { cable } = row;
    const typed = Object.fromEntries(own.map(({ key, text }) => [key, text.trim()]));
    const stays = (field: 'from' | 'to') => typed[field] === undefined;
    return [
      {
        line,
        cableId: id,
        from: row.from,
        to: row.to,
        fromSocket: stays('from') ? cable.fromSocket : '',
        toSocket: stays('to') ? cable.toSocket : '',
        medium: stays('from') && stays('to') ? row.medium : '',
        length: row.length,
        stage: row.stage,
        ...(stays('from') ? { fromId: cable.fromDevice } : {}),
        ...(stays('to') ? { toId: cable.toDevice } : {}),
        ...typed,
      },
    ];
  });
}
