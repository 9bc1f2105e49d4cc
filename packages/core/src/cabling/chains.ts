import { groupBy, socketAt, typeOf, type Device, type DeviceType, type Show, indexBy } from '../show/index.ts';
import { linkingCables } from './run-length.ts';

/** Units that pass frames on to the next one, behind the switch or computer that begins them. */
export interface Chain {
  readonly type: DeviceType;
  /** The last one of the longest way, and its place in it from 1. */
  readonly worst: Device;
  readonly depth: number;
  /** One way to it, of all units before it. */
  readonly delayMs: number;
}

const chained = indexBy('devices', ({ id }, show) => (typeOf(show, show.devices[id])?.chain ? [[id, true]] : []));

/**
 * How deep each chain is and how much delay it adds (C43): frames for a unit pass every unit of the chain between it
 * and the nearest thing that is none, and each that passes them on adds its delay. A chain that nothing begins counts
 * from its own ends.
 */
export function chainsOf(show: Show): Chain[] {
  const worst = new Map<string, Chain>();
  for (const [node, depth] of depthsOf(show)) {
    const [deviceId = ''] = node.split('/');
    const [device, type] = [show.devices[deviceId], chainTypeOf(show, node)];
    if (!device || !type?.chain) continue;
    const key = type.id;
    if ((worst.get(key)?.depth ?? 0) < depth)
      worst.set(key, {
        type,
        worst: device,
        depth,
        delayMs: Math.round((depth - 1) * type.chain.delayMs * 1000) / 1000,
      });
  }
  return [...worst.values()];
}

/**
 * The place of each unit in its chain, from 1; of one with several adapters the furthest. A unit that hangs at a switch
 * by itself is in none.
 */
export function chainPlaces(show: Show): ReadonlyMap<string, number> {
  const near = stepsOf(show);
  const places = new Map<string, number>();
  for (const [node, depth] of depthsOf(show)) {
    if (!near.get(node)?.some(({ to }) => chainTypeOf(show, to))) continue;
    const [deviceId = ''] = node.split('/');
    places.set(deviceId, Math.max(depth, places.get(deviceId) ?? 0));
  }
  return places;
}

const stepsOf = (show: Show) =>
  groupBy(
    linkingCables(show).flatMap((cable) => {
      const [a, b] = [nodeAt(show, cable.fromDevice, cable.fromSocket), nodeAt(show, cable.toDevice, cable.toSocket)];
      return a && b
        ? [
            { at: a, to: b },
            { at: b, to: a },
          ]
        : [];
    }),
    ({ at }) => at,
  );

/** How deep each adapter that is part of a chain stands in it. */
function depthsOf(show: Show): ReadonlyMap<string, number> {
  const depths = new Map<string, number>();
  if (chained(show).size === 0) return depths;
  const near = stepsOf(show);
  const isLink = (node: string) => chainTypeOf(show, node) !== undefined;
  const members = [...near.keys()].filter(isLink);
  const firsts = members.filter((node) => near.get(node)?.some(({ to }) => !isLink(to)));
  const ends = members.filter((node) => new Set(near.get(node)?.map(({ to }) => to)).size === 1);
  // what nothing begins counts from its ends, and a ring of nothing else from any
  for (const starts of [firsts, ends, members]) reach(near, isLink, depths, starts);
  return depths;
}

type Near = ReadonlyMap<string, readonly { readonly to: string }[]>;

function reach(
  near: Near,
  isLink: (node: string) => boolean,
  depths: Map<string, number>,
  starts: readonly string[],
): void {
  const queue = starts.filter((node) => !depths.has(node));
  for (const node of queue) depths.set(node, 1);
  for (let at = 0; at < queue.length; at += 1) {
    const node = queue[at] ?? '';
    for (const { to } of near.get(node) ?? [])
      if (isLink(to) && !depths.has(to)) {
        depths.set(to, (depths.get(node) ?? 0) + 1);
        queue.push(to);
      }
  }
}

function nodeAt(show: Show, deviceId: string, key: string): string | undefined {
  const adapter = socketAt(show, deviceId, key)?.adapter;
  return typeOf(show, show.devices[deviceId])?.forwards ? deviceId : adapter ? `${deviceId}/${adapter}` : undefined;
}

function chainTypeOf(show: Show, node: string): DeviceType | undefined {
  const [deviceId = ''] = node.split('/');
  const type = typeOf(show, show.devices[deviceId]);
  return type && !type.forwards && type.chain ? type : undefined;
}
