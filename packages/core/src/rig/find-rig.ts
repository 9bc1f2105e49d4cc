import { wordsOfRules, type Finding } from '../findings/index.ts';
import type { Show } from '../show/index.ts';
import { rigFacts } from './facts.ts';
import { alikeDiffer } from './rules/alike.ts';
import { newerHidden, partsMoved } from './rules/definitions.ts';
import { doubledMac, doubledName, doubledUnit } from './rules/doubled.ts';
import { featureVersions } from './rules/feature-versions.ts';
import { firmwareBelow } from './rules/firmware-below.ts';
import { accessoriesMissing, convertersNeeded, copiesMissing, knownLogins } from './rules/missing-things.ts';
import { nameShared, namesDiffer } from './rules/names-between.ts';
import { tooManyControllers, tooManySources } from './rules/over-capacity.ts';
import { partnerVersions } from './rules/partner-versions.ts';
import { platforms } from './rules/platforms.ts';
import { powerFeeds } from './rules/power-feeds.ts';
import { seatsShort } from './rules/seats-short.ts';

/** In the order in which they are asked. */
export const rigRules = [
  doubledName,
  doubledUnit,
  doubledMac,
  firmwareBelow,
  featureVersions,
  partnerVersions,
  seatsShort,
  tooManySources,
  tooManyControllers,
  platforms,
  accessoriesMissing,
  convertersNeeded,
  copiesMissing,
  knownLogins,
  powerFeeds,
  newerHidden,
  partsMoved,
  alikeDiffer,
  namesDiffer,
  nameShared,
] as const;

/** What, why and what to do for each finding of the rig. */
export const rigWords = wordsOfRules(rigRules);

export function findRig(show: Show): Finding[] {
  const facts = rigFacts(show);
  return rigRules.flatMap((rule): readonly Finding[] => rule.find(show, facts));
}
