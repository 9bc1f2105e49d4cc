import { show as core, type Show } from '@deep-patch/core';
import type { Pool } from './ether/dhcp-server.ts';
import type { OwnAddress } from './ether/host.ts';
import { isHostAddress, type AddressSetting } from './setup.ts';
import { undotted } from './standins/standin.ts';

/** It crosses a trunk without a tag (IEEE 802.1Q). */
const nativeVlan = 1;

/** What a host really has of a fixed address that was keyed in; the name of a network or everybody's address is refused. */
export function ownAddress({ method, ip, prefix, gateway, vlan }: AddressSetting, tagged: boolean): OwnAddress[] {
  if (method !== 'static' || ip === null || !isHostAddress({ ip, prefix })) return [];
  return [{ ip, prefix, gateway, tag: tagged && vlan !== nativeVlan ? vlan : null }];
}

/** What a router hands out: the pools of the plan, with what is reserved in each. */
export function poolsOf(show: Show): Pool[] {
  return core.rowsOf(show, 'networks').flatMap((network) => {
    if (network.poolFrom === null || network.poolTo === null) return [];
    const reserved = new Map(
      core.rowsOf(show, 'addresses').flatMap((row): [string, number][] => {
        const its = show.interfaces[row.interfaceId];
        if (row.networkId !== network.id || row.method !== 'dhcp' || row.ip === null || !its) return [];
        const at = core.typeOf(show, show.devices[its.deviceId])?.adapters.findIndex(({ key }) => key === its.adapter);
        return [[core.macOf(show, its.deviceId, its.adapter, at ?? 0), undotted(row.ip)]];
      }),
    );
    return [
      {
        id: network.id,
        network: undotted(network.network),
        prefix: network.prefix,
        from: undotted(network.poolFrom),
        to: undotted(network.poolTo),
        gateway: network.gateway === null ? null : undotted(network.gateway),
        reserved,
      },
    ];
  });
}
