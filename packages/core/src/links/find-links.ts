import { finding, type Finding } from '../findings/index.ts';
import type { Show } from '../show/index.ts';
import type { Sounding } from './forecast.ts';
import type { LayerResult } from './layer.ts';

/** A link that stops short stops the show; a layer that passes with a warning is risky. */
export const findLinks = (show: Show, soundings: readonly Sounding[]): Finding[] =>
  soundings.flatMap((sounding) => [
    ...(sounding.stopsAt ? [layerFinding(show, sounding, sounding.stopsAt, 'stops')] : []),
    ...sounding.risks.map((risk) => layerFinding(show, sounding, risk, 'risky')),
  ]);

function layerFinding(show: Show, { link }: Sounding, result: LayerResult, grade: 'stops' | 'risky'): Finding {
  const names = {
    controller: show.devices[link.controllerId]?.name ?? '',
    target: show.devices[link.targetId]?.name ?? '',
    layer: result.layer,
  };
  const subjects = [{ table: 'links' as const, id: link.id }];
  return finding(
    'links',
    `${result.layer}_${result.code}`,
    grade,
    subjects,
    { ...result.facts, ...names, result: result.code },
    result.fixes,
  );
}
