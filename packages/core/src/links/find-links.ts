import { finding, keyed, type Finding } from '../findings/index.ts';
import type { Show } from '../show/index.ts';
import { outcomeOf, type Sounding } from './forecast.ts';
import type { LayerResult } from './layer.ts';
import { slotShared } from './slot-shared.ts';

/** A link that stops short stops the show; a layer that passes with a warning is risky. */
export const findLinks = (show: Show, soundings: readonly Sounding[]): Finding[] => [
  ...slotShared.find(show),
  ...soundings.flatMap((sounding) => findingsOf(show, sounding)),
];

/** The same of one link. */
export const findingsOf = (show: Show, sounding: Sounding): Finding[] => [
  ...(sounding.stopsAt ? [layerFinding(show, sounding, sounding.stopsAt, 'stops')] : []),
  ...sounding.risks.map((risk) => layerFinding(show, sounding, risk, 'risky')),
];

function layerFinding(show: Show, { link }: Sounding, result: LayerResult, grade: 'stops' | 'risky'): Finding {
  const names = {
    controller: show.devices[link.controllerId]?.name ?? '',
    target: show.devices[link.targetId]?.name ?? '',
    layer: result.layer,
  };
  const subjects = [{ table: 'links' as const, id: link.id }];
  const found = finding(
    'links',
    `${result.layer}_${result.code}`,
    grade,
    subjects,
    { ...result.facts, ...names, result: result.code },
    result.fixes,
  );
  const { ip } = result.facts;
  // an address may have a second thing wrong once the first is mended
  const own = typeof ip === 'string' && ip !== '' ? keyed(found, `links/${link.id}`, ip) : found;
  const cause = causeOf(result);
  return cause === undefined ? own : { ...own, cause };
}

/** Soundings that offer the same fixes as their findings, by the key of those: what was tried there holds here. */
export function withFixesOf(show: Show, soundings: readonly Sounding[], findings: readonly Finding[]): Sounding[] {
  const byKey = new Map(findings.map(({ key, fixes }) => [key, fixes]));
  return soundings.map((sounding) => {
    const offered = (result: LayerResult): LayerResult => {
      if (result.fixes.length === 0) return result;
      const { key } = layerFinding(show, sounding, result, 'risky');
      return { ...result, fixes: byKey.get(key) ?? [] };
    };
    const layers = sounding.layers.map(offered);
    return { ...sounding, layers, ...outcomeOf(layers) };
  });
}

/** What a room above already says of the same thing. */
function causeOf({ layer, code, facts }: LayerResult): string | undefined {
  if (layer === 'address' && code === 'two_owners') return `duplicate_ip ${String(facts['ip'])}`;
  if (layer === 'segment' && code === 'flooded') return String(facts['loop']);
  return undefined;
}

/** Both ends of a link, as other findings name it. */
export const linkName = ({ facts }: Finding): string => `${String(facts['controller'])} → ${String(facts['target'])}`;
