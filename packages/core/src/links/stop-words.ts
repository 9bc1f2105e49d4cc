import { nameList, type Finding, type Words } from '../findings/index.ts';
import { layers } from './forecast.ts';
import type { LayerResult } from './layer.ts';

/** What stops or endangers a link at one layer, why, and the next step. */
export function stopWords({ layer, code, facts }: Pick<LayerResult, 'layer' | 'code' | 'facts'>): Words {
  const [what, why, fix] = layers[layer].said(code, facts) ?? [`${layer}: ${code}`, '', ''];
  return { what, why, fix };
}

export function linkWords({ facts, code }: Finding): Words {
  if (code === 'slot_shared')
    return {
      what: `Slot ${String(facts['slot'])} of ${String(facts['controller'])} holds ${nameList(facts['names'])}.`,
      why: 'A list has one target a slot: the entry that is made last replaces the other.',
      fix: 'Give each a slot of its own.',
    };
  const layer = String(facts['layer']) as LayerResult['layer'];
  const words = stopWords({ layer, code: code.slice(layer.length + 1), facts });
  return { ...words, what: `${String(facts['controller'])} → ${String(facts['target'])}: ${words.what}` };
}
