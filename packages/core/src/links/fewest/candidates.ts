import { carryingGraph, type CablingFacts } from '../../cabling/index.ts';
import { byName, rowsOf, socketOf, typeOf, type Device, type DeviceType, type Show } from '../../show/index.ts';
import type { Cut } from './cuts.ts';

/** A node into which further runs may be plugged. */
export interface Spot {
  readonly node: string;
  readonly device: Device;
  readonly managed: boolean;
  /** Keys of its free sockets that take network cables, in the order of the panel. */
  readonly sockets: readonly string[];
  /** The VLAN that it is in; undefined for a managed switch, which carries all of them. */
  readonly vlan: number | null | undefined;
  /** The only managed switch into which a further run of it may go; undefined where any will do. */
  readonly onlyHub: string | undefined;
}

/** Spots that lie alike to every cut: whichever of them is taken, the same parts are joined. */
export interface SpotClass {
  readonly spots: readonly Spot[];
  readonly managed: boolean;
  readonly vlan: number | null | undefined;
  readonly onlyHub: string | undefined;
  /** Its part in each cut; -1 where it is in none. */
  readonly parts: readonly number[];
  readonly room: number;
}

/** Sockets that are left, grouped by what plugging into them would join. */
export function spotClasses(show: Show, cabling: CablingFacts, cuts: readonly Cut[]): SpotClass[] {
  const classes = new Map<string, Omit<SpotClass, 'room'> & { spots: Spot[] }>();
  const spots = allSpots(show, cabling);
  const meant = new Set(spots.flatMap(({ onlyHub }) => onlyHub ?? []));
  for (const spot of spots) {
    const { node, managed, vlan, onlyHub } = spot;
    const parts = cuts.map(({ partOf }) => partOf.get(node) ?? -1);
    if (parts.every((part) => part < 0)) continue;
    const key = [managed, vlan, onlyHub, meant.has(node) ? node : '', ...parts].join(' ');
    const known = classes.get(key) ?? { spots: [], managed, vlan, onlyHub, parts };
    classes.set(key, known);
    known.spots.push(spot);
  }
  return [...classes.values()].map((one) => ({
    ...one,
    room: one.spots.reduce((sum, { sockets }) => sum + sockets.length, 0),
  }));
}

function allSpots(show: Show, cabling: CablingFacts): Spot[] {
  const graph = carryingGraph(show, cabling.domains());
  // a stretch in one VLAN between two switches may make spanning tree shut a run that carries others as well
  const isOne = new Set(rowsOf(show, 'networks').map(({ vlan }) => vlan)).size < 2;
  return rowsOf(show, 'devices')
    .sort(byName)
    .flatMap((device) => spotsOf(show, cabling, device))
    .flatMap((spot): Spot[] => {
      if (spot.managed || isOne) return [spot];
      const [only, ...more] = graph.hubsOf(spot.node);
      return only !== undefined && more.length === 0 ? [{ ...spot, onlyHub: only }] : [];
    });
}

function spotsOf(show: Show, cabling: CablingFacts, device: Device): Spot[] {
  const type = typeOf(show, device);
  if (!type) return [];
  const free = cabling.freeSockets(device.id).filter((key) => takesNetwork(type, device, key));
  const { isLit, takesTags, vlanOf } = cabling.domains();
  const spot = (node: string, adapter: string, sockets: readonly string[]): Spot[] => {
    const managed = type.forwards && type.managed;
    const vlan = managed ? undefined : vlanOf(device.id, adapter);
    return sockets.length > 0 ? [{ node, device, managed, sockets, vlan, onlyHub: undefined }] : [];
  };
  if (type.forwards) return spot(device.id, type.adapters[0]?.key ?? '', free);
  return type.adapters.flatMap(({ key }) => {
    const own = free.filter((socket) => socketOf(type, device.variant, socket)?.adapter === key);
    // one that takes its VLANs tagged would lose them with a second run
    return isLit(device.id, key) && !takesTags(device.id, key) ? spot(`${device.id}/${key}`, key, own) : [];
  });
}

function takesNetwork(type: DeviceType, device: Device, key: string): boolean {
  const socket = socketOf(type, device.variant, key);
  return socket?.connector === 'rj45' || socket?.connector === 'sfp';
}

/**
 * May a further run join two classes, so that spanning tree covers it? One end has to be a managed switch: without one
 * it would close a circle that nothing cuts.
 */
export function mayJoin(a: SpotClass, b: SpotClass): boolean {
  if (a.managed && b.managed) return true;
  const [hub, other] = a.managed ? [a, b] : [b, a];
  return hub.managed && (other.onlyHub === undefined || hub.spots.some(({ node }) => node === other.onlyHub));
}

/** Does a run between two classes carry the VLAN of a cut? */
export function carriesFor({ vlan }: Cut, a: SpotClass, b: SpotClass): boolean {
  const [edge] = [a, b].filter(({ managed }) => !managed);
  return edge === undefined || vlan === null || edge.vlan === vlan || edge.vlan === null;
}
