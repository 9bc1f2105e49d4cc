import { fixWith } from '../../findings/index.ts';
import { compareVersions } from '../../rig/index.ts';
import { changeOf, updateRow } from '../../show/index.ts';
import { fail, pass, risky, type Layer } from '../layer.ts';

/** Is the function switched on at the target, new enough, and does the controller speak its protocol (need 4.2, C35)? */
export const service: Layer = ({ service: row, serviceType, controllerType, controller, target }) => {
  const facts = {
    protocol: serviceType.protocol.toUpperCase(),
    label: serviceType.label,
    firmware: target.firmware ?? '',
    lowest: serviceType.lowestFirmware ?? '',
    controller: controller.name,
    target: target.name,
  };
  if (!controllerType.drives.includes(serviceType.protocol)) return fail('cannot_speak', facts);
  if (!row.enabled) {
    const change = changeOf(`Turn ${serviceType.label} on at ${target.name}`, [
      updateRow('services', row, { enabled: true }),
    ]);
    return fail('switched_off', facts, [fixWith(`Turn ${serviceType.label} on`, change)]);
  }
  if (!serviceType.lowestFirmware) return pass('on', facts);
  if (!target.firmware) return risky('version_unknown', facts);
  const order = compareVersions(target.firmware, serviceType.lowestFirmware);
  if (order === undefined) return risky('version_unclear', facts);
  return order === -1 ? risky('version_below', facts) : pass('on', facts);
};
