import { bare } from './run-words.ts';

/** One run as people write it: names, what stands at the sockets, and words for the rest. */
export interface RunText {
  /** The line that it stands on, from 1. */
  readonly line: number;
  readonly from: string;
  readonly fromSocket: string;
  readonly to: string;
  readonly toSocket: string;
  readonly medium: string;
  readonly length: string;
  /** When it is plugged in. */
  readonly stage: string;
}
export type RunField = Exclude<keyof RunText, 'line'>;

export const runFields = ['from', 'fromSocket', 'to', 'toSocket', 'medium', 'length', 'stage'] as const;

/** Headings by the words that people use for them; `socket` belongs to the unit before it. */
const headings: Readonly<Record<string, RunField | 'socket'>> = {
  from: 'from',
  'from unit': 'from',
  source: 'from',
  'from socket': 'fromSocket',
  'source port': 'fromSocket',
  'from port': 'fromSocket',
  to: 'to',
  'to unit': 'to',
  destination: 'to',
  target: 'to',
  'to socket': 'toSocket',
  'to port': 'toSocket',
  'destination port': 'toSocket',
  socket: 'socket',
  port: 'socket',
  kind: 'medium',
  cable: 'medium',
  medium: 'medium',
  type: 'medium',
  length: 'length',
  'length m': 'length',
  m: 'length',
  metres: 'length',
  when: 'stage',
  stage: 'stage',
};

/**
 * The runs of a list: by its headings where a line has some, else the columns in the order of the table. Blank lines
 * keep their numbers, and columns that nobody knows are left out.
 */
export function readRuns(cells: readonly (readonly string[])[]): RunText[] {
  const header = cells.findIndex((row) => {
    const named = row.map((cell) => headings[bare(cell)]);
    return named.includes('from') && named.includes('to');
  });
  const columns = header < 0 ? [...runFields] : columnsOf(cells[header] ?? []);
  return cells.slice(header + 1).flatMap((row, at) => {
    if (row.every((cell) => cell.trim() === '')) return [];
    const text = (field: RunField): string => row[columns.indexOf(field)]?.trim() ?? '';
    return [
      {
        line: header + 2 + at,
        from: text('from'),
        fromSocket: text('fromSocket'),
        to: text('to'),
        toSocket: text('toSocket'),
        medium: text('medium'),
        length: text('length'),
        stage: text('stage'),
      },
    ];
  });
}

function columnsOf(row: readonly string[]): (RunField | undefined)[] {
  let side: 'fromSocket' | 'toSocket' = 'fromSocket';
  return row.map((cell) => {
    const field = headings[bare(cell)];
    if (field === 'from') side = 'fromSocket';
    if (field === 'to') side = 'toSocket';
    return field === 'socket' ? side : field;
  });
}
