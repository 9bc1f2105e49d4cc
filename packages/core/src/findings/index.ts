export { concernedDevices } from './concerned-devices.ts';
export { nameList } from './name-list.ts';
export { countGrades, finding, fixWith, sortFindings } from './finding.ts';
export type { Facts, Finding, Fix, Grade, Room, Subject, Words } from './finding.ts';
