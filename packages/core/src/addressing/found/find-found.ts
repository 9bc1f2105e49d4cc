import {
  fixWith,
  nameList,
  oneOr,
  ruleOf,
  type Codes,
  type Finding,
  type Found,
  type Says,
} from '../../findings/index.ts';
import { changeOf, updateRow, type Show } from '../../show/index.ts';
import { mustIp } from '../ipv4.ts';
import { planMove } from '../plan-address.ts';
import type { AsFound, FoundItem } from './match.ts';

type About = { name: string; planned: string; ip: string };
type Several = { names: string[]; count: number };

const foundRule = <Finds extends Codes>(
  says: Says<Finds>,
  find: (found: Found<Finds>, show: Show, seen: AsFound) => readonly Finding[],
) => ruleOf<Finds, [Show, AsFound]>('addressing', says, find);

const subject = ({ planned }: FoundItem) => [{ table: 'addresses' as const, id: planned.address.id }];
const about = ({ planned, ip }: FoundItem): About => ({
  name: planned.device.name,
  planned: planned.address.ip ?? '',
  ip: ip ?? '',
});

/** A unit that does not have its planned address (C19). */
const elsewhere = foundRule<{
  found_elsewhere: About;
  found_two_owners: About & { rivals: string[] };
  found_as_delivered: About;
  found_self_assigned: About;
  found_no_address: About;
}>(
  {
    found_elsewhere: (f) => [
      `${f.name} is planned at ${f.planned || 'no address'} and was found at ${f.ip}.`,
      'Whoever sends to the planned address reaches nobody, or somebody else.',
      'Set the unit to its planned address, or plan it where it is.',
    ],
    found_two_owners: (f) => [
      `${f.planned} of ${f.name} is also used by ${nameList(f.rivals)}.`,
      'Whichever answers first takes the controls.',
      'Switch one off: its address must go silent. Then give it another.',
    ],
    found_as_delivered: (f) => [
      `${f.name} still has its factory address ${f.ip}.`,
      'It clashes with the next one straight from its box, and nobody finds it where the plan says.',
      `Set it to ${f.planned || 'its planned address'}.`,
    ],
    found_self_assigned: (f) => [
      `${f.name} gave itself ${f.ip}.`,
      'It asked for an address and no server answered.',
      `Set it to ${f.planned || 'a fixed address'}, or look for the server.`,
    ],
    found_no_address: (f) => [
      `${f.name} was seen, but without an address.`,
      'Its cable works; its address may not be set.',
      `Set it to ${f.planned || 'its planned address'}.`,
    ],
  },
  (found, show, { items }) =>
    [...items.values()].flatMap((item): Finding[] => {
      const { state, planned, ip, rivals } = item;
      const facts = about(item);
      if (state === 'wrong_address') {
        const change = ip ? planMove(show, planned.address, mustIp(ip)) : undefined;
        return [found('found_elsewhere', 'stops', subject(item), facts, [fixWith(`Plan it at ${ip}`, change)])];
      }
      if (state === 'two_owners') {
        const names = rivals.map(({ host, device }) => device?.name ?? host.names[0] ?? host.mac ?? host.id);
        return [found('found_two_owners', 'stops', subject(item), { ...facts, rivals: names })];
      }
      return state === 'as_delivered' || state === 'self_assigned' || state === 'no_address'
        ? [found(`found_${state}`, 'risky', subject(item), facts)]
        : [];
    }),
);

/** A mask other than that of its network. */
const otherMask = foundRule<{ found_mask: { name: string; mask: number; wanted: number } }>(
  {
    found_mask: (f) => [
      `${f.name} was found with the mask /${f.mask} instead of /${f.wanted}.`,
      'The two sides draw the border of the network in different places.',
      `Set its mask to /${f.wanted}.`,
    ],
  },
  (found, _show, { items }) =>
    [...items.values()].flatMap((item) => {
      const { planned, wrongMask: mask } = item;
      const { name } = planned.device;
      return mask === null ? [] : [found('found_mask', 'risky', subject(item), { name, mask, wanted: planned.prefix })];
    }),
);

/** A version other than the list says. */
const otherVersion = foundRule<{ found_version: { name: string; version: string; written: string } }>(
  {
    found_version: (f) => [
      `${f.name} runs ${f.version}; the list says ${f.written || 'nothing'}.`,
      'What was found counts, the list is only paper.',
      'Write the found version down.',
    ],
  },
  (found, _show, { items }) =>
    [...items.values()].flatMap(({ planned: { device }, wrongVersion: version }) => {
      if (version === null) return [];
      const change = changeOf(`Version of ${device.name}`, [updateRow('devices', device, { firmware: version })]);
      const details = { name: device.name, version, written: device.firmware ?? '' };
      return [
        found('found_version', 'note', [{ table: 'devices', id: device.id }], details, [
          fixWith(`Write ${version} down`, change),
        ]),
      ];
    }),
);

/** A unit that was recognised without its MAC address: written down, it is recognised everywhere. */
const newMac = foundRule<{ found_mac: { name: string; mac: string; by: string } }>(
  {
    found_mac: (f) => [
      `${f.name} was recognised by its ${f.by} and has the MAC address ${f.mac}.`,
      'Written down, it is recognised wherever it turns up.',
      'Write it down.',
    ],
  },
  (found, _show, { items }) =>
    [...items.values()].flatMap((item) => {
      const { planned, newMac: mac, by } = item;
      if (mac === null) return [];
      const { name } = planned.device;
      const change = changeOf(`MAC address of ${name}`, [updateRow('interfaces', planned.interface, { mac })]);
      const details = { name, mac, by: by ?? '' };
      return [found('found_mac', 'note', subject(item), details, [fixWith(`Write ${mac} down`, change)])];
    }),
);

/** All that did not answer, in one finding. */
const missing = foundRule<{ found_missing: Several }>(
  {
    found_missing: (f) => [
      `${f.count} ${f.count === 1 ? 'unit was' : 'units were'} not found: ${nameList(f.names)}.`,
      'Off, unplugged, in another network, or silent.',
      'Check power and cable, then look again.',
    ],
  },
  (found, _show, { items }) => {
    const lost = [...items.values()].filter(({ state }) => state === 'missing');
    const names = lost.map(({ planned }) => planned.device.name);
    const subjects = lost.slice(0, 50).flatMap(subject);
    return lost.length === 0 ? [] : [found('found_missing', 'note', subjects, { names, count: lost.length })];
  },
);

/** All that nobody planned, in one finding. */
const strangers = foundRule<{ found_strangers: Several }>(
  {
    found_strangers: (f) => [
      `${f.count} ${f.count === 1 ? 'host is' : 'hosts are'} on the network and not in the plan: ${nameList(f.names)}.`,
      `${oneOr(f.count, 'It may take an address', 'They may take addresses')} that the plan counts as free.`,
      `Add ${oneOr(f.count, 'it', 'them')} to the rig, or ask whose ${oneOr(f.count, 'it is', 'they are')}.`,
    ],
  },
  (found, _show, { unexpected }) => {
    const names = unexpected.map(({ host }) => host.names[0] ?? host.ips[0]?.ip ?? host.mac ?? host.id);
    return names.length === 0 ? [] : [found('found_strangers', 'note', [], { names, count: names.length })];
  },
);

export const foundRules = [elsewhere, otherMask, otherVersion, newMac, missing, strangers] as const;

/** What does not stand as planned (C19): one finding a unit that is elsewhere, one for all that are missing or unknown. */
export const findFound = (show: Show, seen: AsFound): Finding[] =>
  foundRules.flatMap((rule): readonly Finding[] => rule.find(show, seen));
