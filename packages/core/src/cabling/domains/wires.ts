import { rowsOf, socketOf, typeOf, type Cable, type Device, type DeviceType, type Show } from '../../show/index.ts';
import { linkingCables } from '../run-length.ts';

/**
 * One plug of a cable on which a link comes up. `node` is what frames get into there: a switch as a whole, one adapter
 * of anything else, or nothing, where the socket serves no network in the unit's variant.
 */
export interface Plugged {
  readonly cable: Cable;
  readonly device: Device;
  readonly type: DeviceType;
  readonly socket: string;
  readonly adapter: string | null;
  readonly node: string | undefined;
}

export interface Wire {
  readonly a: Plugged;
  readonly b: Plugged;
}

/** Every cable that joins two sockets that are there. */
export const wiresOf = (show: Show): Wire[] =>
  linkingCables(show).flatMap((cable) => {
    const a = pluggedAt(show, cable, cable.fromDevice, cable.fromSocket);
    const b = pluggedAt(show, cable, cable.toDevice, cable.toSocket);
    return a && b ? [{ a, b }] : [];
  });

function pluggedAt(show: Show, cable: Cable, deviceId: string, key: string): Plugged | undefined {
  const device = show.devices[deviceId];
  const type = typeOf(show, device);
  const socket = type && socketOf(type, device?.variant ?? null, key);
  if (!device || !type || !socket) return undefined;
  const adapter = type.forwards ? null : socket.adapter;
  const node = type.forwards ? deviceId : adapter === null ? undefined : `${deviceId}/${adapter}`;
  return { cable, device, type, socket: key, adapter, node };
}

/** VLANs that somebody plans for an adapter: those with a number, and whether a network without one is among them. */
export interface PlannedVlans {
  readonly numbers: ReadonlySet<number>;
  readonly withoutNumber: boolean;
  /** That of the first address, for an adapter that can be in one only. */
  readonly first: number | null;
}

/** By `device/adapter`. */
export function plannedVlans(show: Show): Map<string, PlannedVlans> {
  const vlans = new Map<string, PlannedVlans>();
  for (const { interfaceId, networkId } of rowsOf(show, 'addresses')) {
    const [its, network] = [show.interfaces[interfaceId], show.networks[networkId]];
    if (!its || !network) continue;
    const key = `${its.deviceId}/${its.adapter}`;
    const before = vlans.get(key);
    const numbers = new Set(before?.numbers);
    if (network.vlan !== null) numbers.add(network.vlan);
    vlans.set(key, {
      numbers,
      withoutNumber: network.vlan === null || (before?.withoutNumber ?? false),
      first: before ? before.first : network.vlan,
    });
  }
  return vlans;
}
