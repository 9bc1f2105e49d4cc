import { hostOf, indexBy, rowsBy, updateRow, type Edit, type Service, type Show } from '../show/index.ts';
import type { Planned } from './facts.ts';

/** Services by the addresses to which they send their replies. */
const sendingTo = indexBy('services', (service) =>
  [...new Set([service.sendTo, ...service.alsoTo])].flatMap((ip): [string, Service][] =>
    ip === null ? [] : [[ip, service]],
  ),
);

/**
 * Entries elsewhere that mean this unit by its old address: where its targets send their replies, and what was typed
 * into its controllers. They follow it, or the move would stop links that work.
 */
export function followMove(show: Show, { device, ip }: Planned, old: string, to: string): Edit[] {
  if (ip === null) return [];
  const isHere = (deviceId: string): boolean => {
    const other = show.devices[deviceId];
    return other !== undefined && hostOf(show, other).id === device.id;
  };
  const answersHere = (deviceId: string, key: string): boolean =>
    (rowsBy(show, 'links', 'targetId').get(deviceId) ?? []).some(
      (link) => link.serviceKey === key && isHere(link.controllerId),
    );
  return [
    ...(sendingTo(show).get(old) ?? [])
      .filter(({ deviceId, key }) => answersHere(deviceId, key))
      .map((service) =>
        updateRow('services', service, {
          sendTo: service.sendTo === old ? to : service.sendTo,
          alsoTo: service.alsoTo.map((ip) => (ip === old ? to : ip)),
        }),
      ),
    ...(rowsBy(show, 'links', 'host').get(old) ?? [])
      .filter(({ targetId }) => isHere(targetId))
      .map((link) => updateRow('links', link, { host: to })),
  ];
}
