import { layerNames, type Link, type Show } from '../show/index.ts';
import { endsOf, type LinkFacts } from './ends.ts';
import { layers } from './forecast.ts';

/** Names may change without anything else changing: they are no part of what a link depends on. */
const names: ReadonlySet<string> = new Set(['controller', 'target', 'machine', 'router']);

/**
 * What the plan forecasts for every layer of a link, whichever stops it, as one short text: as soon as a code or a fact
 * of it differs, a sounding that was measured before says nothing of now.
 */
export function basisOf(show: Show, facts: LinkFacts, link: Link): string {
  const ends = endsOf(show, facts, link);
  const said = layerNames.map((layer) => {
    if (!ends) return [];
    const { state, code, facts: found } = layers[layer].forecast(ends);
    return [
      state,
      code,
      ...Object.entries(found)
        .filter(([name]) => !names.has(name))
        .flat(),
    ];
  });
  // a spare in the place of either end was never heard
  const swaps = [link.controllerId, link.targetId].map((id) => show.devices[id]?.swaps ?? 0);
  return hashed(
    JSON.stringify([
      link.slot,
      ...(link.slotGroup === null ? [] : [link.slotGroup]),
      link.secretId !== null,
      swaps,
      said,
    ]),
  );
}

/** FNV-1a twice from two starts: texts of a show differ in it for all practical purposes. */
function hashed(text: string): string {
  let [one, two] = [2_166_136_261, 40_389];
  for (let at = 0; at < text.length; at += 1) {
    const unit = text.charCodeAt(at);
    one = Math.imul(one ^ unit, 16_777_619) >>> 0;
    two = Math.imul(two ^ unit, 2_246_822_519) >>> 0;
  }
  return one.toString(36) + two.toString(36);
}
