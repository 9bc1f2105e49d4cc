import type { bringup, Show } from '@deep-patch/core';

type Step = bringup.BringUpStep;

/** Who is on a step just now. */
export const takenBy = (show: Show, { deviceId, key }: Step): string | undefined => {
  const taken = show.progress[deviceId]?.taken;
  return taken?.step === key ? taken.by : undefined;
};

/** A step for which nothing else is waited: nobody else has to do something before. */
export function isPossible(plan: bringup.BringUp, step: Step): boolean {
  const open = new Set(plan.steps.map(({ key }) => key));
  return step.after.every((key) => !open.has(key));
}

/** What somebody does next: the first step that is possible and that nobody else is on. */
export function nextFor(show: Show, plan: bringup.BringUp, name: string): Step | undefined {
  const free = plan.steps.filter((step) => {
    const by = takenBy(show, step);
    return by === undefined || by === name;
  });
  // somebody else may be on the way to where the computer goes: what needs it there waits
  const station = plan.steps.find((step) => step.kind === 'computer')?.station ?? Infinity;
  const here = free.filter((step) => step.station < station || step.kind === 'computer');
  return here.find((step) => takenBy(show, step) === name) ?? here.find((step) => isPossible(plan, step)) ?? here[0];
}
