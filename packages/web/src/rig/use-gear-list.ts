import type { Show } from '@deep-patch/core';
import { useCallback, useEffect, useRef, useState } from 'react';
import type { CellPatch, GearAnswer, GearJob } from './gear.worker.ts';

export type GearState =
  | { readonly kind: 'waiting' }
  | { readonly kind: 'reading'; readonly share: number }
  | Extract<GearAnswer, { kind: 'read' | 'refused' }>;

type Held = Omit<GearJob, 'bytes' | 'show'> & { readonly bytes: Uint8Array | undefined };

/** Reads a gear list beside the screen; asking again ends the reading before. */
export function useGearList(show: Show) {
  const [state, setState] = useState<GearState>({ kind: 'waiting' });
  const worker = useRef<Worker | undefined>(undefined);
  const held = useRef<Held>({ bytes: undefined, columns: undefined, western: false, patches: [] });

  const stop = useCallback(() => {
    worker.current?.terminate();
    worker.current = undefined;
  }, []);
  useEffect(() => stop, [stop]);

  const start = useCallback(() => {
    stop();
    const { bytes, ...rest } = held.current;
    if (!bytes) return;
    setState((before) => (before.kind === 'read' ? before : { kind: 'reading', share: 0 }));
    const made = new Worker(new URL('./gear.worker.ts', import.meta.url), { type: 'module' });
    worker.current = made;
    made.onmessage = ({ data }: MessageEvent<GearAnswer>) => {
      if (data.kind !== 'progress') setState(data);
      else
        setState((before) =>
          before.kind === 'read' ? before : { kind: 'reading', share: data.done / Math.max(1, data.total) },
        );
    };
    made.onerror = () => setState({ kind: 'refused', fault: 'binary' });
    const job: GearJob = { bytes, show, ...rest };
    made.postMessage(job);
  }, [show, stop]);

  const read = useCallback(
    (bytes: Uint8Array) => {
      held.current = { bytes, columns: undefined, western: false, patches: [] };
      start();
    },
    [start],
  );
  /** Reads the same bytes again with other columns, another encoding or a cell put right. */
  const readAgain = useCallback(
    (change: Partial<Omit<Held, 'bytes' | 'patches'>> & { patch?: CellPatch }) => {
      const { patch, ...rest } = change;
      const before = held.current;
      held.current = { ...before, ...rest, patches: patch ? [...before.patches, patch] : before.patches };
      start();
    },
    [start],
  );

  const reset = useCallback(() => {
    stop();
    setState({ kind: 'waiting' });
  }, [stop]);
  return { state, read, readAgain, reset };
}
