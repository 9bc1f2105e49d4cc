import { memoFor, type Cable, type Show } from '../show/index.ts';

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

/** What is in each socket of a show, by `device socket`. */
export const runsBySocket = memoFor(
  (cables: Show['cables']): ReadonlyMap<string, RunEnd> =>
    new Map(
      Object.values(cables).flatMap((cable) =>
        runEnds(cable).map((end) => [`${end.deviceId} ${end.socket}`, end] as const),
      ),
    ),
);
