import type { AddressingFacts } from '../addressing/index.ts';
import { finding, fixWith, keyed, nameList, type Finding } from '../findings/index.ts';
import {
  changeOf,
  groupBy,
  planRemove,
  rowsOf,
  socketsOf,
  typeOf,
  updateRow,
  type Cable,
  type Device,
  type DeviceType,
  type Network,
  type Show,
} from '../show/index.ts';
import { loopKey, type Loop } from './domains/broadcast-domains.ts';
import { isTooLong, longestRun, mediumFor } from './run-length.ts';
import type { CablingFacts } from './segments.ts';

type Socket = DeviceType['sockets'][number];

/** Networks that a socket of each role may lead to; the others serve no network at all. */
const fits: Readonly<Record<Socket['role'], readonly Network['carries'][]>> = {
  any: ['control', 'audio', 'led', 'video', 'management', 'guest', 'mixed'],
  control: ['control', 'management', 'mixed'],
  management: ['management', 'control', 'mixed'],
  audio_primary: ['audio', 'mixed'],
  audio_secondary: ['audio', 'mixed'],
  led: ['led', 'mixed'],
  video: [],
  setup: [],
};

interface End {
  readonly cable: Cable;
  readonly side: 'from' | 'to';
  readonly device: Device;
  readonly type: DeviceType;
  readonly socket: Socket;
  readonly far: Device | undefined;
}

/** Cables in sockets that serve something else (C42), and more plugs than switches have sockets (C41). */
export function findCabling(show: Show, cabling: CablingFacts, addressing: AddressingFacts): Finding[] {
  const ends = rowsOf(show, 'cables').flatMap((cable) => endsOf(show, cable));
  const used = groupBy(ends, ({ device }) => device.id);
  return [
    ...ends.flatMap((end) => wrongSocket(show, addressing, end, used.get(end.device.id) ?? [])),
    ...socketsShort(show, cabling, addressing),
    ...cabling.domains().loops.map((loop) => circle(show, loop)),
    ...rowsOf(show, 'cables')
      .filter(isTooLong)
      .map((cable) => tooLong(show, cable)),
  ];
}

function endsOf(show: Show, cable: Cable): End[] {
  const both = [
    { side: 'from', own: cable.fromDevice, key: cable.fromSocket, far: cable.toDevice },
    { side: 'to', own: cable.toDevice, key: cable.toSocket, far: cable.fromDevice },
  ] as const;
  return both.flatMap(({ side, own, key, far }) => {
    const device = show.devices[own];
    const type = typeOf(show, device);
    // what a switch does with its sockets is the plan of its networks
    if (!type || type.forwards) return [];
    const socket = socketsOf(type, device?.variant ?? null).find((candidate) => candidate.key === key);
    return device && socket ? [{ cable, side, device, type, socket, far: show.devices[far] }] : [];
  });
}

function wrongSocket(show: Show, addressing: AddressingFacts, end: End, own: readonly End[]): Finding[] {
  const { device, type, socket, far, cable } = end;
  if (!typeOf(show, far)?.forwards) return [];
  const planned = addressing.byDevice.get(device.id) ?? [];
  const here = planned.filter((item) => item.interface.adapter === socket.adapter);
  const isWrong =
    socket.adapter === null
      ? planned.length > 0 && fits[socket.role].length > 0 && !own.some((other) => other.socket.adapter !== null)
      : here.length > 0 && !here.some(({ network }) => fits[socket.role].includes(network.carries));
  if (!isWrong) return [];
  const taken = new Set(own.map((other) => other.socket.key));
  const better = socketsOf(type, device.variant).find(
    (candidate) =>
      !taken.has(candidate.key) &&
      planned.some(
        ({ interface: row, network }) =>
          row.adapter === candidate.adapter && fits[candidate.role].includes(network.carries),
      ),
  );
  const move =
    better &&
    changeOf(`Plug ${device.name} into ${better.label}`, [
      updateRow('cables', cable, end.side === 'from' ? { fromSocket: better.key } : { toSocket: better.key }),
    ]);
  const details = {
    name: device.name,
    socket: socket.label,
    role: socket.role,
    variant: type.variants.find(({ key }) => key === device.variant)?.label ?? '',
    on: planned[0]?.network.name ?? '',
    carries: planned[0]?.network.carries ?? '',
    far: far?.name ?? '',
  };
  const subjects = [
    { table: 'cables' as const, id: cable.id },
    { table: 'devices' as const, id: device.id },
  ];
  return [finding('cabling', 'wrong_socket', 'risky', subjects, details, [fixWith(move?.label ?? '', move)])];
}

/** Cables in a circle that nothing cuts (C44): one of them has to go, and any of them will do. */
function circle(show: Show, loop: Loop): Finding {
  const names = loop.devices.map((id) => show.devices[id]?.name ?? id);
  const spare = loop.spare.flatMap((id) => show.cables[id] ?? []);
  const label = `Take out ${nameList(spare.map((cable) => cableName(show, cable)))}`;
  const subjects = loop.devices.map((id) => ({ table: 'devices' as const, id }));
  const fix = fixWith(label, planRemove(show, 'cables', loop.spare, label));
  return keyed(
    finding('cabling', 'loop', 'stops', subjects, { names, count: loop.cables.length }, [fix]),
    loopKey(loop),
  );
}

function cableName(show: Show, { fromDevice, toDevice }: Cable): string {
  const [from, to] = [fromDevice, toDevice].map((id) => show.devices[id]?.name ?? id);
  return from === to ? `the cable at ${from}` : `the cable from ${from} to ${to}`;
}

/** A run that its medium does not carry (C46): with the medium that would. */
function tooLong(show: Show, cable: Cable): Finding {
  const [from, to] = [show.devices[cable.fromDevice], show.devices[cable.toDevice]];
  const better = mediumFor(cable.lengthM ?? 0);
  const change =
    better && better !== cable.medium
      ? changeOf(`Lay ${better} from ${from?.name} to ${to?.name}`, [updateRow('cables', cable, { medium: better })])
      : undefined;
  const details = {
    from: from?.name ?? '',
    to: to?.name ?? '',
    medium: cable.medium,
    lengthM: cable.lengthM ?? '',
    mostM: longestRun(cable.medium) ?? '',
  };
  const subjects = [{ table: 'cables' as const, id: cable.id }];
  return finding('cabling', 'too_long', 'stops', subjects, details, [fixWith(change?.label ?? '', change)]);
}

/** Units with an address and no cable, against the free sockets of all switches. */
function socketsShort(show: Show, cabling: CablingFacts, { planned }: AddressingFacts): Finding[] {
  const loose = planned.filter(
    ({ interface: row, type }) => !type.forwards && cabling.plugOf(row.id) === undefined && isWired(type, row.adapter),
  );
  const hubs = rowsOf(show, 'devices').filter((device) => typeOf(show, device)?.forwards);
  const free = hubs.reduce((sum, { id }) => sum + cabling.freeSockets(id).length, 0);
  const names = [...new Set(loose.map(({ device }) => device.name))];
  if (hubs.length === 0 || names.length <= free) return [];
  const subjects = loose.slice(0, 20).map(({ device }) => ({ table: 'devices' as const, id: device.id }));
  return [
    finding('cabling', 'sockets_short', 'risky', subjects, {
      names,
      needed: names.length,
      free,
      short: names.length - free,
    }),
  ];
}

const isWired = (type: DeviceType, adapter: string): boolean =>
  type.sockets.some((socket) => socket.adapter === adapter && socket.connector !== 'radio');
