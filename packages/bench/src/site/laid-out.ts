import { show as core } from '@deep-patch/core';
import type { BenchPlan } from '../units/plan.ts';

/** Where the cable at a socket leads for the meantime, and the VLAN of that socket where a switch decides. */
export interface Lead {
  readonly deviceId: string;
  readonly socket: string;
  readonly to: { readonly deviceId: string; readonly socket: string; readonly vlan: number | null };
}

/**
 * A plan as it lies there while everything is set up, or in the show: runs of the other time are not plugged in, and a
 * cable that leads elsewhere for the meantime takes the place of whatever is plugged in at its ends.
 */
export function laidOut(plan: BenchPlan, stage: 'setup' | 'show', leads: readonly Lead[] = []): BenchPlan {
  const other = stage === 'show' ? 'setup' : 'show';
  const rows = core.rowsOf(plan.show, 'cables');
  if (leads.length === 0 && rows.every((row) => row.stage === 'both')) return plan;
  // what is there is there: whoever reads this plan asks no more at which time
  const there = rows
    .filter((row) => row.stage !== other && !leads.some((lead) => isAt(row, lead) || isAt(row, lead.to)))
    .map((row) => ({ ...row, stage: 'both' as const }));
  const led = leads.map(({ deviceId, socket, to }) => ({
    ...core.contentWith('cables', {
      ...{ id: `lead ${deviceId} ${socket}`, fromDevice: deviceId, fromSocket: socket },
      ...{ toDevice: to.deviceId, toSocket: to.socket, medium: 'copper', lengthM: 5 },
    }),
    rev: plan.show.rev,
  }));
  return {
    ...plan,
    show: {
      ...plan.show,
      cables: Object.fromEntries([...there, ...led].map((row) => [row.id, row])),
      devices: withVlans(plan.show.devices, leads),
    },
  };
}

const isAt = (row: core.Cable, { deviceId, socket }: { readonly deviceId: string; readonly socket: string }): boolean =>
  (row.fromDevice === deviceId && row.fromSocket === socket) || (row.toDevice === deviceId && row.toSocket === socket);

/** The socket that a cable leads to is in the VLAN for which it was chosen. */
function withVlans(devices: Readonly<Record<string, core.Device>>, leads: readonly Lead[]) {
  const changed: Record<string, core.Device> = {};
  for (const { to } of leads) {
    const hub = changed[to.deviceId] ?? devices[to.deviceId];
    if (!hub || to.vlan === null) continue;
    const others = hub.socketVlans.filter(({ socket }) => socket !== to.socket);
    changed[hub.id] = { ...hub, socketVlans: [...others, { socket: to.socket, untagged: to.vlan, tagged: [] }] };
  }
  return { ...devices, ...changed };
}
