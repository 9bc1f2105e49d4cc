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
