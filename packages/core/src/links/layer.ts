import type { Facts, Fix } from '../findings/index.ts';
import type { LayerName, LayerState } from '../show/index.ts';
import type { Ends } from './ends.ts';

/** What one layer says of a link: a code with facts, made into words for both ends by `side-words.ts`. */
export interface LayerResult {
  readonly layer: LayerName;
  readonly state: LayerState;
  readonly code: string;
  readonly facts: Facts;
  readonly fixes: readonly Fix[];
}

export type Layer = (ends: Ends) => Omit<LayerResult, 'layer'>;
type Verdict = Omit<LayerResult, 'layer'>;

export const pass = (code: string, facts: Facts = {}): Verdict => ({ state: 'pass', code, facts, fixes: [] });
export const risky = (code: string, facts: Facts = {}, fixes: readonly (Fix | undefined)[] = []): Verdict => ({
  state: 'risky',
  code,
  facts,
  fixes: fixes.filter((fix) => fix !== undefined),
});
export const fail = (code: string, facts: Facts = {}, fixes: readonly (Fix | undefined)[] = []): Verdict => ({
  ...risky(code, facts, fixes),
  state: 'fail',
});
