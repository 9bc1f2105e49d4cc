import type { Show } from '../show/index.ts';
import type { BroadcastDomains } from './domains/broadcast-domains.ts';
import { innerWires, type Plugged } from './domains/wires.ts';
import { runGraph } from './run-graph.ts';

/** A circle that spanning tree cuts. */
export interface HeldLoop {
  /** The run that is held back first, then the way round that takes its place. */
  readonly runs: readonly string[];
  readonly shut: { readonly deviceId: string; readonly socket: string };
  readonly devices: readonly string[];
  /** Switches on it that take no part in spanning tree. */
  readonly plain: readonly string[];
}

/** For each run that spanning tree holds back: the circle that it would close (C44). */
export function heldLoops(show: Show, domains: BroadcastDomains): HeldLoop[] {
  // most shows have none, and need no graph
  if (domains.held().length === 0) return [];
  const wires = innerWires(show);
  const isShut = ({ deviceId, socket }: Plugged) => domains.isShut(deviceId, socket);
  const held = wires.filter(({ a, b }) => isShut(a) || isShut(b));
  const { path } = runGraph(show, domains, wires);
  const typeOf = new Map(wires.flatMap(({ a, b }) => [a, b]).map(({ deviceId, type }) => [deviceId, type]));
  return held.flatMap(({ a, b }): HeldLoop[] => {
    const shut = [a, b].find(isShut);
    if (!shut || a.node === undefined || b.node === undefined) return [];
    const round = path(a.node, b.node);
    if (!round) return [];
    const nodes = [a.node, ...round.between, b.node].map((node) => node.split('/')[0] ?? node);
    const devices = [...new Set(nodes)];
    return [
      {
        runs: [a.cableId, ...round.runs],
        shut: { deviceId: shut.deviceId, socket: shut.socket },
        devices,
        plain: devices.filter((id) => typeOf.get(id)?.forwards && !typeOf.get(id)?.managed),
      },
    ];
  });
}
