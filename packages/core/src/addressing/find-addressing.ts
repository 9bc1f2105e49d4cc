import type { Finding } from '../findings/index.ts';
import type { Show } from '../show/index.ts';
import type { AddressingFacts } from './facts.ts';
import { planPlacement, type Placement } from './plan-placement.ts';
import { duplicateIp } from './rules/duplicate-ip.ts';
import { ipv6On } from './rules/ipv6-on.ts';
import { maskDiffers } from './rules/mask-differs.ts';
import { blockOutside, gatewayOutside, linkLocalMask, networksOverlap, publicRange } from './rules/network-shape.ts';
import { noServer, poolTooSmall, poolUnserved, secondNeedsFixed } from './rules/methods.ts';
import { factoryInside, gatewayNeed, grantMissing, poolShape, tightRoom } from './rules/network-needs.ts';
import { reservedSpot } from './rules/reserved-spot.ts';
import { twoAdapters } from './rules/two-adapters.ts';
import { unusableHost } from './rules/unusable-host.ts';
import { onNoNetwork, waiting } from './rules/waiting.ts';

const rules = [
  duplicateIp,
  unusableHost,
  maskDiffers,
  twoAdapters,
  reservedSpot,
  gatewayOutside,
  networksOverlap,
  publicRange,
  linkLocalMask,
  blockOutside,
  gatewayNeed,
  grantMissing,
  poolShape,
  poolTooSmall,
  tightRoom,
  factoryInside,
  secondNeedsFixed,
  noServer,
  poolUnserved,
  waiting,
  onNoNetwork,
  ipv6On,
] as const;

/** `placement` tells what placing a network would do; links ask for the same. */
export const findAddressing = (
  show: Show,
  facts: AddressingFacts,
  placement = (networkId: string): Placement => planPlacement(show, { networkId, facts }),
): Finding[] => rules.flatMap((rule): Finding[] => rule(show, facts, placement));
