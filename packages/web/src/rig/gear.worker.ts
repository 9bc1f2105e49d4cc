/// <reference lib="webworker" />
import { readCsv } from '@deep-patch/codecs';
import { rig, type Show } from '@deep-patch/core';

declare const self: DedicatedWorkerGlobalScope;

/** What the import dialogue asks: bytes as dropped or pasted, and the columns if somebody chose them. */
export interface GearJob {
  readonly bytes: Uint8Array;
  readonly show: Show;
  readonly columns: rig.GearColumns | undefined;
  readonly western: boolean;
  /** Cells that somebody put right in the preview. */
  readonly patches: readonly CellPatch[];
}

export interface CellPatch {
  readonly line: number;
  readonly column: number;
  readonly text: string;
}

export type GearAnswer =
  | { readonly kind: 'progress'; readonly done: number; readonly total: number }
  | { readonly kind: 'read'; readonly list: rig.GearList; readonly cells: string[][]; readonly tookMs: number }
  | { readonly kind: 'refused'; readonly fault: 'empty' | 'binary' | 'too_many_rows' | 'not_utf8' };

const answer = (message: GearAnswer) => self.postMessage(message);

self.onmessage = ({ data: { bytes, show, columns, western, patches } }: MessageEvent<GearJob>) => {
  const started = performance.now();
  const read = readCsv(bytes, { western });
  if (!read.ok) {
    answer({ kind: 'refused', fault: read.fault });
    return;
  }
  for (const { line, column, text } of patches) {
    const row = read.cells[line - 1];
    if (row) row[column] = text;
  }
  const list = rig.readGearList(read.cells, show, {
    ...(columns ? { columns } : {}),
    onProgress: (done, total) => answer({ kind: 'progress', done, total }),
  });
  answer({ kind: 'read', list, cells: read.cells, tookMs: performance.now() - started });
};
