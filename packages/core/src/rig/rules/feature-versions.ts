import { finding } from '../../findings/index.ts';
import type { Show } from '../../show/index.ts';
import { compareVersions } from '../compare-versions.ts';
import type { RigFacts } from '../facts.ts';

/** Functions in use whose lowest version the unit does not have, or nobody knows (need 1.2, C35). */
export const featureVersions = (_show: Show, facts: RigFacts) =>
  facts.all.flatMap(({ device, type }) =>
    type.features.flatMap(({ key, label, lowest }) => {
      if (lowest === null || !device.features.includes(key)) return [];
      const order = device.firmware === null ? undefined : compareVersions(device.firmware, lowest);
      if (order !== undefined && order >= 0) return [];
      const details = { name: device.name, feature: label, lowest, firmware: device.firmware ?? '' };
      const code = order === -1 ? 'feature_below' : device.firmware === null ? 'feature_unknown' : 'feature_unclear';
      const subject = { table: 'devices' as const, id: device.id };
      return [finding('rig', code, order === -1 ? 'risky' : 'note', [subject], { ...details, key })];
    }),
  );
