import type { Finding } from '../findings/index.ts';
import type { Show } from '../show/index.ts';
import { rigFacts, type RigFacts } from './facts.ts';
import { alikeDiffer } from './rules/alike.ts';
import { newerHidden, partsMoved } from './rules/definitions.ts';
import { doubledMac, doubledName, doubledUnit } from './rules/doubled.ts';
import { featureVersions } from './rules/feature-versions.ts';
import { firmwareBelow } from './rules/firmware-below.ts';
import { accessoriesMissing, convertersNeeded, copiesMissing, knownLogins } from './rules/missing-things.ts';
import { namesBetween } from './rules/names-between.ts';
import { tooManyControllers, tooManySources } from './rules/over-capacity.ts';
import { partnerVersions } from './rules/partner-versions.ts';
import { platforms } from './rules/platforms.ts';
import { powerFeeds } from './rules/power-feeds.ts';
import { seatsShort } from './rules/seats-short.ts';

const rules: readonly ((show: Show, facts: RigFacts) => Finding[])[] = [
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
  namesBetween,
];

export function findRig(show: Show): Finding[] {
  const facts = rigFacts(show);
  return rules.flatMap((rule) => rule(show, facts));
}
