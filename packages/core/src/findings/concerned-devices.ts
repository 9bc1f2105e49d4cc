import type { Show } from '../show/index.ts';
import type { Finding } from './finding.ts';

/** The devices that a finding is about, through their addresses and links too. */
export function concernedDevices(show: Show, { subjects }: Finding): string[] {
  const ids = subjects.flatMap(({ table, id }) => {
    if (table === 'devices') return [id];
    if (table === 'addresses') return [show.interfaces[show.addresses[id]?.interfaceId ?? '']?.deviceId];
    if (table === 'cables') return [show.cables[id]?.fromDevice, show.cables[id]?.toDevice];
    return table === 'links' ? [show.links[id]?.controllerId, show.links[id]?.targetId] : [];
  });
  return [...new Set(ids.filter((id) => id !== undefined))];
}

/** A note about so many units is one about the rig: it stands once, with all findings, and on no unit's page. */
const mostOfAUnit = 3;

/** Is a finding about this unit, rather than about the whole rig that it is part of? */
export function isAboutDevice(show: Show, finding: Finding, deviceId: string): boolean {
  const concerned = concernedDevices(show, finding);
  return concerned.includes(deviceId) && (finding.grade !== 'note' || concerned.length <= mostOfAUnit);
}
