export { basisOf } from './basis.ts';
export { answersSender } from './replies.ts';
export { depthOf } from './depth.ts';
export {
  drivable,
  notDrivable,
  nextSlot,
  planAddLink,
  planAddLinks,
  planBareLink,
  slotsOf,
  planEditLink,
  planEditService,
  planMustHold,
  planRemoveLink,
} from './plan-links.ts';
export { endsOf, remembering } from './ends.ts';
export { entryOf } from './entry.ts';
export type { Entry } from './entry.ts';
export type { LinkFacts } from './ends.ts';
export { argumentsFrom, commandFrom, doesTrigger, oscParts, valueOf, writtenValues } from './typed-message.ts';
export { exampleArgs, writtenCommand } from './layers/message.ts';
export { findLinks, findingsOf, linkName, withFixesOf } from './find-links.ts';
export { lossesOf, lostWith, stopsWithAll, stopsWithout } from './losses.ts';
export { firstUnproven, hopChains, hopStates } from './hop-chains.ts';
export type { HopChain, HopState } from './hop-chains.ts';
export { reachedAt, registerSheets } from './register-sheet.ts';
export type { RegisterLine, RegisterSheet } from './register-sheet.ts';
export { routedWay } from './routed.ts';
export type { Routed } from './routed.ts';
export { linkWays, standstill } from './standstill.ts';
export type { LinkWay } from './standstill.ts';
export { planFewestRuns } from './fewest/plan-fewest-runs.ts';
export type { Against, FewestRuns, NewRun, NotPrevented } from './fewest/plan-fewest-runs.ts';
export type { Loss, Lost } from './losses.ts';
export { forecast, forecastAll, linkFacts, outcomeOf } from './forecast.ts';
export { reroutes } from './quiet-fields.ts';
export { layerWords } from './side-words.ts';
export { linkWords, stopWords } from './stop-words.ts';
export { measuredWords, milliseconds } from './measured-words.ts';
export type { Depth } from './depth.ts';
export type { LayerResult } from './layer.ts';
export type { LinkIntent, SeveralLinks } from './plan-links.ts';
export type { Sounding } from './forecast.ts';
export { planMoveEverywhere, whoStores } from './who-stores.ts';
export type { StoredPlace } from './who-stores.ts';
export { firewallRules, portTable } from './port-table.ts';
export type { FirewallRule, PortLine } from './port-table.ts';
export { framesFor, overTheAir } from './over-the-air.ts';
export type { AirLine } from './over-the-air.ts';
export { endpointDifference } from './endpoints.ts';
export type { EndpointDifference } from './endpoints.ts';
export { firstNameBreak, namesOf } from './name-chain.ts';
export type { NameBreak } from './name-chain.ts';
export { lampShows, lampWords, statusAgainstEffect } from './status-against-effect.ts';
export type { LampReading } from './status-against-effect.ts';
export { processesOf } from './processes.ts';
export { lookingWords } from './looking-words.ts';
export { causesFor, symptoms, symptomWords } from './symptoms.ts';
export type { CauseKey, NextCheck } from './causes.ts';
export type { ListedCause, Symptom } from './symptoms.ts';
export { messageFault } from './message-faults.ts';
export type { MessageFault } from './message-faults.ts';
