import { finding, fixWith, type Finding } from '../../findings/index.ts';
import { changeOf, updateRow, type Show } from '../../show/index.ts';
import { mustIp } from '../ipv4.ts';
import { planMove } from '../plan-address.ts';
import type { AsFound, FoundItem } from './match.ts';

const subject = ({ planned }: FoundItem) => [{ table: 'addresses' as const, id: planned.address.id }];
const about = ({ planned, ip, host }: FoundItem) => ({
  name: planned.device.name,
  on: planned.network.name,
  planned: planned.address.ip ?? '',
  ip: ip ?? '',
  mac: host?.mac ?? '',
});

/** What does not stand as planned (C19): one finding a unit that is elsewhere, one for all that are missing or unknown. */
export function findFound(show: Show, { items, unexpected }: AsFound): Finding[] {
  const all = [...items.values()];
  return [...all.flatMap((item) => ofItem(show, item)), ...missing(all), ...strangers(unexpected)];
}

function ofItem(show: Show, item: FoundItem): Finding[] {
  const { state, planned, ip, rivals, wrongMask, wrongVersion, newMac } = item;
  const facts = about(item);
  const moveHere = ip && state === 'wrong_address' ? planMove(show, planned.address, mustIp(ip)) : undefined;
  return [
    ...(state === 'wrong_address'
      ? [
          finding('addressing', 'found_elsewhere', 'stops', subject(item), facts, [
            fixWith(`Plan it at ${ip}`, moveHere),
          ]),
        ]
      : []),
    ...(state === 'two_owners'
      ? [
          finding('addressing', 'found_two_owners', 'stops', subject(item), {
            ...facts,
            rivals: rivals.map(({ mac, names, id }) => names[0] ?? mac ?? id),
          }),
        ]
      : []),
    ...(state === 'as_delivered' || state === 'self_assigned' || state === 'no_address'
      ? [finding('addressing', `found_${state}`, 'risky', subject(item), facts)]
      : []),
    ...(wrongMask === null
      ? []
      : [
          finding('addressing', 'found_mask', 'risky', subject(item), {
            ...facts,
            mask: wrongMask,
            wanted: planned.prefix,
          }),
        ]),
    ...(wrongVersion === null ? [] : [versionFinding(item, facts, wrongVersion)]),
    ...(newMac === null
      ? []
      : [
          finding('addressing', 'found_mac', 'note', subject(item), { ...facts, by: item.by ?? '' }, [
            fixWith(
              `Write ${newMac} down`,
              changeOf(`MAC address of ${planned.device.name}`, [
                updateRow('interfaces', planned.interface, { mac: newMac }),
              ]),
            ),
          ]),
        ]),
  ];
}

function versionFinding(item: FoundItem, facts: ReturnType<typeof about>, version: string): Finding {
  const { device } = item.planned;
  const change = changeOf(`Version of ${device.name}`, [updateRow('devices', device, { firmware: version })]);
  const subjects = [{ table: 'devices' as const, id: device.id }];
  const details = { ...facts, version, written: device.firmware ?? '' };
  return finding('addressing', 'found_version', 'note', subjects, details, [fixWith(`Write ${version} down`, change)]);
}

function missing(all: readonly FoundItem[]): Finding[] {
  const lost = all.filter(({ state }) => state === 'missing');
  if (lost.length === 0) return [];
  const names = lost.map(({ planned }) => planned.device.name);
  return [
    finding('addressing', 'found_missing', 'note', lost.slice(0, 50).flatMap(subject), { names, count: lost.length }),
  ];
}

function strangers(unexpected: AsFound['unexpected']): Finding[] {
  if (unexpected.length === 0) return [];
  const names = unexpected.map(({ host }) => host.names[0] ?? host.ips[0]?.ip ?? host.mac ?? host.id);
  return [finding('addressing', 'found_strangers', 'note', [], { names, count: unexpected.length })];
}
