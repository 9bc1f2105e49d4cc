import { show as core } from '@deep-patch/core';
import type { BenchPlan } from '../units/plan.ts';

/** A plan as it lies there while everything is set up, or in the show: runs of the other time are not plugged in. */
export function laidOut(plan: BenchPlan, stage: 'setup' | 'show'): BenchPlan {
  const other = stage === 'show' ? 'setup' : 'show';
  const rows = core.rowsOf(plan.show, 'cables');
  if (rows.every((row) => row.stage === 'both')) return plan;
  // what is there is there: whoever reads this plan asks no more at which time
  const there = rows.filter((row) => row.stage !== other).map((row) => ({ ...row, stage: 'both' as const }));
  return { ...plan, show: { ...plan.show, cables: Object.fromEntries(there.map((row) => [row.id, row])) } };
}
