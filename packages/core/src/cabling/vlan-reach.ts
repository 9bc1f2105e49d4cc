import { linkingCables } from './run-length.ts';
import { groupBy, rowsOf, socketsOf, typeOf, type Cable, type Interface, type Show } from '../show/index.ts';

/** The VLAN of a socket for which nothing else is set (IEEE 802.1Q table 9-2). */
const nativeVlan = 1;

/** Whether frames get from one interface to another by VLAN, once cables lead there. */
export interface VlanReach {
  readonly joined: (a: Interface, vlanA: number | null, b: Interface, vlanB: number | null) => boolean;
  /** The VLAN in which an interface ends up; null where no managed switch decides. */
  readonly vlanOf: (its: Interface) => number | null;
}

/**
 * Broadcast domains once the sockets of managed switches are set as the plan asks for: trunks between them, the VLAN
 * of what hangs on a socket elsewhere, VLAN 1 where nothing is planned. What is joined without a managed switch is
 * one domain whatever its networks say, and so is a chain. A single adapter on several
 * VLANs takes them tagged, and so does a router on one cable.
 */
export function vlanReach(show: Show): VlanReach {
  const domains = new Domains();
  const vlansOf = plannedVlans(show);
  const edges = linkingCables(show).flatMap((cable) => {
    const [a, b] = [nodeAt(show, cable, 'from'), nodeAt(show, cable, 'to')];
    return a && b ? [{ a, b }] : [];
  });
  for (const { a, b } of edges)
    if (a.managed && b.managed) domains.join(`m ${a.key}`, `m ${b.key}`);
    else if (!a.managed && !b.managed) domains.join(a.key, b.key);
  const members = groupBy(
    [...rowsOf(show, 'interfaces')].map((row) => ({ row, key: keyOf(show, row) })),
    ({ key }) => domains.find(key),
  );
  const plugs = groupBy(
    edges.flatMap(({ a, b }) => [a.key, b.key]),
    (key) => key,
  );
  const access = new Map<string, number>();
  // looked up before anything is joined by VLAN, since that gives the groups other names
  const crossings = edges
    .filter(({ a, b }) => a.managed !== b.managed)
    .map(({ a, b }) => (a.managed ? { hub: a, other: b } : { hub: b, other: a }))
    .map((edge) => ({ ...edge, behind: members.get(domains.find(edge.other.key)) ?? [] }));
  for (const { hub, other, behind } of crossings) {
    const fabric = domains.find(`m ${hub.key}`);
    const vlans = [...new Set(behind.flatMap(({ row }) => vlansOf.get(row.id) ?? []))].sort((x, y) => x - y);
    const isOneAdapter = (!other.forwards || other.routes) && plugs.get(other.key)?.length === 1;
    if (vlans.length > 1 && isOneAdapter)
      for (const vlan of vlans) domains.join(`${other.key} ${vlan}`, `${fabric} ${vlan}`);
    else {
      access.set(other.key, vlans[0] ?? nativeVlan);
      domains.join(other.key, `${fabric} ${vlans[0] ?? nativeVlan}`);
    }
  }
  // a switch's own adapter is in the VLAN of its own network
  for (const row of rowsOf(show, 'interfaces')) {
    const type = typeOf(show, show.devices[row.deviceId]);
    if (!type?.managed) continue;
    const own = vlansOf.get(row.id)?.[0] ?? nativeVlan;
    domains.join(keyOf(show, row), `${domains.find(`m ${row.deviceId}`)} ${own}`);
  }
  const domainOf = (its: Interface, vlan: number | null) => {
    const key = keyOf(show, its);
    return domains.find(vlan !== null && domains.has(`${key} ${vlan}`) ? `${key} ${vlan}` : key);
  };
  return {
    joined: (a, vlanA, b, vlanB) => domainOf(a, vlanA) === domainOf(b, vlanB),
    vlanOf: (its) => access.get(keyOf(show, its)) ?? null,
  };
}

interface Node {
  readonly key: string;
  readonly managed: boolean;
  readonly forwards: boolean;
  readonly routes: boolean;
}

function nodeAt(show: Show, cable: Cable, end: 'from' | 'to'): Node | undefined {
  const [deviceId, socketKey] =
    end === 'from' ? [cable.fromDevice, cable.fromSocket] : [cable.toDevice, cable.toSocket];
  const device = show.devices[deviceId];
  const type = typeOf(show, device);
  const socket = type && socketsOf(type, device?.variant ?? null).find(({ key }) => key === socketKey);
  if (!type || !socket) return undefined;
  if (type.forwards) return { key: deviceId, managed: type.managed, forwards: true, routes: type.kind === 'router' };
  return socket.adapter === null
    ? undefined
    : { key: `${deviceId}/${socket.adapter}`, managed: false, forwards: false, routes: false };
}

/** A plain switch is one with its own adapter; a managed one keeps them apart. */
function keyOf(show: Show, { deviceId, adapter }: Interface): string {
  const type = typeOf(show, show.devices[deviceId]);
  return type?.forwards && !type.managed ? deviceId : `${deviceId}/${adapter}`;
}

function plannedVlans(show: Show): Map<string, number[]> {
  const vlans = new Map<string, number[]>();
  for (const { interfaceId, networkId } of rowsOf(show, 'addresses')) {
    const vlan = show.networks[networkId]?.vlan;
    if (vlan != null) vlans.set(interfaceId, [...(vlans.get(interfaceId) ?? []), vlan]);
  }
  return vlans;
}

/** Disjoint sets by name. */
class Domains {
  private readonly above = new Map<string, string>();

  has(name: string): boolean {
    return this.above.has(name);
  }

  find(name: string): string {
    let root = name;
    for (let next = this.above.get(root); next !== undefined && next !== root; next = this.above.get(root)) root = next;
    if (root !== name) this.above.set(name, root);
    return root;
  }

  join(a: string, b: string): void {
    const [one, two] = [this.find(a), this.find(b)];
    for (const name of [a, b, one, two]) if (!this.above.has(name)) this.above.set(name, name);
    if (one !== two) this.above.set(one, two);
  }
}
