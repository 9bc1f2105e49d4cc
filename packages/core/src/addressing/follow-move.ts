import { hostOf, rowsOf, updateRow, type Edit, type Show } from '../show/index.ts';
import type { Planned } from './facts.ts';

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
  const links = rowsOf(show, 'links');
  const answersHere = (deviceId: string, key: string): boolean =>
    links.some((link) => link.targetId === deviceId && link.serviceKey === key && isHere(link.controllerId));
  return [
    ...rowsOf(show, 'services')
      .filter(({ sendTo, alsoTo, deviceId, key }) => [sendTo, ...alsoTo].includes(old) && answersHere(deviceId, key))
      .map((service) =>
        updateRow('services', service, {
          sendTo: service.sendTo === old ? to : service.sendTo,
          alsoTo: service.alsoTo.map((ip) => (ip === old ? to : ip)),
        }),
      ),
    ...links
      .filter(({ host, targetId }) => host === old && isHere(targetId))
      .map((link) => updateRow('links', link, { host: to })),
  ];
}
