import { show as core, type Show } from '@deep-patch/core';
import type { Membership } from './ether/switch.ts';

const nativeVlan = 1;

interface Behind {
  readonly vlans: ReadonlySet<number>;
  /** A single adapter, which may own tagged interfaces; anything behind a plain switch may not. */
  readonly isOneAdapter: boolean;
}

/**
 * How somebody sets the sockets of the managed switches for a plan: everything towards another managed switch, the
 * VLAN of whatever hangs on a socket otherwise, VLAN 1 where nothing is planned. By `device socket`.
 */
export function membershipsOf(show: Show): Map<string, Membership> {
  const all = vlansOf(core.rowsOf(show, 'networks'));
  const members = new Map<string, Membership>();
  for (const cable of core.rowsOf(show, 'cables'))
    for (const [device, socket, far, farSocket] of [
      [cable.fromDevice, cable.fromSocket, cable.toDevice, cable.toSocket],
      [cable.toDevice, cable.toSocket, cable.fromDevice, cable.fromSocket],
    ] as const) {
      if (!typeOf(show, device)?.managed) continue;
      const key = `${device} ${socket}`;
      if (typeOf(show, far)?.managed) members.set(key, { mode: 'trunk', vlans: [...all] });
      else members.set(key, memberFor(vlansBehind(show, far, farSocket)));
    }
  return members;
}

function memberFor({ vlans, isOneAdapter }: Behind): Membership {
  const sorted = [...vlans].sort((a, b) => a - b);
  if (sorted.length > 1 && isOneAdapter) return { mode: 'trunk', vlans: sorted };
  return { mode: 'access', vlan: sorted[0] ?? nativeVlan };
}

/** Does an adapter sit on a socket that carries tags, so that its addresses belong to tagged interfaces? */
export function takesTags(show: Show, deviceId: string, adapter: string): boolean {
  const type = typeOf(show, deviceId);
  if (!type) return false;
  return core.rowsOf(show, 'cables').some((cable) => {
    const ends = [
      [cable.fromDevice, cable.fromSocket, cable.toDevice],
      [cable.toDevice, cable.toSocket, cable.fromDevice],
    ] as const;
    return ends.some(
      ([device, socket, far]) =>
        device === deviceId &&
        typeOf(show, far)?.managed === true &&
        !type.forwards &&
        adapterOf(show, device, socket) === adapter &&
        vlansBehind(show, device, socket).vlans.size > 1,
    );
  });
}

/** The VLANs of all that is reached through a socket without passing a managed switch. */
function vlansBehind(show: Show, deviceId: string, socket: string): Behind {
  const vlans = new Set<number>();
  const seen = new Set<string>();
  const open = [{ deviceId, socket }];
  const isOneAdapter = typeOf(show, deviceId)?.forwards !== true;
  for (const at of open) {
    const type = typeOf(show, at.deviceId);
    if (!type || type.managed) continue;
    const adapter = type.forwards ? null : adapterOf(show, at.deviceId, at.socket);
    for (const vlan of ownVlans(show, at.deviceId, adapter)) vlans.add(vlan);
    if (!type.forwards || seen.has(at.deviceId)) continue;
    seen.add(at.deviceId);
    for (const cable of core.rowsOf(show, 'cables')) {
      if (cable.fromDevice === at.deviceId) open.push({ deviceId: cable.toDevice, socket: cable.toSocket });
      if (cable.toDevice === at.deviceId) open.push({ deviceId: cable.fromDevice, socket: cable.fromSocket });
    }
  }
  return { vlans, isOneAdapter };
}

/** The VLANs of a unit's networks: of one adapter, or of all for `null`. A network without a number adds none. */
function ownVlans(show: Show, deviceId: string, adapter: string | null): Set<number> {
  const own = new Set(
    core
      .rowsOf(show, 'interfaces')
      .filter((row) => row.deviceId === deviceId && (adapter === null || row.adapter === adapter))
      .map(({ id }) => id),
  );
  const networks = core
    .rowsOf(show, 'addresses')
    .flatMap((row) => (own.has(row.interfaceId) ? (show.networks[row.networkId] ?? []) : []));
  return vlansOf(networks);
}

const vlansOf = (networks: readonly core.Network[]): Set<number> =>
  new Set(networks.map(({ vlan }) => vlan).filter((vlan) => vlan !== null));

const typeOf = (show: Show, deviceId: string) => core.typeOf(show, show.devices[deviceId]);

function adapterOf(show: Show, deviceId: string, socket: string): string | null {
  const device = show.devices[deviceId];
  const type = core.typeOf(show, device);
  if (!type || !device) return null;
  return core.socketsOf(type, device.variant).find(({ key }) => key === socket)?.adapter ?? null;
}
