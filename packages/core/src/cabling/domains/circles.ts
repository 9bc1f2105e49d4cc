import { groupBy } from '../../show/index.ts';
import { DisjointSets } from './disjoint-sets.ts';
import type { Wire } from './wires.ts';

/** Cables in a circle that no spanning tree cuts: whatever is sent to everybody runs round and fills them. */
export interface Loop {
  readonly devices: readonly string[];
  readonly cables: readonly string[];
  /** Cables without which nothing runs in a circle any more. */
  readonly spare: readonly string[];
}

/** A name of a loop that stays as long as its cables do. */
export const loopKey = ({ cables }: Loop): string => [...cables].sort().join(' ');

/**
 * The circles of a stretch, those that share a unit as one. A cable is part of a circle if its ends stay joined without
 * it; one that only joins two circles, or leads away from one, is not.
 */
export function circlesOf({ nodes, wires }: { nodes: readonly string[]; wires: readonly Wire[] }): Loop[] {
  if (wires.length < nodes.length) return [];
  const round = wires.filter((wire) => {
    const rest = joined(wires.filter((other) => other !== wire));
    return rest.find(wire.a.node ?? '') === rest.find(wire.b.node ?? '');
  });
  const sets = joined(round);
  return [...groupBy(round, ({ a }) => sets.find(a.node ?? '')).values()].map((own) => ({
    devices: [...new Set(own.flatMap(({ a, b }) => [a.deviceId, b.deviceId]))],
    cables: own.map(({ a }) => a.cableId),
    spare: spareOf(own),
  }));
}

function joined(wires: readonly Wire[]): DisjointSets {
  const sets = new DisjointSets();
  for (const { a, b } of wires) sets.join(a.node ?? '', b.node ?? '');
  return sets;
}

/** Whatever joins two that are joined already. */
function spareOf(wires: readonly Wire[]): string[] {
  const sets = new DisjointSets();
  return wires.flatMap(({ a, b }) => {
    if (sets.find(a.node ?? '') === sets.find(b.node ?? '')) return [a.cableId];
    sets.join(a.node ?? '', b.node ?? '');
    return [];
  });
}
