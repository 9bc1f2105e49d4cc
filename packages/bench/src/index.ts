export { Bench } from './bench.ts';
export { hexHash } from './standins/digest-gate.ts';
export type { BenchPlan } from './plan.ts';
export type { BenchRequest } from './bench.ts';
