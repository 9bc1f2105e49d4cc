import { show as core, type Show } from '@deep-patch/core';
import type { Pool } from './ether/dhcp-server.ts';
import type { OwnAddress } from './ether/host.ts';
import { isHostAddress, type AddressSetting } from './setup.ts';
import { undotted } from './standins/standin.ts';

/** What a host really has of a fixed address that was keyed in; the name of a network or everybody's address is refused. */
export function ownAddress({ method, ip, prefix, gateway, vlan }: AddressSetting, tagged: boolean): OwnAddress[] {
  if (method !== 'static' || ip === null || !isHostAddress({ ip, prefix })) return [];
  return [{ ip, prefix, gateway, tag: tagged ? vlan : null }];
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
        return [[macOf(show, its.deviceId, its.adapter, at ?? 0), undotted(row.ip)]];
      }),
    );
    return [
      {
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

/** The MAC of the plan, or one of our own making where nobody wrote it down: hosts need different ones. */
export function macOf(show: Show, deviceId: string, adapter: string, at: number): string {
  const planned = core
    .rowsOf(show, 'interfaces')
    .find((row) => row.deviceId === deviceId && row.adapter === adapter)?.mac;
  return planned ?? madeUpMac(`${deviceId} ${adapter}`, at);
}

function madeUpMac(text: string, at: number): string {
  let hash = 2_166_136_261;
  for (const letter of text) hash = Math.imul(hash ^ letter.charCodeAt(0), 16_777_619) >>> 0;
  const bytes = [24, 16, 8, 0].map((shift) => ((hash >>> shift) & 255).toString(16).padStart(2, '0'));
  return ['02', at.toString(16).padStart(2, '0'), ...bytes].join(':');
}
