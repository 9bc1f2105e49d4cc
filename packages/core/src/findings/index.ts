export { concernedDevices, isAboutDevice } from './concerned-devices.ts';
export { counted, oneOr } from './counted.ts';
export { fold } from './fold.ts';
export { nameList } from './name-list.ts';
export { SortedFindings } from './sorted-findings.ts';
export { countGrades, finding, fixWith, keyed, sortFindings } from './finding.ts';
export { differing, each, groups, ruleOf, wordsOfRules } from './rule.ts';
export type { Facts, Finding, Fix, Grade, Room, Subject, Words } from './finding.ts';
export type { Codes, Found, Looks, Rule, RuleParts, Said, Says } from './rule.ts';
