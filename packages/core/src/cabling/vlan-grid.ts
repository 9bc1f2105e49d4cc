import type { AddressingFacts } from '../addressing/index.ts';
import {
  byName,
  changeOf,
  isEqual,
  rowsOf,
  socketLabel,
  typeOf,
  updateRow,
  type Change,
  type Device,
  type Show,
} from '../show/index.ts';
import { nativeVlan } from './domains/broadcast-domains.ts';
import { runAt } from './run-ends.ts';
import type { CablingFacts } from './segments.ts';
import { vlanTable } from './vlan-table.ts';

/** One socket of a managed switch with what it does (IEEE 802.1Q), and what its neighbour does. */
export interface GridSocket {
  readonly key: string;
  readonly label: string;
  /** What is plugged in; empty where nothing is. */
  readonly far: string;
  readonly untagged: number | null;
  readonly tagged: readonly number[];
  readonly byHand: boolean;
  /** VLANs that the plan of what hangs there asks for. */
  readonly wants: readonly number[];
  /** The untagged VLAN of the socket at the other end, where that is one of a managed switch. */
  readonly farUntagged: number | null | undefined;
}

export interface VlanGrid {
  readonly vlans: readonly number[];
  readonly switches: readonly { readonly hub: Device; readonly sockets: readonly GridSocket[] }[];
}

/** Membership of every socket of every managed switch (need 2.20): as it was set, else as the plan asks for. */
export function vlanGrid(show: Show, cabling: CablingFacts, addressing: AddressingFacts): VlanGrid {
  const { memberOf } = cabling.domains();
  const wants = new Map(vlanTable(show, addressing).map((line) => [`${line.hub.id} ${line.socket}`, line.vlans]));
  const switches = rowsOf(show, 'devices')
    .filter((device) => typeOf(show, device)?.managed)
    .sort(byName)
    .map((hub) => ({
      hub,
      sockets: (typeOf(show, hub)?.sockets ?? []).map(({ key }): GridSocket => {
        const far = runAt(show, hub.id, key)?.far;
        const label = socketLabel(show, hub.id, key);
        const byHand = hub.socketVlans.find(({ socket }) => socket === key);
        const member = memberOf(hub.id, key) ?? byHand ?? { untagged: nativeVlan, tagged: [] };
        return {
          ...{ key, label, far: far ? (show.devices[far.deviceId]?.name ?? '') : '' },
          ...{ untagged: member.untagged, tagged: [...member.tagged].sort((a, b) => a - b) },
          byHand: byHand !== undefined,
          wants: wants.get(`${hub.id} ${label}`) ?? [],
          farUntagged:
            far && typeOf(show, show.devices[far.deviceId])?.managed
              ? memberOf(far.deviceId, far.socket)?.untagged
              : undefined,
        };
      }),
    }));
  const seen = switches.flatMap(({ sockets }) =>
    sockets.flatMap(({ untagged, tagged }) => [untagged ?? nativeVlan, ...tagged]),
  );
  const planned = rowsOf(show, 'networks').flatMap(({ vlan }) => vlan ?? []);
  return { vlans: [...new Set([nativeVlan, ...planned, ...seen])].sort((a, b) => a - b), switches };
}

/** What a socket does with one VLAN. */
export type Membership = 'no' | 'untagged' | 'tagged';

/** Sets what a socket does with one VLAN; as it then stands, it is kept by hand. A socket has one untagged VLAN. */
export function planSocketVlan(
  hub: Device,
  { key, label, untagged, tagged }: GridSocket,
  vlan: number,
  next: Membership,
): Change | undefined {
  const others = tagged.filter((one) => one !== vlan);
  const row = {
    socket: key,
    untagged: next === 'untagged' ? vlan : untagged === vlan ? null : untagged,
    tagged: next === 'tagged' ? [...others, vlan].sort((a, b) => a - b) : others,
  };
  const kept = hub.socketVlans.filter(({ socket }) => socket !== key);
  const words = { no: `without VLAN ${vlan}`, untagged: `VLAN ${vlan} untagged`, tagged: `VLAN ${vlan} tagged` }[next];
  return changeOf(`${hub.name} ${label}: ${words}`.slice(0, 200), [
    updateRow('devices', hub, { socketVlans: [...kept, row] }),
  ]);
}

/** Sockets of a switch as the plan asks for again: one, or all of them. */
export function planSocketAsPlanned(hub: Device, key?: string): Change | undefined {
  const socketVlans = key === undefined ? [] : hub.socketVlans.filter(({ socket }) => socket !== key);
  if (isEqual(socketVlans, hub.socketVlans)) return undefined;
  return changeOf(`VLANs of ${hub.name} as planned`.slice(0, 200), [updateRow('devices', hub, { socketVlans })]);
}
