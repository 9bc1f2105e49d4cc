import type { AddressingFacts, Planned } from '../../addressing/index.ts';
import { fixWith, groups } from '../../findings/index.ts';
import {
  changeOf,
  groupBy,
  socketOf,
  typeOf,
  updateRow,
  type Cable,
  type Change,
  type Device,
  type Interface,
  type Show,
} from '../../show/index.ts';
import { cablingRule } from '../cabling-rule.ts';
import { takesCable } from '../plan-cables.ts';
import type { SegmentMembers } from '../segment-members.ts';
import type { CablingFacts } from '../segments.ts';

type Foreign = { name: string; on: string; among: string; hub: string };

/** A cabled adapter whose network none of its neighbours is on, and the network that most of those are on. */
interface Stray {
  readonly row: Interface;
  readonly device: Device;
  readonly cable: Cable;
  readonly hub: Device;
  readonly own: ReadonlySet<string>;
  readonly among: string;
}

/**
 * Units plugged into the switch of another network (C42, C49): alone of their network among those of another one, where
 * no managed switch tells the two apart. Two adapters of one unit that stand in each other's place are one mistake.
 */
export const wrongSegment = cablingRule<{
  wrong_network: Foreign;
  cables_interchanged: { name: string; one: string; other: string };
}>(
  {
    wrong_network: (f, fixable) => [
      `${f.name} is planned on ${f.on} and plugged into ${f.hub}, where most are on ${f.among}.`,
      'Nobody of its own network is there.',
      fixable ? 'Plug it into the switch shown.' : `Plug it into a switch of ${f.on}, or plan it on ${f.among}.`,
    ],
    cables_interchanged: (f) => [
      `The cables of ${f.name} for ${f.one} and ${f.other} are interchanged.`,
      'Each adapter is among units of the other network.',
      'Swap the two plugs at the unit.',
    ],
  },
  groups(
    (_show, _cabling, { byDevice }, _members) => byDevice,
    (found, planned, show, cabling, addressing, members) => {
      const own = straysOf(show, cabling, members, planned);
      const [one, other] = own;
      const nameOf = (id: string) => show.networks[id]?.name ?? '';
      const subjects = (stray: Stray) => [
        { table: 'cables' as const, id: stray.cable.id },
        { table: 'devices' as const, id: stray.device.id },
      ];
      if (one && other && one.own.has(other.among) && other.own.has(one.among)) {
        const details = { name: one.device.name, one: nameOf(one.among), other: nameOf(other.among) };
        const swap = fixWith('Swap the two plugs', swapped(one, other));
        return [found('cables_interchanged', 'risky', [...subjects(one), ...subjects(other)], details, [swap])];
      }
      return own.map((stray) => {
        const [on = ''] = stray.own;
        const details = { name: stray.device.name, on: nameOf(on), among: nameOf(stray.among), hub: stray.hub.name };
        const move = intoOwn(show, cabling, addressing, stray);
        return found('wrong_network', 'risky', subjects(stray), details, [fixWith(move?.label ?? '', move)]);
      });
    },
  ),
);

/** The adapters of one unit that are among strangers. */
function straysOf(show: Show, cabling: CablingFacts, members: SegmentMembers, planned: readonly Planned[]): Stray[] {
  const placed = planned.flatMap((item) => {
    const segment = cabling.segmentOf(item.interface.id);
    return segment === undefined || members.isManaged(segment) ? [] : [{ item, segment }];
  });
  return [...groupBy(placed, ({ item }) => item.interface.id).values()].flatMap((mine): Stray[] => {
    const [first] = mine;
    if (!first) return [];
    const unit = placed.filter(({ segment }) => segment === first.segment).map(({ item }) => item);
    const items = mine.map(({ item }) => item);
    return strayOf(show, cabling, first.item, items, others(members.networksIn(first.segment), unit));
  });
}

/** How many addresses of each network a segment has without those of one unit. */
function others(all: ReadonlyMap<string, number>, unit: readonly Planned[]): ReadonlyMap<string, number> {
  const rest = new Map(all);
  for (const { network } of unit) rest.set(network.id, (rest.get(network.id) ?? 0) - 1);
  return new Map([...rest].filter(([, count]) => count > 0));
}

function strayOf(
  show: Show,
  cabling: CablingFacts,
  { interface: row, device, type }: Planned,
  mine: readonly Planned[],
  around: ReadonlyMap<string, number>,
): Stray[] {
  const plug = cabling.plugOf(row.id);
  if (type.forwards || !plug || !typeOf(show, plug.farDevice)?.forwards) return [];
  const own = new Set(mine.map(({ network }) => network.id));
  if ([...own].some((id) => around.has(id))) return [];
  const [most] = [...around].sort(([a, left], [b, right]) => right - left || (a < b ? -1 : 1));
  // one against one: neither is the stranger
  if (!most || most[1] < 2) return [];
  return [{ row, device, cable: plug.cable, hub: plug.farDevice, own, among: most[0] }];
}

/** Each cable keeps its far end and changes the socket at the unit. */
function swapped(one: Stray, other: Stray): Change | undefined {
  const side = ({ cable, device }: Stray): 'fromSocket' | 'toSocket' =>
    cable.fromDevice === device.id ? 'fromSocket' : 'toSocket';
  const [left, right] = [side(one), side(other)];
  return changeOf(`Swap the two plugs of ${one.device.name}`, [
    updateRow('cables', one.cable, { [left]: other.cable[right] }),
    updateRow('cables', other.cable, { [right]: one.cable[left] }),
  ]);
}

/** Into a switch among units of its own network, where one has a socket of the kind left. */
function intoOwn(show: Show, cabling: CablingFacts, { planned }: AddressingFacts, stray: Stray): Change | undefined {
  const { cable, device, own } = stray;
  const segments = planned.flatMap(({ interface: row, network, device: other }) =>
    own.has(network.id) && other.id !== device.id ? (cabling.segmentOf(row.id) ?? []) : [],
  );
  for (const hub of [...new Set(segments)].flatMap((segment) => cabling.hubsIn(segment))) {
    const type = typeOf(show, hub);
    const medium = cable.medium === 'wireless' ? 'wireless' : 'copper';
    const socket = type && cabling.freeSockets(hub.id).find((key) => takesCable(type, key, medium));
    if (!type || !socket) continue;
    const label = socketOf(type, hub.variant, socket)?.label ?? socket;
    const patch =
      cable.fromDevice === device.id
        ? { toDevice: hub.id, toSocket: socket }
        : { fromDevice: hub.id, fromSocket: socket };
    return changeOf(`Plug ${device.name} into ${hub.name} ${label}`, [updateRow('cables', cable, patch)]);
  }
  return undefined;
}
