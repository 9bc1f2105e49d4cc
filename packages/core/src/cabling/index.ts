export { cablingFacts } from './segments.ts';
export { planCable, planPlugTogether } from './plan-cables.ts';
export type { BroadcastDomains, Loop } from './domains/broadcast-domains.ts';
export type { CablingFacts, Plug, Route } from './segments.ts';
export { longestRun } from './run-length.ts';
export { findCabling } from './find-cabling.ts';
export { cablingWords } from './words.ts';
export { vlanTable } from './vlan-table.ts';
export type { VlanLine } from './vlan-table.ts';
