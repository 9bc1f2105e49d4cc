export { cablingFacts } from './segments.ts';
export { fittingSockets } from './fitting-sockets.ts';
export type { SocketEnd } from './fitting-sockets.ts';
export { planCable, planMoveCable, planPlugTogether } from './plan-cables.ts';
export { loopKey } from './domains/circles.ts';
export type { BroadcastDomains } from './domains/broadcast-domains.ts';
export type { Loop } from './domains/circles.ts';
export type { CablingFacts, Plug, Route } from './segments.ts';
export { longestRun, runAdvice } from './run-length.ts';
export type { CableGrade } from './run-length.ts';
export { cablingWords, findCabling } from './find-cabling.ts';

export { vlanTable } from './vlan-table.ts';
export type { VlanLine } from './vlan-table.ts';

export { joinRuns } from './plan-join.ts';
export type { Joining } from './plan-join.ts';
export { planRuns } from './plan-runs.ts';
export type { PlannedRun, RunFault, RunPlan, WrittenRun } from './plan-runs.ts';
export { readRuns, runFields } from './read-runs.ts';
export type { RunField, RunText } from './read-runs.ts';
export { endWords, gradeWords, kindWords, mediumWords, rateWords, runWords, stageWords } from './run-words.ts';
export { chainsOf } from './chains.ts';
export type { Chain } from './chains.ts';
export { carriedBy } from './carried-by.ts';

export { heldLoops } from './held-loops.ts';
export type { HeldLoop } from './held-loops.ts';
export { carryingGraph } from './carrying-graph.ts';
export type { CarryingGraph } from './carrying-graph.ts';
export { DisjointSets } from './domains/disjoint-sets.ts';
export { pictureOf, wayBetween, wayWords } from './picture.ts';
export type { Picture, PictureEnd, PictureRun, PictureSocket, PictureUnit } from './picture.ts';
export { runGraph } from './run-graph.ts';
export type { RunGraph, RunPath } from './run-graph.ts';

export { socketTable } from './socket-table.ts';
export type { HubSockets, PlaceSockets } from './socket-table.ts';
export { betweenNetworks } from './interface-roles.ts';
export type { BetweenNetworks, InterfaceRole } from './interface-roles.ts';
export { changeover, usbWays } from './changeover.ts';
export type { ChangeoverStep, Stage, UsbWay } from './changeover.ts';
export { planSocketAsPlanned, planSocketVlan, vlanGrid } from './vlan-grid.ts';
export type { GridSocket, Membership, VlanGrid } from './vlan-grid.ts';
export { inputsOf, inputTable, layerOf, picturePaths, switchersById } from './picture-inputs.ts';
export type { InputKind, InputLine, Layer, PathLine } from './picture-inputs.ts';
