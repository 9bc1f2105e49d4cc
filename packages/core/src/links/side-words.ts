import { layers } from './forecast.ts';
import type { LayerResult, SideBySide } from './layer.ts';

/** Both ends of one layer and what lies between them, in a few words each. */
export function layerWords({ layer, code, facts, state }: LayerResult): SideBySide {
  if (state === 'waits') return { left: '—', right: '—', between: 'not reached' };
  return layers[layer].sides(code, facts) ?? { left: '—', right: '—', between: code };
}
