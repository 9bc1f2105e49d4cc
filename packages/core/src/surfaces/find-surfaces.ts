import { wordsOfRules, type Finding } from '../findings/index.ts';
import type { Show } from '../show/index.ts';
import { bankCrowding, bankNoWay, oddFader } from './rules/banks.ts';
import { destinationDoubled } from './rules/destinations.ts';
import { withoutCounterpart } from './rules/completeness.ts';
import {
  clientScope,
  controlGone,
  lampTooPlain,
  lampWithoutName,
  movesLittle,
  notUnderstood,
  noWay,
  twoMeanings,
  unfitControl,
} from './rules/meanings.ts';

/** In the order in which they are asked. */
export const surfaceRules = [
  controlGone,
  twoMeanings,
  noWay,
  notUnderstood,
  unfitControl,
  movesLittle,
  clientScope,
  withoutCounterpart,
  bankNoWay,
  bankCrowding,
  oddFader,
  destinationDoubled,
  lampTooPlain,
  lampWithoutName,
] as const;

/** What, why and what to do for each finding of the surfaces. */
export const surfaceWords = wordsOfRules(surfaceRules);

export const findSurfaces = (show: Show): Finding[] =>
  surfaceRules.flatMap((rule): readonly Finding[] => rule.find(show));
