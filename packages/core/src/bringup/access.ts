import { linkLocalOf, type AddressingFacts, type Planned } from '../addressing/index.ts';
import type { CablingFacts } from '../cabling/index.ts';
import { interfacesOf, type Device, type DeviceType, type Show } from '../show/index.ts';
import type { Need } from './moves.ts';
import { isPlace, subnetText, type Standing } from './unit-now.ts';

type Way = DeviceType['ways'][number]['way'];

/** One way to a unit's settings; `need` is where the computer has to be for it, null where it needs none. */
export interface Access {
  readonly way: Way;
  readonly note: string;
  readonly need: Need | null;
}

/** Ways at the unit itself: its menu, its own desktop, a cable for setting up. */
const atItself: ReadonlySet<Way> = new Set(['menu', 'system', 'usb']);

/** A segment in which there is an adapter of a unit and nothing else: the computer's cable leads to it. */
export const aloneWith = (deviceId: string, adapter: string | undefined): string =>
  `alone ${deviceId} ${adapter ?? ''}`;

/** The segment of a unit's adapter: whoever hears its broadcasts. One without a cable is joined to the computer itself. */
export function segmentOf(
  cabling: CablingFacts,
  deviceId: string,
  adapter: string | undefined,
  tag: number | null,
): string {
  const domain = adapter === undefined ? undefined : cabling.domains().domainOf(deviceId, adapter, tag);
  return domain ?? aloneWith(deviceId, adapter);
}

/** The VLAN tag of an address on an adapter that takes them; VLAN 1 crosses a trunk without (IEEE 802.1Q). */
export const tagOf = (cabling: CablingFacts, { interface: its, network }: Planned): number | null =>
  cabling.domains().takesTags(its.deviceId, its.adapter) && network.vlan !== 1 ? network.vlan : null;

/**
 * The ways to a unit's settings while it stands somewhere, those first that need nothing of the computer. A web page needs
 * an address beside the unit's, or only the segment where the unit has formed an IPv6 link-local address that is known
 * (RFC 4862 section 5.3); a search utility or a program needs the segment.
 */
export function accessTo(
  show: Show,
  { addressing, cabling }: { readonly addressing: AddressingFacts; readonly cabling: CablingFacts },
  unit: Unit & { readonly type: DeviceType },
  at: Standing,
): Access[] {
  const { device, type, segment } = unit;
  const usable = type.ways.filter(({ alone }) => !alone);
  const ways = (usable.length > 0 ? usable : type.ways).flatMap(({ way, note, alone }): Access[] => {
    const where = alone ? aloneWith(device.id, type.adapters[0]?.key) : segment;
    if (atItself.has(way)) return [{ way, note, need: null }];
    if (way !== 'web') return [{ way, note, need: { segment: where, subnet: null } }];
    if (hasLinkLocal6(show, device, type)) return [{ way, note, need: { segment: where, subnet: null } }];
    const subnet = subnetNear(addressing, cabling, unit, at);
    return subnet === undefined ? [] : [{ way, note, need: { segment: where, subnet } }];
  });
  return ways.sort((a, b) => rank(a) - rank(b));
}

const rank = ({ need }: Access): number => (need === null ? 0 : need.subnet === null ? 1 : 2);

export function hasLinkLocal6(show: Show, device: Device, type: DeviceType): boolean {
  if (!type.factory.linkLocal6) return false;
  // who was found somewhere may have been set already, and IPv6 switched off with that
  if (device.ipv6 === 'off' && show.progress[device.id]?.shows) return false;
  if (show.keyedIn[device.id]?.values.some(({ key, value }) => key === 'ipv6' && value === 'off')) return false;
  return interfacesOf(show, device.id).some(({ mac }) => mac !== null && linkLocalOf(mac) !== undefined);
}

/** The subnet in which a computer meets it: of its address, of the pool that it gets one from, or of those that help themselves. */
export function subnetNear(
  addressing: AddressingFacts,
  cabling: CablingFacts,
  unit: Unit,
  at: Standing,
): string | undefined {
  if (isPlace(at)) return subnetText(at);
  if (at === 'none') return undefined;
  const served = at === 'asks' ? servedFrom(addressing, cabling, unit)?.network : undefined;
  return served ? `${served.network}/${served.prefix}` : '169.254.0.0/16';
}

type Unit = { readonly device: Device; readonly segment: string };

/** The router in a unit's segment that hands out addresses of a pool there, once it is set. */
export function servedFrom(
  { planned }: AddressingFacts,
  cabling: CablingFacts,
  { device, segment }: Unit,
): Planned | undefined {
  return planned.find(
    (item) =>
      item.type.kind === 'router' &&
      item.device.id !== device.id &&
      item.ip !== null &&
      item.network.poolFrom !== null &&
      segmentOf(cabling, item.device.id, item.interface.adapter, tagOf(cabling, item)) === segment,
  );
}
