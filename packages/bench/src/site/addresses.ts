import { show as core, type Show } from '@deep-patch/core';
import { DhcpClient } from '../ether/dhcp-client.ts';
import { DhcpServer, type Pool } from '../ether/dhcp-server.ts';
import type { OwnAddress } from '../ether/host.ts';
import { isHostAddress, type AddressSetting } from '../units/settings.ts';
import { undotted } from '../ether/dotted.ts';
import { settingsOf, type Standin } from '../units/standin.ts';
import type { Ground } from './ground.ts';
import { takesTags } from './vlans.ts';

/** A network needs this long after power came before switches pass everything (simulated milliseconds). */
export const settlesMs = 350;

/** It crosses a trunk without a tag (IEEE 802.1Q). */
const nativeVlan = 1;

/** What a host really has of a fixed address that was keyed in; the name of a network or everybody's address is refused. */
function ownAddress({ method, ip, prefix, gateway, vlan }: AddressSetting, tagged: boolean): OwnAddress[] {
  if (method !== 'static' || ip === null || !isHostAddress({ ip, prefix })) return [];
  return [{ ip, prefix, gateway, tag: tagged && vlan !== nativeVlan ? vlan : null }];
}

/** What a router hands out: the pools of the plan, with what is reserved in each. */
function poolsOf(show: Show): Pool[] {
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

/** A unit takes its addresses: those that were keyed in at once, those that it asks for by and by. */
export function takeAddresses(ground: Ground, standin: Standin): void {
  const { host, device, clients, memory } = standin;
  const { scheduler, plan } = ground;
  for (const adapter of host.adapters) {
    const settings = settingsOf(standin).addresses[adapter.key] ?? [];
    const tagged = takesTags(plan.show, device.id, adapter.key);
    adapter.addresses = settings.flatMap((setting) => ownAddress(setting, tagged));
    host.neighbours.announce(adapter);
    const asks = settings.find((setting) => setting.method !== 'static');
    if (!asks || asks.method === 'static') continue;
    const { method, ip: remembered } = asks;
    const client = new DhcpClient(host, adapter, device.hostName || device.name, memory.leases);
    clients.push(client);
    scheduler.after(settlesMs, () => {
      if (clients.includes(client)) client.start(method, remembered);
    });
    ground.settleBy(scheduler.now() + settlesMs);
  }
}

/** A router hands out the pools of the networks that it is in. */
export function serveAddresses({ plan }: Ground, standin: Standin): void {
  if (standin.type.kind !== 'router') return;
  const active = standin.dhcp?.active ?? true;
  standin.dhcp = new DhcpServer(standin.host, poolsOf(plan.show));
  standin.dhcp.active = active;
  standin.dhcp.start();
}
