export { Bench } from './bench.ts';
export { hexHash } from './standins/digest-gate.ts';
export type { BenchPlan } from './plan.ts';
export type { BenchEvent, BenchRequest } from './bench.ts';
export type { BenchAct } from './site-acts.ts';
