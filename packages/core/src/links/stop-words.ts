import type { Finding, Words } from '../findings/index.ts';
import { layers } from './forecast.ts';
import type { LayerResult } from './layer.ts';
import { slotShared } from './slot-shared.ts';

/** What stops or endangers a link at one layer, why, and the next step. */
export function stopWords({ layer, code, facts }: Pick<LayerResult, 'layer' | 'code' | 'facts'>): Words {
  const [what, why, fix] = layers[layer].said(code, facts) ?? [`${layer}: ${code}`, '', ''];
  return { what, why, fix };
}

export function linkWords(found: Finding): Words {
  const { facts, code } = found;
  if (slotShared.codes.includes(code)) return slotShared.said(found);
  const layer = String(facts['layer']) as LayerResult['layer'];
  const words = stopWords({ layer, code: code.slice(layer.length + 1), facts });
  return { ...words, what: `${String(facts['controller'])} → ${String(facts['target'])}: ${words.what}` };
}
