import { indexBy, type Cable, type Show } from '../show/index.ts';

/** One end of a run, as it is seen from there. */
export interface RunEnd {
  readonly deviceId: string;
  readonly socket: string;
  readonly far: { readonly deviceId: string; readonly socket: string };
  readonly cable: Cable;
}

/** Both ends of a run. */
export function runEnds(cable: Cable): readonly [RunEnd, RunEnd] {
  const from = { deviceId: cable.fromDevice, socket: cable.fromSocket };
  const to = { deviceId: cable.toDevice, socket: cable.toSocket };
  return [
    { ...from, far: to, cable },
    { ...to, far: from, cable },
  ];
}

const endsBySocket = indexBy('cables', (cable): [string, RunEnd][] =>
  runEnds(cable).map((end) => [`${end.deviceId} ${end.socket}`, end]),
);

/** What is in a socket of a show; the later one where two say that they are. */
export const runAt = (show: Show, deviceId: string, socket: string): RunEnd | undefined =>
  endsBySocket(show).get(`${deviceId} ${socket}`)?.at(-1);
