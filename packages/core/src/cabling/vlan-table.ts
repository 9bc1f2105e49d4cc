import type { AddressingFacts } from '../addressing/index.ts';
import { byName, groupBy, rowsOf, socketLabel, socketOf, typeOf, type Device, type Show } from '../show/index.ts';

/** One socket of a managed switch and the VLANs that it has to carry (need 2.20). */
export interface VlanLine {
  readonly hub: Device;
  readonly socket: string;
  readonly far: string;
  /** `access`: one VLAN, untagged; `trunk`: all VLANs of the show, tagged (IEEE 802.1Q); `unclear`: nothing planned behind it, or two VLANs behind a plain switch, which cannot part them. */
  readonly mode: 'access' | 'trunk' | 'unclear';
  readonly vlans: readonly number[];
}

/**
 * Membership of switch sockets as the plan asks for it: towards another managed switch everything, towards a unit the
 * VLAN of the network that its adapter there is on. A unit on two VLANs over one cable needs both, tagged.
 */
export function vlanTable(show: Show, addressing: AddressingFacts): VlanLine[] {
  const all = [...new Set(rowsOf(show, 'networks').flatMap(({ vlan }) => vlan ?? []))].sort((a, b) => a - b);
  const lines = rowsOf(show, 'cables').flatMap((cable): VlanLine[] => {
    const ends = [
      { own: cable.fromDevice, socket: cable.fromSocket, far: cable.toDevice, farSocket: cable.toSocket },
      { own: cable.toDevice, socket: cable.toSocket, far: cable.fromDevice, farSocket: cable.fromSocket },
    ];
    return ends.flatMap(({ own, socket, far, farSocket }) => {
      const [hub, other] = [show.devices[own], show.devices[far]];
      const [type, farType] = [typeOf(show, hub), typeOf(show, other)];
      if (!hub || !other || !type?.managed || !farType) return [];
      const line = { hub, socket: socketLabel(show, own, socket), far: other.name };
      if (farType.managed) return [{ ...line, mode: 'trunk', vlans: all }];
      const adapter = socketOf(farType, other.variant, farSocket)?.adapter ?? null;
      // a plain switch knows no VLANs: whoever is behind it is a member at this socket
      const planned = farType.forwards
        ? behind(show, other.id, own).flatMap((id) => addressing.byDevice.get(id) ?? [])
        : (addressing.byDevice.get(other.id) ?? []).filter((item) => item.interface.adapter === adapter);
      const vlans = [...new Set(planned.flatMap(({ network }) => network.vlan ?? []))].sort((a, b) => a - b);
      const mode = vlans.length === 1 ? 'access' : vlans.length > 1 && !farType.forwards ? 'trunk' : 'unclear';
      return [{ ...line, mode, vlans }];
    });
  });
  return lines.sort((a, b) => byName(a.hub, b.hub) || byName({ name: a.socket }, { name: b.socket }));
}

/** A plain switch and everything that is cabled to it without a managed switch in between. */
function behind(show: Show, start: string, from: string): string[] {
  const ends = groupBy(
    rowsOf(show, 'cables').flatMap(({ fromDevice, toDevice }) => [
      { own: fromDevice, far: toDevice },
      { own: toDevice, far: fromDevice },
    ]),
    ({ own }) => own,
  );
  const reached = new Set([start]);
  for (const id of reached) {
    const type = typeOf(show, show.devices[id]);
    if (!type?.forwards || type.managed) continue;
    for (const { far } of ends.get(id) ?? [])
      if (far !== from && !typeOf(show, show.devices[far])?.managed) reached.add(far);
  }
  return [...reached];
}
