import { bringup, type Show } from '@deep-patch/core';
import { useEffect, useRef } from 'react';
import { useBenchPart } from '../live/bench-store.ts';
import type { Sheet } from './use-sheet.ts';

/**
 * What somebody does at a stand-in's own menu advances the sheet as well: a step that was not done on the bench and now is.
 * What was so all along says nothing, since the rig that is being set may be another one than the bench.
 */
export function useHandwork(show: Show, plan: bringup.BringUp | undefined, sheet: Sheet): void {
  const standins = useBenchPart((bench) => bench?.standins);
  const before = useRef(new Map<string, boolean>());
  const { done: record, busy } = sheet;
  useEffect(() => {
    if (!plan || !standins || busy !== undefined) return;
    const known = new Map(standins.map((standin) => [standin.deviceId, standin]));
    const first = new Set<string>();
    const done: bringup.BringUpStep[] = [];
    for (const step of plan.steps) {
      const standin = known.get(step.deviceId);
      // of a unit only its next step can have been done
      if (!standin || first.has(step.deviceId)) continue;
      first.add(step.deviceId);
      const isNow = bringup.isDoneOnBench(show, plan, step, standin);
      const was = before.current.get(step.key);
      before.current.set(step.key, isNow);
      if (isNow && was === false) done.push(step);
    }
    // a person does one thing at a time: what changes everywhere at once is no handwork
    const [step] = done;
    if (step && done.length === 1) void record(step);
  }, [show, plan, standins, busy, record]);
}
