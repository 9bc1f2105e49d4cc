/// <reference lib="webworker" />
import { looksLikeXlsx, readCsv, readXlsx } from '@deep-patch/codecs';
import { addressing, rig, type Show } from '@deep-patch/core';

declare const self: DedicatedWorkerGlobalScope;

/** What the import dialogue asks: bytes as dropped or pasted, and what somebody chose or put right since. */
export interface GearJob {
  readonly bytes: Uint8Array;
  readonly show: Show;
  /** Which sheet of a workbook, from 0. */
  readonly sheet: number;
  readonly columns: rig.GearColumns | undefined;
  readonly western: boolean;
  /** Cells that somebody put right in the preview. */
  readonly patches: readonly CellPatch[];
  readonly leftOut: readonly number[];
}

export interface CellPatch {
  readonly line: number;
  readonly column: number;
  readonly text: string;
}

export type GearFault = 'empty' | 'binary' | 'too_many_rows' | 'not_utf8' | 'not_xlsx';
export type GearAnswer =
  | { readonly kind: 'progress'; readonly done: number; readonly total: number }
  | {
      readonly kind: 'read';
      readonly list: rig.GearList;
      readonly cells: string[][];
      /** Names of the sheets of a workbook; none for text. */
      readonly sheets: readonly string[];
      readonly sheet: number;
    }
  | { readonly kind: 'refused'; readonly fault: GearFault };

const answer = (message: GearAnswer) => self.postMessage(message);

self.onmessage = ({ data }: MessageEvent<GearJob>) => void work(data);

async function work({ bytes, show, sheet, columns, western, patches, leftOut }: GearJob): Promise<void> {
  const read = await readCells(bytes, sheet, western);
  if ('fault' in read) {
    answer({ kind: 'refused', fault: read.fault });
    return;
  }
  for (const { line, column, text } of patches) {
    const row = read.cells[line - 1];
    if (row) row[column] = text;
  }
  const list = rig.readGearList(read.cells, show, {
    ...(columns ? { columns } : {}),
    leftOut: new Set(leftOut),
    readAddress: addressing.readGearAddress,
    onProgress: (done, total) => answer({ kind: 'progress', done, total }),
  });
  answer({ kind: 'read', list, cells: read.cells, sheets: read.sheets, sheet });
}

async function readCells(
  bytes: Uint8Array,
  sheet: number,
  western: boolean,
): Promise<{ cells: string[][]; sheets: readonly string[] } | { fault: GearFault }> {
  if (!looksLikeXlsx(bytes)) {
    const read = readCsv(bytes, { western });
    return read.ok ? { cells: read.cells, sheets: [] } : { fault: read.fault };
  }
  const read = await readXlsx(bytes);
  if (!read.ok) return { fault: read.fault };
  return { cells: read.sheets[sheet]?.cells ?? [], sheets: read.sheets.map(({ name }) => name) };
}
