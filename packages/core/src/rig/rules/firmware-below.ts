import { each } from '../../findings/index.ts';
import { rowsBy, serviceTypeOf } from '../../show/index.ts';
import { compareVersions } from '../compare-versions.ts';
import { rigRule } from '../rig-rule.ts';

/** Units whose firmware is below what a service they are wanted for asks (need 1.2), seen before any link exists. */
export const firmwareBelow = rigRule<{
  firmware_below: { name: string; firmware: string; lowest: string; service: string };
}>(
  {
    firmware_below: (f) => [
      `${f.name} runs ${f.firmware}; ${f.service} needs ${f.lowest}.`,
      'The function may be missing or behave differently.',
      'Update it before the rig-in, or write down the version if the list is out of date.',
    ],
  },
  each(
    (show) => rowsBy(show, 'services', 'id'),
    (found, row, show) => {
      const links = rowsBy(show, 'links', 'targetId');
      const device = show.devices[row.deviceId];
      const type = serviceTypeOf(show, device, row.key);
      const lowest = type?.lowestFirmware;
      if (!row.enabled || !device || !lowest || !device.firmware || compareVersions(device.firmware, lowest) !== -1)
        return [];
      const wanted = links.get(device.id)?.some((link) => link.serviceKey === row.key) ?? false;
      const details = { name: device.name, firmware: device.firmware, lowest, service: type.label };
      return [found('firmware_below', wanted ? 'risky' : 'note', [{ table: 'devices', id: device.id }], details)];
    },
  ),
);
