import type { Show } from '@deep-patch/core';
import { useCallback, useEffect, useRef, useState } from 'react';
import type { CellPatch, GearAnswer, GearJob } from './gear.worker.ts';

export type GearState =
  | { readonly kind: 'waiting' }
  | { readonly kind: 'reading'; readonly share: number }
  | Extract<GearAnswer, { kind: 'read' | 'refused' }>;

type Held = Omit<GearJob, 'show'>;
type Again = Partial<Pick<Held, 'sheet' | 'columns' | 'western'>> & {
  readonly patches?: readonly CellPatch[];
  readonly leaveOut?: readonly number[];
};

/** Lists that are not taken in yet, by show: closing the dialogue loses nothing. */
const held = new Map<string, Held>();

/** Reads a gear list beside the screen; asking again ends the reading before. */
export function useGearList(show: Show, showId: string) {
  const [state, setState] = useState<GearState>(() =>
    held.has(showId) ? { kind: 'reading', share: 0 } : { kind: 'waiting' },
  );
  const worker = useRef<Worker | undefined>(undefined);

  const stop = useCallback(() => {
    worker.current?.terminate();
    worker.current = undefined;
  }, []);
  useEffect(() => stop, [stop]);

  const start = useCallback(() => {
    stop();
    const list = held.get(showId);
    if (!list) return;
    worker.current = reading({ ...list, show }, (answer) =>
      setState((before) => (answer.kind === 'reading' && before.kind === 'read' ? before : answer)),
    );
  }, [show, showId, stop]);
  // when the dialogue opens again, and when types or names of the show have changed since
  useEffect(start, [start]);

  const read = useCallback(
    (bytes: Uint8Array) => {
      held.set(showId, { bytes, sheet: 0, columns: undefined, western: false, patches: [], leftOut: [] });
      setState({ kind: 'reading', share: 0 });
      start();
    },
    [showId, start],
  );
  /** Reads the same bytes again: another sheet or encoding, other columns, cells put right, lines left out. */
  const readAgain = useCallback(
    ({ patches = [], leaveOut = [], ...change }: Again) => {
      const before = held.get(showId);
      if (!before) return;
      const isOther = change.sheet !== undefined && change.sheet !== before.sheet;
      const kept = isOther ? { ...before, columns: undefined, patches: [], leftOut: [] } : before;
      const next = { patches: [...kept.patches, ...patches], leftOut: [...kept.leftOut, ...leaveOut] };
      held.set(showId, { ...kept, ...change, ...next });
      start();
    },
    [showId, start],
  );

  const reset = useCallback(() => {
    stop();
    held.delete(showId);
    setState({ kind: 'waiting' });
  }, [showId, stop]);
  return { state, read, readAgain, reset };
}

function reading(job: GearJob, onState: (state: GearState) => void): Worker {
  const worker = new Worker(new URL('./gear.worker.ts', import.meta.url), { type: 'module' });
  worker.onmessage = ({ data }: MessageEvent<GearAnswer>) =>
    onState(data.kind === 'progress' ? { kind: 'reading', share: data.done / Math.max(1, data.total) } : data);
  worker.onerror = () => onState({ kind: 'refused', fault: 'binary' });
  worker.postMessage(job);
  return worker;
}
