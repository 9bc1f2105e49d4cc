import { wordsOfRules, type Finding } from '../findings/index.ts';
import type { Show } from '../show/index.ts';
import { hops, inputs, sources, stations } from './rules/chains.ts';

/** In the order in which they are asked. */
export const timeRules = [sources, hops, inputs, stations] as const;

/** What, why and what to do for each finding about time code. */
export const timecodeWords = wordsOfRules(timeRules);

export const findTimecode = (show: Show): Finding[] => timeRules.flatMap((rule): readonly Finding[] => rule.find(show));
