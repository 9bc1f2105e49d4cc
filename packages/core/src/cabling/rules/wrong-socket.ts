import type { AddressingFacts } from '../../addressing/index.ts';
import { fixWith, type Finding, type Found, groups } from '../../findings/index.ts';
import { roleTexts } from '../../rig/index.ts';
import {
  changeOf,
  socketOf,
  socketsOf,
  typeOf,
  updateRow,
  type Cable,
  type Device,
  type DeviceType,
  type Network,
  type Show,
  indexBy,
} from '../../show/index.ts';
import { cablingRule } from '../cabling-rule.ts';

type Socket = DeviceType['sockets'][number];
type Finds = {
  wrong_socket: { name: string; socket: string; role: Socket['role']; variant: string; on: string };
};

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

/** Cables in sockets that serve something else (C42). */
export const wrongSocket = cablingRule<Finds>(
  {
    wrong_socket: (f, fixable) => [
      `${f.name} is plugged into ${f.socket}, which is for ${roleTexts[f.role]}${f.variant ? ` in the variant “${f.variant}”` : ''}.`,
      `It is planned on ${f.on}, and nothing of that network comes out of this socket.`,
      fixable ? 'Plug it into the socket shown.' : 'Use another socket, or another network.',
    ],
  },
  groups(
    (show, _cabling, _addressing) => endsByDevice(show),
    (found, own, show, _cabling, addressing) => own.flatMap((end) => wrongEnd(found, show, addressing, end, own)),
  ),
);

const endsByDevice = indexBy('cables', (cable, show): [string, End][] =>
  endsOf(show, cable).map((end) => [end.device.id, end]),
);

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
    const socket = socketOf(type, device?.variant ?? null, key);
    return device && socket ? [{ cable, side, device, type, socket, far: show.devices[far] }] : [];
  });
}

function wrongEnd(
  found: Found<Finds>,
  show: Show,
  addressing: AddressingFacts,
  end: End,
  own: readonly End[],
): Finding[] {
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
  };
  const subjects = [
    { table: 'cables' as const, id: cable.id },
    { table: 'devices' as const, id: device.id },
  ];
  return [found('wrong_socket', 'risky', subjects, details, [fixWith(move?.label ?? '', move)])];
}
