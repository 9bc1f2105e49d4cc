import { type Finding, each } from '../../findings/index.ts';
import { socketOf, typeOf, type Cable, type Device, type Show, rowsBy } from '../../show/index.ts';
import { cablingRule } from '../cabling-rule.ts';

type Ends = { name: string; socket: string; other: string };

/** LED data where computers talk, and a computer where LED data comes out (C42): both look like a network socket. */
export const ledData = cablingRule<{ led_in_switch: Ends; computer_in_led: Ends }>(
  {
    led_in_switch: (f) => [
      `The LED output ${f.socket} of ${f.name} is plugged into ${f.other}, where units have addresses.`,
      'Its data goes to everybody and fills the network.',
      'Plug the output into its tiles or distribution, and the management socket into the switch.',
    ],
    computer_in_led: (f) => [
      `${f.other} is plugged into ${f.socket} of ${f.name}, which gives out LED data.`,
      'No network comes out of it: the processor is not found there.',
      'Plug it into the management socket, or into a switch that leads there.',
    ],
  },
  each(
    (show, _cabling, _addressing, _members) => rowsBy(show, 'cables', 'id'),
    (found, cable, show, cabling, _addressing, members) =>
      outputsOf(show, cable).flatMap(({ device, socket, far, farSocket }): Finding[] => {
        const type = typeOf(show, far);
        if (!type) return [];
        const details = { name: device.name, socket, other: far.name };
        const subjects = [
          { table: 'cables' as const, id: cable.id },
          { table: 'devices' as const, id: device.id },
        ];
        if (type.forwards)
          return members.isTalking(cabling.segmentOfHub(far.id) ?? '')
            ? [found('led_in_switch', 'risky', subjects, details)]
            : [];
        const adapter = socketOf(type, far.variant, farSocket)?.adapter ?? null;
        return adapter === null ? [] : [found('computer_in_led', 'risky', subjects, details)];
      }),
  ),
);

interface Output {
  readonly device: Device;
  readonly socket: string;
  readonly far: Device;
  readonly farSocket: string;
}

/** The ends of a cable that give out LED data. */
function outputsOf(show: Show, { fromDevice, fromSocket, toDevice, toSocket }: Cable): Output[] {
  const ends = [
    [fromDevice, fromSocket, toDevice, toSocket],
    [toDevice, toSocket, fromDevice, fromSocket],
  ] as const;
  return ends.flatMap(([own, key, farId, farSocket]) => {
    const [device, far] = [show.devices[own], show.devices[farId]];
    const type = typeOf(show, device);
    const socket = type && socketOf(type, device?.variant ?? null, key);
    const gives = socket?.role === 'led' && socket.adapter === null && !type?.forwards;
    return device && far && gives ? [{ device, socket: socket.label, far, farSocket }] : [];
  });
}
