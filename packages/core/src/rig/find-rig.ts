import { wordsOfRules, type Finding } from '../findings/index.ts';
import type { Show } from '../show/index.ts';
import { rigFacts } from './facts.ts';
import { alikeDiffer } from './rules/alike.ts';
import { newerHidden, partsMoved } from './rules/definitions.ts';
import { doubledMac, doubledName, doubledSerial, doubledUnit } from './rules/doubled.ts';
import { featureVersions } from './rules/feature-versions.ts';
import { firmwareBelow } from './rules/firmware-below.ts';
import { accessoriesMissing, convertersNeeded, copiesMissing, knownLogins } from './rules/missing-things.ts';
import { nameShared, namesDiffer } from './rules/names-between.ts';
import { severalWriters } from './rules/several-writers.ts';
import { tooManyControllers, tooManySources } from './rules/over-capacity.ts';
import { gatewaysShort, stationsShare } from './rules/older-and-stations.ts';
import { partnerVersions } from './rules/partner-versions.ts';
import { peersApart } from './rules/peers-apart.ts';
import { platforms } from './rules/platforms.ts';
import { powerFeeds } from './rules/power-feeds.ts';
import { seatsIdle, seatsShort } from './rules/seats-short.ts';

/** In the order in which they are asked. */
export const rigRules = [
  doubledName,
  doubledUnit,
  doubledMac,
  doubledSerial,
  firmwareBelow,
  featureVersions,
  partnerVersions,
  seatsShort,
  seatsIdle,
  gatewaysShort,
  stationsShare,
  tooManySources,
  tooManyControllers,
  severalWriters,
  peersApart,
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

/** `now` in milliseconds since 1970 tells how old copies are; without it no copy is too old. */
export function findRig(show: Show, now = 0): Finding[] {
  const facts = rigFacts(show, now);
  return rigRules.flatMap((rule): readonly Finding[] => rule.find(show, facts));
}
