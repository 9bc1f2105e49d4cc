import type { AddressingFacts } from '../addressing/index.ts';
import { wordsOfRules, type Finding } from '../findings/index.ts';
import type { Show } from '../show/index.ts';
import { inputs } from './rules/inputs.ts';
import { chainDepth } from './rules/chain-depth.ts';
import { loopHeld } from './rules/loop-held.ts';
import { circle } from './rules/loop.ts';
import { socketVlans } from './rules/socket-vlans.ts';
import { socketsShort } from './rules/sockets-short.ts';
import { ledData } from './rules/led-data.ts';
import { lengthsUnknown, tooLong } from './rules/too-long.ts';
import { wrongSegment } from './rules/wrong-segment.ts';
import { wrongSocket } from './rules/wrong-socket.ts';
import { segmentMembers } from './segment-members.ts';
import type { CablingFacts } from './segments.ts';

/** In the order in which they are asked. */
export const cablingRules = [
  wrongSocket,
  wrongSegment,
  ledData,
  socketsShort,
  circle,
  loopHeld,
  socketVlans,
  inputs,
  tooLong,
  lengthsUnknown,
  chainDepth,
] as const;

/** What, why and what to do for each finding of the cables. */
export const cablingWords = wordsOfRules(cablingRules);

export function findCabling(show: Show, cabling: CablingFacts, addressing: AddressingFacts): Finding[] {
  const members = segmentMembers(show, cabling, addressing);
  return cablingRules.flatMap((rule): readonly Finding[] => rule.find(show, cabling, addressing, members));
}
