import { compareVersions } from '../rig/index.ts';
import { rowsOf, typeOf, type Device, type Show } from '../show/index.ts';

/** Machines that move together (needs 9.11 and 9.12), by the name of their group. */
export interface LinkedGroup {
  readonly name: string;
  readonly members: readonly LinkedMember[];
  /** Do several of them play frame for frame together: by the lowest version, and by what each has. */
  readonly together: 'yes' | 'no' | 'unknown';
  readonly togetherFrom: string | null;
}

export interface LinkedMember {
  readonly device: Device;
  readonly usedFor: string;
  readonly feedsOutput: boolean;
  /** It may move the others on, and follows them. */
  readonly isLinked: boolean;
  /** It has a version that plays with the others frame for frame; null where nobody knows. */
  readonly isExact: boolean | null;
}

export function linkedGroups(show: Show): LinkedGroup[] {
  const groups = new Map<string, Device[]>();
  for (const device of rowsOf(show, 'devices')) {
    const isLinked = device.features.includes('linked');
    if (!isLinked && device.usedFor === '') continue;
    const name = device.peers || typeOf(show, device)?.name || '';
    groups.set(name, [...(groups.get(name) ?? []), device]);
  }
  return [...groups].flatMap(([name, devices]) => {
    if (devices.length < 2) return [];
    const members = devices.map((device) => memberOf(show, device));
    const from = devices.map((device) => typeOf(show, device)?.plays?.togetherFrom ?? null);
    const together = members.some(({ isExact }) => isExact === false)
      ? 'no'
      : members.some(({ isExact }) => isExact === null)
        ? 'unknown'
        : 'yes';
    return [{ name, members, together, togetherFrom: from.find((version) => version !== null) ?? null }];
  });
}

function memberOf(show: Show, device: Device): LinkedMember {
  const type = typeOf(show, device);
  const from = type?.plays?.togetherFrom;
  const order = from ? compareVersions(device.firmware ?? '', from) : undefined;
  return {
    device,
    usedFor: device.usedFor,
    feedsOutput: device.features.includes('output'),
    isLinked: device.features.includes('linked'),
    isExact: !type?.plays
      ? null
      : from === null || from === undefined
        ? false
        : device.firmware === null
          ? null
          : order !== undefined && order >= 0,
  };
}

/** Do peers have the same item open (C71)? `open` is what each shows, by its id; those that show nothing known are left out. */
export function openItems(
  members: readonly Pick<LinkedMember, 'device'>[],
  open: ReadonlyMap<string, string>,
): { readonly state: 'same' | 'different' | 'unknown'; readonly items: readonly (readonly [Device, string])[] } {
  const items = members.flatMap(({ device }): [Device, string][] => {
    const item = open.get(device.id);
    return item === undefined ? [] : [[device, item]];
  });
  const different = new Set(items.map(([, item]) => item)).size > 1;
  return { state: items.length < 2 ? 'unknown' : different ? 'different' : 'same', items };
}
