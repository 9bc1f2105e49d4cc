export { addressingFacts } from './facts.ts';
export { deliveredWords, entryWords } from './words.ts';
export { blockFor, obstacleAt } from './free-hosts.ts';
export { addressingWords, findAddressing } from './find-addressing.ts';
export {
  broadcastOf,
  contains,
  formatIp,
  hostCount,
  hostRange,
  maskOf,
  mustIp,
  overlaps,
  parseIp,
  prefixOf,
  sizeOf,
  subnetOf,
} from './ipv4.ts';
export { formatIpv6, isLinkLocal6, linkLocalOf, macOfLinkLocal, parseIpv6, sameIpv6 } from './ipv6.ts';
export { ipKind, unusableKinds } from './ip-kind.ts';
export { likelySlip } from './likely-slip.ts';
export { planChangeNetwork, planRenumber } from './plan-renumber.ts';
export type { Renumbering } from './plan-renumber.ts';
export { readGearAddress } from './gear-address.ts';
export { networksFor, planTakeIn } from './plan-take-in.ts';
export { looseInterfaces, planNetwork, planNetworkEdit } from './plan-network.ts';
export { apartFix, fixAddresses, moveFix } from './move-fix.ts';
export {
  planHold,
  planJoin,
  planLeave,
  planMethod,
  planMethods,
  planShown,
  planMove,
  planOwnEntries,
  planRelease,
} from './plan-address.ts';
export { mendable, planPlacement, suggestHost } from './plan-placement.ts';
export { proposeBlocks } from './propose-blocks.ts';
export { readIpEntry, readMask } from './read-ip-entry.ts';
export { edgeRange, rulerOf, spotAt } from './ruler.ts';
export { findFound } from './found/find-found.ts';
export { Gatherer, gatherHosts } from './found/gather.ts';
export { matchFound } from './found/match.ts';
export type { Clue } from './found/gather.ts';
export type { AsFound, FoundItem, FoundState } from './found/match.ts';
export { wakePlan } from './wake.ts';
export { suggestRange } from './suggest-range.ts';
export { areAllIn } from './found/swept.ts';
export { recoverSteps } from './recover.ts';
export type { RecoverStep } from './recover.ts';
export { adapterBeside, harmlessGateway, reachWays } from './reach.ts';
export { causesOf, waysOut } from './ways-out.ts';
export type { AdapterSetting, ReachWay } from './reach.ts';
export type { Cause } from './ways-out.ts';
export type { AddressingFacts, NetworkFacts, Planned } from './facts.ts';
export type { IpEntry } from './read-ip-entry.ts';
export type { NetworkIntent } from './plan-network.ts';
export type { Crowd, Placed, Placement, PlacementOptions } from './plan-placement.ts';
export type { Ipv6 } from './ipv6.ts';
export type { Ruler, Spot } from './ruler.ts';
export type { Subnet } from './ipv4.ts';
