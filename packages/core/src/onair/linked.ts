import { compareVersions } from '../rig/index.ts';
import {
  changeOf,
  rowsOf,
  typeOf,
  updateRow,
  type Change,
  type Device,
  type OutputForm,
  type Show,
  type Socket,
} from '../show/index.ts';

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
  /** Its picture outputs, each with how it shows what is open. */
  readonly outputs: readonly LinkedOutput[];
  /** It may move the others on, and follows them. */
  readonly isLinked: boolean;
  /** It has a version that plays with the others frame for frame; null where nobody knows. */
  readonly isExact: boolean | null;
}

export interface LinkedOutput {
  readonly socket: Socket;
  readonly form: OutputForm;
}

/** Picture outputs of a machine: its own, or those of the computer that it runs on. */
export function outputsOf(show: Show, device: Device): LinkedOutput[] {
  const computer = device.runsOn === null ? undefined : show.devices[device.runsOn];
  const sockets = [device, computer].flatMap((unit) => typeOf(show, unit)?.sockets ?? []);
  return sockets
    .filter(({ role, direction }) => role === 'video' && direction !== 'in')
    .map((socket) => ({ socket, form: device.outputs.find((one) => one.socket === socket.key)?.form ?? 'full' }));
}

/** What an output shows while an item is open; items are counted from 1, and 0 is none. */
export function outputWords(form: OutputForm, item: number): string {
  if (item < 1) return 'dark';
  const words = { full: 'item', band: 'band with item', with_next: 'item', words: 'words of item' }[form];
  return `${words} ${item}${form === 'with_next' ? `, then ${item + 1}` : ''}`;
}

export function planOutput(device: Device, { socket, form }: LinkedOutput): Change | undefined {
  const others = device.outputs.filter((one) => one.socket !== socket.key);
  const outputs = form === 'full' ? others : [...others, { socket: socket.key, form }];
  return changeOf(`${device.name}: how ${socket.label} shows it`, [updateRow('devices', device, { outputs })]);
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
    outputs: outputsOf(show, device),
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
