import { mustIp, type AddressingFacts, type Planned } from '../addressing/index.ts';
import { byAdapter, hostOf, rowsBy, socketOf, type Device, type DeviceType, type Show } from '../show/index.ts';
import type { CablingFacts } from '../cabling/index.ts';
import { askedVersion, type AskedVersion } from './asked-version.ts';
import { aloneWith, segmentOf, tagOf } from './access.ts';
import { deliveredSettings } from './delivered-settings.ts';
import { actsFor, differences, type CommitStep, type PendingLine } from './pending.ts';
import { plannedSettings } from './planned-settings.ts';
import type { Spot } from './tasks.ts';
import { isPlace, type Place, type Standing, type UnitNow } from './unit-now.ts';

/** One unit: what is true of it, what it is to become, and what lies between. */
export interface UnitPlan {
  readonly now: UnitNow;
  readonly device: Device;
  readonly type: DeviceType;
  readonly isProgram: boolean;
  /** Where it is reached once it is set, and where it is as long as it is as delivered: at its first adapter. */
  readonly segment: string;
  readonly segmentNow: string;
  readonly planned: readonly Planned[];
  readonly target: Standing;
  /** Everywhere it will be, with what a server keeps for it. */
  readonly takes: readonly Spot[];
  /** What is keyed into it, but for its list of targets. */
  readonly lines: readonly PendingLine[];
  readonly entries: readonly PendingLine[];
  /** The version that is asked of it, where it has an older one. */
  readonly update: AskedVersion | undefined;
}

export function unitPlan(show: Show, addressing: AddressingFacts, cabling: CablingFacts, now: UnitNow): UnitPlan {
  const { device, type } = now;
  const inOrder = byAdapter(show);
  const planned = [...(addressing.byDevice.get(device.id) ?? [])].sort((a, b) => inOrder(a.interface, b.interface));
  const before = show.keyedIn[device.id]?.values ?? deliveredSettings(show, addressing, device);
  const lines = differences(before, plannedSettings(show, addressing, device));
  const [first] = planned;
  const adapter = first?.interface.adapter ?? type.adapters[0]?.key;
  const tag = first ? tagOf(cabling, first) : null;
  const segment = segmentOf(cabling, device.id, adapter, tag);
  const isSet = now.from === 'keyed_in';
  // as long as nobody keyed a VLAN in, it hears what comes without a tag
  const isAtFirst = first !== undefined && !isSet && (adapter !== type.adapters[0]?.key || tag !== null);
  // out of its case it is in its usual mode, in which its cables may lead elsewhere
  const isInMode = !isSet && leadsElsewhere(show, device, type);
  return {
    now,
    device,
    type,
    isProgram: type.form === 'program',
    segment,
    segmentNow: isInMode
      ? aloneWith(device.id, type.adapters[0]?.key)
      : isAtFirst
        ? segmentOf(cabling, device.id, type.adapters[0]?.key, null)
        : segment,
    planned,
    target: first ? standingOf(first) : now.at,
    takes: [...planned.flatMap((item) => spotOf(cabling, item)), ...keptSpot(cabling, device, type, planned)],
    // what an address for the meantime stands for is still to be keyed in
    lines: lines.filter(({ of }) => of !== 'entry'),
    entries: lines.filter(({ of }) => of === 'entry'),
    update: askedVersion(show, device),
  };
}

/** The factory address of an adapter that nothing is planned for: nobody takes it away, and it stays there. */
function keptSpot(cabling: CablingFacts, device: Device, type: DeviceType, planned: readonly Planned[]): Spot[] {
  const [first] = type.adapters;
  const { mode, ip } = type.factory;
  const isPlanned = planned.length === 0 || planned.some(({ interface: its }) => its.adapter === first?.key);
  if (!first || isPlanned || mode !== 'static' || ip === null) return [];
  return [{ segment: segmentOf(cabling, device.id, first.key, null), ip: mustIp(ip) }];
}

/** Does a cable go into a socket of it that serves something else in the planned mode than in the usual one? */
function leadsElsewhere(show: Show, { id, variant }: Device, type: DeviceType): boolean {
  const adapterIn = (mode: string | null, key: string) => socketOf(type, mode, key)?.adapter;
  const plugged = [
    ...(rowsBy(show, 'cables', 'fromDevice').get(id) ?? []).map(({ fromSocket }) => fromSocket),
    ...(rowsBy(show, 'cables', 'toDevice').get(id) ?? []).map(({ toSocket }) => toSocket),
  ];
  return plugged.some((key) => adapterIn(variant, key) !== adapterIn(null, key));
}

function standingOf({ address, ip, prefix }: Planned): Standing {
  if (address.method !== 'static') return address.method === 'dhcp' ? 'asks' : 'self';
  return ip === null ? 'none' : { ip, prefix };
}

export function spotOf(cabling: CablingFacts, item: Planned): Spot[] {
  const { interface: its, ip } = item;
  if (ip === null) return [];
  return [{ segment: segmentOf(cabling, its.deviceId, its.adapter, tagOf(cabling, item)), ip }];
}

const restartActs: ReadonlySet<CommitStep['act']> = new Set([
  'restart_program',
  'restart_service',
  'restart_device',
  'restart_computer',
]);
export const isRestart = ({ act }: Pick<CommitStep, 'act'>): boolean => restartActs.has(act);

/** The acts of lines: those that somebody does at once, and the restarts behind them. */
export function actsOf(type: DeviceType, lines: readonly Pick<PendingLine, 'of'>[]) {
  const acts = actsFor(type, lines);
  return { atOnce: acts.filter((act) => !isRestart(act)), restarts: acts.filter(isRestart) };
}

export const secondsOf = (type: DeviceType, restarts: readonly CommitStep[]): number =>
  restarts.reduce((sum, { seconds }) => sum + (seconds ?? type.startsInSeconds ?? 20), 0);

/** Where a unit stands, as a spot of its segment; nowhere while it has no address of its own. */
export const spotNow = ({ now, segmentNow: segment, isProgram }: UnitPlan): Spot[] =>
  !isProgram && isPlace(now.at) ? [{ segment, ip: now.at.ip }] : [];

/** Does keying in what is planned move it away from where it is? */
export const leavesSpot = ({ now, takes, lines, isProgram }: UnitPlan): boolean =>
  !isProgram &&
  isPlace(now.at) &&
  lines.some(({ of }) => of === 'address') &&
  !takes.some(({ ip }) => ip === (now.at as Place).ip);

export const hostIdOf = (show: Show, device: Device): string => hostOf(show, device).id;
