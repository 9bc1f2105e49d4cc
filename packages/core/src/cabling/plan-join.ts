import { socketsOf, typeOf, type Show } from '../show/index.ts';
import type { WrittenRun } from './plan-runs.ts';

/** Several units into one switch from a socket on, or one after the other, with a last run back where it closes. */
export type Joining =
  | { readonly how: 'star'; readonly hubId: string; readonly firstSocket: string }
  | { readonly how: 'chain'; readonly closes: boolean };

/** The runs that join units in the order in which they are given; what is wrong with them `planRuns` says. */
export function joinRuns(show: Show, deviceIds: readonly string[], joining: Joining): WrittenRun[] {
  const nameOf = (id: string) => show.devices[id]?.name ?? '';
  const run = (at: number, fromId: string, toId: string, toSocket = ''): WrittenRun => ({
    line: at + 1,
    from: nameOf(fromId),
    fromId,
    fromSocket: '',
    to: nameOf(toId),
    toId,
    toSocket,
    medium: '',
    length: '',
    stage: '',
  });
  if (joining.how === 'chain') {
    const pairs = deviceIds.slice(1).map((id, at) => run(at, deviceIds[at] ?? '', id));
    const [first, last] = [deviceIds[0], deviceIds.at(-1)];
    const isRing = joining.closes && deviceIds.length > 2 && first !== undefined && last !== undefined;
    return isRing ? [...pairs, run(pairs.length, last, first)] : pairs;
  }
  const hub = show.devices[joining.hubId];
  const type = typeOf(show, hub);
  const sockets = type ? socketsOf(type, hub?.variant ?? null).map(({ key }) => key) : [];
  const first = Math.max(0, sockets.indexOf(joining.firstSocket));
  const used = new Set(
    Object.values(show.cables).flatMap((cable) => [
      `${cable.fromDevice} ${cable.fromSocket}`,
      `${cable.toDevice} ${cable.toSocket}`,
    ]),
  );
  const free = sockets.slice(first).filter((key) => !used.has(`${joining.hubId} ${key}`));
  return deviceIds.map((id, at) => run(at, id, joining.hubId, free[at] ?? ''));
}
