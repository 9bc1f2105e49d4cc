import type { AddressingFacts } from '../addressing/index.ts';
import { byName, groupBy, rowsOf, socketsOf, typeOf, type Cable, type Network, type Show } from '../show/index.ts';
import { carriedBy } from './carried-by.ts';
import { chainPlaces } from './chains.ts';
import { layerOf, type Layer } from './picture-inputs.ts';
import { endWords } from './run-words.ts';
import type { CablingFacts } from './segments.ts';

export interface PictureSocket {
  readonly key: string;
  readonly label: string;
  readonly runId: string | undefined;
  /** Spanning tree keeps it shut. */
  readonly isShut: boolean;
}

export interface PictureUnit {
  readonly id: string;
  readonly name: string;
  readonly place: string;
  readonly forwards: boolean;
  /** In the order of the panel. */
  readonly sockets: readonly PictureSocket[];
  /** Its place in a chain of units that pass on to the next one, from 1; null where it is in none. */
  readonly inChain: number | null;
  /** Runs from the switch that most hangs on; the fewer, the higher it is drawn. */
  readonly depth: number;
}

export interface PictureEnd {
  readonly unitId: string;
  readonly socket: string;
}

export interface PictureRun {
  readonly id: string;
  /** The end nearer to the middle of the network. */
  readonly upper: PictureEnd;
  readonly lower: PictureEnd;
  readonly medium: Cable['medium'];
  readonly lengthM: number | null;
  readonly networks: readonly Network[];
  /** One of its ends is kept shut by spanning tree. */
  readonly isShut: boolean;
  /** What it is for, by its sockets. */
  readonly layer: Layer;
  /** Plugged in for setting up or in the show only. */
  readonly stage: Cable['stage'];
}

/** What a picture of the cabling shows, before anything has a place on it. */
export interface Picture {
  readonly units: readonly PictureUnit[];
  readonly runs: readonly PictureRun[];
  /** Units that have sockets and no run yet, by place. */
  readonly loose: ReadonlyMap<string, number>;
}

export function pictureOf(show: Show, cabling: CablingFacts, addressing: AddressingFacts): Picture {
  const carried = carriedBy(show, cabling, addressing);
  const { isShut } = cabling.domains();
  const cables = rowsOf(show, 'cables').filter(
    ({ fromDevice, toDevice }) => show.devices[fromDevice] && show.devices[toDevice],
  );
  const ends = cables.flatMap((cable) => [
    { unitId: cable.fromDevice, socket: cable.fromSocket, far: cable.toDevice, cable },
    { unitId: cable.toDevice, socket: cable.toSocket, far: cable.fromDevice, cable },
  ]);
  const endsOf = groupBy(ends, ({ unitId }) => unitId);
  const depths = depthsOf(show, endsOf);
  const inChains = chainPlaces(show);
  const depthOf = (id: string) => depths.get(id) ?? 0;
  const all = rowsOf(show, 'devices').sort(byName);
  const units = all.flatMap((device): PictureUnit[] => {
    const own = endsOf.get(device.id);
    const type = typeOf(show, device);
    if (!own || !type) return [];
    const runAt = new Map(own.map(({ socket, cable }) => [socket, cable.id]));
    const sockets = socketsOf(type, device.variant).map(({ key, label }) => ({
      ...{ key, label, runId: runAt.get(key) },
      isShut: isShut(device.id, key),
    }));
    const { id, name, place } = device;
    const inChain = inChains.get(id) ?? null;
    return [{ id, name, place, forwards: type.forwards, sockets, inChain, depth: depthOf(id) }];
  });
  const runs = cables.map((cable): PictureRun => {
    const from = { unitId: cable.fromDevice, socket: cable.fromSocket };
    const to = { unitId: cable.toDevice, socket: cable.toSocket };
    const [upper, lower] = depthOf(from.unitId) <= depthOf(to.unitId) ? [from, to] : [to, from];
    const { id, medium, lengthM } = cable;
    const shut = [from, to].some(({ unitId, socket }) => isShut(unitId, socket));
    return {
      id,
      upper,
      lower,
      medium,
      lengthM,
      networks: carried.get(id) ?? [],
      isShut: shut,
      layer: layerOf(show, cable),
      stage: cable.stage,
    };
  });
  const loose = groupBy(
    all.filter((device) => !endsOf.has(device.id) && (typeOf(show, device)?.sockets.length ?? 0) > 0),
    ({ place }) => place,
  );
  return { units, runs, loose: new Map([...loose].map(([place, list]) => [place, list.length])) };
}

type Ends = ReadonlyMap<string, readonly { readonly far: string }[]>;

/** How many runs each unit is from the busiest switch of its part of the network. */
function depthsOf(show: Show, endsOf: Ends): Map<string, number> {
  const weight = (id: string) =>
    (endsOf.get(id)?.length ?? 0) + (typeOf(show, show.devices[id])?.forwards ? 1_000_000 : 0);
  const order = [...endsOf.keys()].sort((a, b) => weight(b) - weight(a) || (a < b ? -1 : 1));
  const depths = new Map<string, number>();
  for (const root of order) {
    if (depths.has(root)) continue;
    depths.set(root, 0);
    const queue = [root];
    for (let at = 0; at < queue.length; at += 1) {
      const id = queue[at] ?? '';
      for (const { far } of endsOf.get(id) ?? [])
        if (!depths.has(far)) {
          depths.set(far, (depths.get(id) ?? 0) + 1);
          queue.push(far);
        }
    }
  }
  return depths;
}

/** The runs on the shortest way from one unit to another that nothing shuts, in order; undefined where none leads there. */
export function wayBetween({ runs }: Picture, fromId: string, toId: string): readonly PictureRun[] | undefined {
  const near = groupBy(
    runs
      .filter(({ isShut }) => !isShut)
      .flatMap((run) => [
        { at: run.upper.unitId, to: run.lower.unitId, run },
        { at: run.lower.unitId, to: run.upper.unitId, run },
      ]),
    ({ at }) => at,
  );
  const came = new Map<string, { readonly from: string; readonly run: PictureRun }>();
  const queue = [fromId];
  for (let at = 0; at < queue.length && !came.has(toId); at += 1)
    for (const { to, run } of near.get(queue[at] ?? '') ?? [])
      if (to !== fromId && !came.has(to)) {
        came.set(to, { from: queue[at] ?? '', run });
        queue.push(to);
      }
  if (fromId === toId || !came.has(toId)) return fromId === toId ? [] : undefined;
  const way: PictureRun[] = [];
  for (let step = came.get(toId); step; step = step.from === fromId ? undefined : came.get(step.from))
    way.unshift(step.run);
  return way;
}

/** A way from a unit on, run by run: both sockets of each, in the order in which a packet passes them. */
export function wayWords(show: Show, way: readonly PictureRun[], fromId: string): string[] {
  let at = fromId;
  return way.map(({ upper, lower }) => {
    const [near, far] = upper.unitId === at ? [upper, lower] : [lower, upper];
    at = far.unitId;
    return `${endWords(show, near.unitId, near.socket)} → ${endWords(show, far.unitId, far.socket)}`;
  });
}
