import { show as core } from '@deep-patch/core';
import type { Site } from '../site/site.ts';
import { isInSetUp, type Standin } from '../units/standin.ts';

/**
 * Notices what happened on the bench since something was proved: to whom, and which links that concerns. What the plan
 * says is left out: a measurement knows by its basis that the plan has changed.
 */
export class Ageing {
  private traces = new Map<string, string>();

  /** Whatever is so now is no news. */
  begin(site: Site): void {
    this.traces = tracesOf(site);
  }

  /** Links that anything concerns that happened since it was asked last; all of them where nobody may know to whom. */
  linksSince(site: Site, isSecret: boolean): string[] {
    const now = tracesOf(site);
    const changed = [...now].filter(([id, trace]) => this.traces.get(id) !== trace).map(([id]) => id);
    this.traces = now;
    if (changed.length === 0) return [];
    const all = core.rowsOf(site.plan.show, 'links');
    const passesOn = changed.some((id) => isOnTheWay(site.standins.get(id)));
    const concerned = isSecret || passesOn ? all : all.filter((link) => isEnd(site, link, new Set(changed)));
    return concerned.map(({ id }) => id);
  }
}

/** What it does with frames of others decides about links that it is no end of. */
const isOnTheWay = (standin: Standin | undefined): boolean =>
  standin !== undefined && (standin.bridge !== undefined || standin.host.routes);

const isEnd = (site: Site, { controllerId, targetId }: core.Link, changed: ReadonlySet<string>): boolean =>
  [controllerId, targetId].some(
    (id) => changed.has(id) || changed.has(site.standins.get(id)?.computer?.device.id ?? ''),
  );

function tracesOf(site: Site): Map<string, string> {
  const traces = new Map<string, unknown[]>([...site.standins].map(([id, standin]) => [id, traceOf(standin)]));
  for (const { row, cable } of site.cables.values()) {
    const ends = [
      [row.fromDevice, row.fromSocket],
      [row.toDevice, row.toSocket],
    ] as const;
    const tags = ends.map(([id, socket]) => site.standins.get(id)?.bridge?.membership.get(socket));
    const trace = [cable.hasCarrier(), cable.links, cable.quality.loss, tags];
    // a run to a unit at the edge is that unit's own affair
    const edges = ends.filter(([id]) => !isOnTheWay(site.standins.get(id)));
    for (const [id] of edges.length > 0 ? edges : ends) traces.get(id)?.push(trace);
  }
  return new Map([...traces].map(([id, parts]) => [id, JSON.stringify(parts)]));
}

/** All about a unit that decides whether links work and that the plan does not tell. */
function traceOf(standin: Standin): unknown[] {
  const { memory, host, bridge, computer } = standin;
  const { powered, fault, own, application, helper, firewall, firstSignIn, allowed, lookedUp } = memory;
  const lost = [...lookedUp].filter(([, { ip }]) => ip === null);
  const leases = host.adapters.map(({ addresses }) => addresses.filter(({ leased }) => leased));
  return [
    [powered, fault, own, application, helper, firewall, firstSignIn, isInSetUp(standin), [...allowed], lost],
    computer ? [] : [host.neighbours.conflicts.size, leases],
    bridge ? [bridge.isStorming(), [...bridge.ports.values()].map(({ key, cable }) => [key, cable !== undefined])] : [],
  ];
}
