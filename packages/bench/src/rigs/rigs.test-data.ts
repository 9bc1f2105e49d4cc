export { agrees, compare } from './agreement.test-data.ts';
export type { Comparison } from './agreement.test-data.ts';
export { shrink } from './shrink.test-data.ts';
