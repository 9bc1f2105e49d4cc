import { finding } from '../../findings/index.ts';
import { groupBy, rowsOf, serviceTypeOf, type Show } from '../../show/index.ts';
import { compareVersions } from '../compare-versions.ts';

/** Units whose firmware is below what a service they are wanted for asks (need 1.2), seen before any link exists. */
export const firmwareBelow = (show: Show) => {
  const links = groupBy(rowsOf(show, 'links'), (link) => link.targetId);
  return rowsOf(show, 'services').flatMap((service) => {
    const device = show.devices[service.deviceId];
    const lowest = serviceTypeOf(show, device, service.key)?.lowestFirmware;
    if (!device || !lowest || !device.firmware || compareVersions(device.firmware, lowest) !== -1) return [];
    const wanted = links.get(device.id)?.some((link) => link.serviceKey === service.key) ?? false;
    const details = {
      name: device.name,
      firmware: device.firmware,
      lowest,
      service: serviceTypeOf(show, device, service.key)?.label ?? '',
    };
    return [
      finding('rig', 'firmware_below', wanted ? 'risky' : 'note', [{ table: 'devices', id: device.id }], details),
    ];
  });
};
