import { addressing, show as core } from '@deep-patch/core';
import { readRanges, writeRanges } from './granted-ranges.ts';
import { nameRule, neededWholeRule, textRule, vlanRule } from '../parts/rules.ts';

/** What the form of a network holds: texts as typed. */
export interface NetworkFields {
  name: string;
  purpose: string;
  vlan: string;
  gateway: string;
  poolFrom: string;
  poolTo: string;
  carries: core.Network['carries'];
  owner: core.Network['owner'];
  contact: string;
  rules: string;
  granted: string;
  needsOutside: boolean;
  growth: string;
}

export const fieldsOf = (row: core.Network): NetworkFields => ({
  name: row.name,
  purpose: row.purpose,
  vlan: row.vlan === null ? '' : String(row.vlan),
  gateway: row.gateway ?? '',
  poolFrom: row.poolFrom ?? '',
  poolTo: row.poolTo ?? '',
  carries: row.carries,
  owner: row.owner,
  contact: row.contact,
  rules: row.rules,
  granted: writeRanges(row.granted),
  needsOutside: row.needsOutside,
  growth: String(row.growth),
});

type Subnet = addressing.NetworkFacts['subnet'];

function read(text: string, subnet: Subnet): string | null {
  const entry = addressing.readIpEntry(text, subnet);
  return entry.ok ? addressing.formatIp(entry.ip) : null;
}

export function patchOf(fields: NetworkFields, subnet: Subnet) {
  const granted = readRanges(fields.granted, subnet);
  return {
    name: fields.name.trim(),
    purpose: fields.purpose.trim(),
    vlan: fields.vlan.trim() === '' ? null : Number(fields.vlan),
    gateway: read(fields.gateway, subnet),
    poolFrom: read(fields.poolFrom, subnet),
    poolTo: read(fields.poolTo, subnet),
    carries: fields.carries,
    owner: fields.owner,
    contact: fields.contact.trim(),
    rules: fields.rules.trim(),
    granted: granted.ok ? granted.ranges : [],
    needsOutside: fields.needsOutside,
    growth: Number(fields.growth),
  };
}

/** What each field takes, in a network of this range. */
export function networkRules(subnet: Subnet) {
  const isAddress = (text: string): true | string => {
    const entry = addressing.readIpEntry(text, subnet);
    return text.trim() === '' || entry.ok || addressing.entryWords(entry);
  };
  const isEnd = (text: string, { poolFrom }: NetworkFields): true | string => {
    const [from, to] = [read(poolFrom, subnet), read(text, subnet)];
    if (isAddress(text) !== true) return isAddress(text);
    if ((from === null) !== (to === null)) return 'A pool needs both ends.';
    if (from === null || to === null) return true;
    return addressing.mustIp(from) <= addressing.mustIp(to) || 'The end comes before the start.';
  };
  return {
    name: nameRule,
    vlan: vlanRule,
    purpose: textRule(core.limits.text),
    growth: neededWholeRule(0, core.limits.growth),
    address: { validate: isAddress },
    poolTo: { validate: isEnd },
    contact: textRule(core.limits.text),
    rules: textRule(core.limits.note),
    granted: {
      validate: (text: string): true | string => {
        const ranges = readRanges(text, subnet);
        return ranges.ok || ranges.fault;
      },
    },
  };
}
