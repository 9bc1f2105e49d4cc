import { wordsOfRules, type Finding } from '../findings/index.ts';
import type { Show } from '../show/index.ts';
import { noTarget, notDone } from './rules/messages.ts';
import { circle, firesTwice, sameNumber, tooFast } from './rules/order.ts';

/** In the order in which they are asked. */
export const cueRules = [noTarget, notDone, circle, sameNumber, firesTwice, tooFast] as const;

/** What, why and what to do for each finding of the running order. */
export const cueWords = wordsOfRules(cueRules);

export const findCues = (show: Show): Finding[] => cueRules.flatMap((rule): readonly Finding[] => rule.find(show));
