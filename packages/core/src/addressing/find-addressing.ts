import { wordsOfRules, type Finding } from '../findings/index.ts';
import type { Show } from '../show/index.ts';
import type { AddressingFacts } from './facts.ts';
import type { Place } from './addressing-rule.ts';
import { foundRules } from './found/find-found.ts';
import { planPlacement } from './plan-placement.ts';
import { gatewayInPool, ownGateway } from './rules/gateway-spot.ts';
import { duplicateIp } from './rules/duplicate-ip.ts';
import { ipv6On } from './rules/ipv6-on.ts';
import { maskDiffers } from './rules/mask-differs.ts';
import { blockOutside, gatewayOutside, linkLocalMask, networksOverlap, publicRange } from './rules/network-shape.ts';
import { noServer, poolTooSmall, poolUnserved, secondNeedsFixed, selfOutside } from './rules/methods.ts';
import { factoryInside, gatewayNeed, grantMissing } from './rules/network-needs.ts';
import { poolShape } from './rules/pool-shape.ts';
import { reservedSpot } from './rules/reserved-spot.ts';
import { blockTight, networkTight } from './rules/tight-room.ts';
import { twoAdapters } from './rules/two-adapters.ts';
import { unusableHost } from './rules/unusable-host.ts';
import { onNoNetwork, waiting } from './rules/waiting.ts';

/** In the order in which they are asked. */
export const addressingRules = [
  duplicateIp,
  unusableHost,
  maskDiffers,
  twoAdapters,
  reservedSpot,
  gatewayOutside,
  gatewayInPool,
  ownGateway,
  networksOverlap,
  publicRange,
  linkLocalMask,
  blockOutside,
  gatewayNeed,
  grantMissing,
  poolShape,
  poolTooSmall,
  networkTight,
  blockTight,
  factoryInside,
  secondNeedsFixed,
  noServer,
  poolUnserved,
  selfOutside,
  waiting,
  onNoNetwork,
  ipv6On,
] as const;

/** What, why and what to do for each finding of this room. */
export const addressingWords = wordsOfRules([...addressingRules, ...foundRules]);

/** `placement` tells what placing a network would do; links ask for the same. */
export const findAddressing = (
  show: Show,
  facts: AddressingFacts,
  placement: Place = (networkIds) => planPlacement(show, { networkIds, facts }),
): Finding[] => addressingRules.flatMap((rule): readonly Finding[] => rule.find(show, facts, placement));
