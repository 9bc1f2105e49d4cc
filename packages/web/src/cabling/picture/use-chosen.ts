import type { cabling } from '@deep-patch/core';
import { useMemo } from 'react';
import { hasWords } from '../../parts/has-words.ts';
import type { Question } from './picture-tools.tsx';

interface Asked {
  readonly picture: cabling.Picture;
  readonly filter: string;
  readonly question: Question;
  readonly way: readonly cabling.PictureRun[] | undefined;
}

/** Is a run part of one network, or of one layer? */
function isIn({ networks, layer }: cabling.PictureRun, asked: string): boolean {
  // sound goes over networks of its own, and over what carries them beside others
  if (asked === 'layer sound') return networks.some(({ carries }) => carries === 'audio');
  return asked.startsWith('layer ') ? asked === `layer ${layer}` : networks.some(({ id }) => id === asked);
}

/** Which runs and units are meant by what was typed and asked; the others step back. */
export function useChosen({ picture, filter, question, way }: Asked) {
  return useMemo(() => {
    const hasName = hasWords(filter);
    const named = new Set(picture.units.filter(({ name, place }) => hasName(`${name} ${place}`)).map(({ id }) => id));
    const onWay = new Set(way?.flatMap(({ upper, lower }) => [upper.unitId, lower.unitId]));
    const isOn = (run: cabling.PictureRun): boolean => {
      if (way) return way.includes(run);
      if (question.networkId !== '' && !isIn(run, question.networkId)) return false;
      return named.has(run.upper.unitId) || named.has(run.lower.unitId);
    };
    const reached = new Set(picture.runs.filter(isOn).flatMap(({ upper, lower }) => [upper.unitId, lower.unitId]));
    const isMeant = ({ id }: cabling.PictureUnit): boolean => {
      if (way) return onWay.has(id);
      return named.has(id) && (question.networkId === '' || reached.has(id));
    };
    return { isOn, isMeant };
  }, [picture, filter, question, way]);
}
