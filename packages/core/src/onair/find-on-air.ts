import { wordsOfRules, type Finding } from '../findings/index.ts';
import type { Show } from '../show/index.ts';
import { clips } from './rules/clips.ts';
import { channels, declaredWrong, labelDoubled } from './rules/inputs.ts';
import { together } from './rules/linked.ts';
import { delayShort, offers } from './rules/takes.ts';

/** In the order in which they are asked. */
export const airRules = [declaredWrong, labelDoubled, channels, offers, delayShort, clips, together] as const;

/** What, why and what to do for each finding about what goes on air. */
export const airWords = wordsOfRules(airRules);

export const findOnAir = (show: Show): Finding[] => airRules.flatMap((rule): readonly Finding[] => rule.find(show));
