import { onair } from '@deep-patch/core';
import { useEffect, useRef } from 'react';
import { useBenchPart } from '../live/bench-store.ts';
import { newId } from '../live/identity.ts';
import { useShow, useWorkspace } from '../live/workspace.tsx';

const mostTakes = 500;

/**
 * Takes of an input: those that are being tried on the bench just now, else those that are kept with the plan. What was
 * tried is kept as soon as it is over, by whoever began it.
 */
export function useTakes(input: onair.AirInput) {
  const show = useShow();
  const { save } = useWorkspace();
  const { switcher, number } = input;
  const trial = useBenchPart((known) => {
    const there = known?.trial;
    return there?.of === 'takes' && there.switcherId === switcher.id && there.input === number ? there : undefined;
  });
  const wasRunning = useRef(false);
  const isOwn = useRef(false);
  const isRunning = trial?.running === true;
  useEffect(() => {
    const isOver = wasRunning.current && !isRunning;
    wasRunning.current = isRunning;
    if (!isOver || !isOwn.current || !trial || trial.takes.length === 0) return;
    isOwn.current = false;
    // those of before still count while the plan is the same: what comes once in a hundred takes is seen in time
    const before = onair.measuredTakes(show, input);
    const more = trial.takes.map(([arrives, starts, moves]) => ({ arrives, starts, moves }));
    const takes = [...before, ...more].slice(-mostTakes);
    const measured = {
      ...{ at: Date.now(), basis: onair.takeBasis(show, input) },
      takes: takes.map(({ arrives, starts, moves }): [number, number, number] => [arrives, starts, moves]),
    };
    void save(onair.planRule(show, { switcherId: switcher.id, input: number, id: newId() }, { measured }));
  }, [isRunning, trial, show, input, switcher.id, number, save]);
  const kept = onair.measuredTakes(show, input);
  const now = isRunning ? trial.takes.map(([arrives, starts, moves]) => ({ arrives, starts, moves })) : [];
  const takes = [...kept, ...now].slice(-mostTakes);
  return {
    takes,
    isRunning,
    done: trial?.done ?? 0,
    total: trial?.total ?? 0,
    failed: trial?.failed ?? 0,
    fault: trial?.fault ?? null,
    /** Notes that they are tried by whoever is here, or that they are not after all. */
    begin: (begins: boolean) => (isOwn.current = begins),
    isOfThePast: kept.length === 0 && input.rule.measured !== null,
  };
}
