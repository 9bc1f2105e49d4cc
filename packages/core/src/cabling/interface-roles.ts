import type { AddressingFacts, Planned } from '../addressing/index.ts';
import type { Finding } from '../findings/index.ts';
import { byAdapter, byName, groupBy, rowsOf, type Device, type Network, type Show } from '../show/index.ts';
import type { CablingFacts, Plug } from './segments.ts';

/** One adapter of a unit that stands between two networks (C49). */
export interface InterfaceRole {
  readonly adapter: string;
  readonly networks: readonly Network[];
  /** Dotted quads; null for one that is not known yet. */
  readonly addresses: readonly (string | null)[];
  readonly plug: Plug | undefined;
  /**
   * `right`: among units of its own network; `interchanged`: it and another one are in each other's place;
   * `other_network`: among units of another one; `no_address`: none is planned; `unplugged`: no cable.
   */
  readonly state: 'right' | 'interchanged' | 'other_network' | 'no_address' | 'unplugged';
}

export interface BetweenNetworks {
  readonly device: Device;
  readonly roles: readonly InterfaceRole[];
}

/** Units with adapters on several networks, and whether each adapter is where its network is. */
export function betweenNetworks(
  show: Show,
  cabling: CablingFacts,
  { byDevice }: AddressingFacts,
  findings: readonly Finding[],
): BetweenNetworks[] {
  const told = new Set(
    findings.flatMap(({ code, subjects }) =>
      subjects.flatMap(({ table, id }) => (table === 'cables' ? [`${code} ${id}`] : [])),
    ),
  );
  const stateOf = (planned: readonly Planned[], plug: Plug | undefined): InterfaceRole['state'] => {
    if (!plug) return 'unplugged';
    if (told.has(`cables_interchanged ${plug.cable.id}`)) return 'interchanged';
    if (told.has(`wrong_network ${plug.cable.id}`)) return 'other_network';
    return planned.length === 0 || planned.every(({ address }) => address.method === 'static' && address.ip === null)
      ? 'no_address'
      : 'right';
  };
  const adapters = groupBy(rowsOf(show, 'interfaces'), ({ deviceId }) => deviceId);
  return rowsOf(show, 'devices')
    .sort(byName)
    .flatMap((device): BetweenNetworks[] => {
      const planned = byDevice.get(device.id) ?? [];
      const roles = [...(adapters.get(device.id) ?? [])].sort(byAdapter(show)).flatMap((row): InterfaceRole[] => {
        const own = planned.filter((item) => item.interface.id === row.id);
        const plug = cabling.plugOf(row.id);
        if (own.length === 0 && !plug) return [];
        const networks = [...new Set(own.map(({ network }) => network))];
        const addresses = own.map(({ address }) => address.ip);
        return [{ adapter: row.adapter, networks, addresses, plug, state: stateOf(own, plug) }];
      });
      const networks = new Set(roles.flatMap((role) => role.networks.map(({ id }) => id)));
      return roles.length > 1 && networks.size > 1 ? [{ device, roles }] : [];
    });
}
