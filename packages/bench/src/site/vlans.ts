import { show as core, type Show } from '@deep-patch/core';
import type { Membership } from '../ether/switch.ts';
import { hasLink } from './wiring.ts';

const nativeVlan = 1;

interface Behind {
  /** Null stands for networks without a number. */
  readonly vlans: ReadonlySet<number | null>;
  /** A single adapter, which may own tagged interfaces; anything behind a plain switch or in a chain may not. */
  readonly isOneAdapter: boolean;
}

/**
 * How somebody sets the sockets of the managed switches for a plan: everything towards another managed switch, the
 * VLAN of whatever hangs on a socket otherwise, VLAN 1 where nothing is planned. By `device socket`.
 */
export function membershipsOf(show: Show): Map<string, Membership> {
  const all = [...vlansOf(core.rowsOf(show, 'networks'))].filter((vlan) => vlan !== null);
  const members = new Map<string, Membership>();
  for (const [device, ends] of litEnds(show)) {
    if (!typeOf(show, device)?.managed) continue;
    for (const { socket, far, farSocket } of ends) {
      const key = `${device} ${socket}`;
      const byHand = show.devices[device]?.socketVlans.find((set) => set.socket === socket);
      if (byHand) members.set(key, { mode: 'by-hand', untagged: byHand.untagged, tagged: byHand.tagged });
      else if (typeOf(show, far)?.managed) members.set(key, { mode: 'trunk', vlans: all });
      else members.set(key, memberFor(vlansBehind(show, far, farSocket)));
    }
  }
  return members;
}

function memberFor({ vlans, isOneAdapter }: Behind): Membership {
  const sorted = [...vlans].filter((vlan) => vlan !== null).sort((a, b) => a - b);
  if (carriesTags({ vlans, isOneAdapter })) return { mode: 'trunk', vlans: sorted };
  return { mode: 'access', vlan: sorted[0] ?? nativeVlan };
}

const carriesTags = ({ vlans, isOneAdapter }: Behind): boolean => vlans.size > 1 && isOneAdapter;

/** A unit that may own tagged interfaces; a router does although it passes frames on between its sockets. */
const isHost = (type: core.DeviceType | undefined): boolean => !type?.forwards || type.kind === 'router';

/** Does an adapter sit on a socket that carries tags, so that its addresses belong to tagged interfaces? */
export function takesTags(show: Show, deviceId: string, adapter: string): boolean {
  const type = typeOf(show, deviceId);
  if (!type) return false;
  return endsOf(show, deviceId).some(
    ({ socket, far }) =>
      typeOf(show, far)?.managed === true &&
      isHost(type) &&
      (type.forwards || adapterOf(show, deviceId, socket) === adapter) &&
      carriesTags(vlansBehind(show, deviceId, socket)),
  );
}

/** The VLANs of all that is reached through a socket without passing a managed switch. */
function vlansBehind(show: Show, deviceId: string, socket: string): Behind {
  const vlans = new Set<number | null>();
  const seen = new Set<string>();
  const open = [{ deviceId, socket }];
  for (const at of open) {
    const type = typeOf(show, at.deviceId);
    if (!type || type.managed) continue;
    const adapter = type.forwards ? null : adapterOf(show, at.deviceId, at.socket);
    // a socket for setting up or for pictures leads to no network
    if (!type.forwards && adapter === null) continue;
    if (seen.has(`${at.deviceId} ${adapter}`)) continue;
    seen.add(`${at.deviceId} ${adapter}`);
    for (const vlan of ownVlans(show, at.deviceId, adapter)) vlans.add(vlan);
    // a switch passes on to all its sockets, a chained unit to the others of the same adapter
    open.push(...farEnds(show, at.deviceId, adapter));
  }
  const first = typeOf(show, deviceId);
  // a cable into a socket that leads to no network chains nothing on
  const onwards = farEnds(show, deviceId, adapterOf(show, deviceId, socket)).filter(
    (end) => typeOf(show, end.deviceId)?.forwards || adapterOf(show, end.deviceId, end.socket) !== null,
  );
  const isOneAdapter = isHost(first) && onwards.length < 2;
  return { vlans, isOneAdapter };
}

/** Where the cables of a unit lead, those of one adapter or all for `null`. */
const farEnds = (show: Show, deviceId: string, adapter: string | null): { deviceId: string; socket: string }[] =>
  endsOf(show, deviceId).flatMap(({ socket, far, farSocket }) =>
    adapter === null || adapterOf(show, deviceId, socket) === adapter ? [{ deviceId: far, socket: farSocket }] : [],
  );

/** The VLANs of a unit's networks: of one adapter, or of all for `null`. */
function ownVlans(show: Show, deviceId: string, adapter: string | null): Set<number | null> {
  const addresses = core.rowsBy(show, 'addresses', 'interfaceId');
  const networks = (core.rowsBy(show, 'interfaces', 'deviceId').get(deviceId) ?? [])
    .filter((row) => adapter === null || row.adapter === adapter)
    .flatMap(({ id }) => addresses.get(id) ?? [])
    .flatMap(({ networkId }) => show.networks[networkId] ?? []);
  return vlansOf(networks);
}

const vlansOf = (networks: readonly core.Network[]): Set<number | null> => new Set(networks.map(({ vlan }) => vlan));

interface CableEnd {
  readonly device: string;
  readonly socket: string;
  readonly far: string;
  readonly farSocket: string;
}

/** Both ends of every cable by their units: whoever sets a switch looks at the sockets whose lamps are lit. */
const litEnds = core.memoFor((show: Show): ReadonlyMap<string, readonly CableEnd[]> => {
  const cables = core.rowsOf(show, 'cables').filter((cable) => hasLink(show, cable));
  const ends = cables.flatMap((cable): CableEnd[] => {
    const { fromDevice, fromSocket, toDevice, toSocket } = cable;
    return [
      { device: fromDevice, socket: fromSocket, far: toDevice, farSocket: toSocket },
      { device: toDevice, socket: toSocket, far: fromDevice, farSocket: fromSocket },
    ];
  });
  return core.groupBy(ends, ({ device }) => device);
});

const endsOf = (show: Show, deviceId: string): readonly CableEnd[] => litEnds(show).get(deviceId) ?? [];

const typeOf = (show: Show, deviceId: string) => core.typeOf(show, show.devices[deviceId]);

function adapterOf(show: Show, deviceId: string, socket: string): string | null {
  const device = show.devices[deviceId];
  const type = core.typeOf(show, device);
  if (!type || !device) return null;
  return core.socketOf(type, device.variant, socket)?.adapter ?? null;
}
