import { wordsOfRules, type Finding } from '../findings/index.ts';
import type { Show } from '../show/index.ts';
import { playing, sending } from './rules/feeding.ts';
import { panels, parts, strings } from './rules/parts.ts';
import { kept, settings } from './rules/settings.ts';

/** In the order in which they are asked. */
export const wallRules = [panels, parts, sending, strings, settings, kept, playing] as const;

/** What, why and what to do for each finding about a wall. */
export const wallWords = wordsOfRules(wallRules);

export const findWalls = (show: Show): Finding[] => wallRules.flatMap((rule): readonly Finding[] => rule.find(show));
