import { each } from '../../findings/index.ts';
import { compareVersions } from '../compare-versions.ts';
import { rigRule } from '../rig-rule.ts';

type Feature = { name: string; feature: string; lowest: string; firmware: string };

/** Functions in use whose lowest version the unit does not have, or nobody knows (need 1.2, C35). */
export const featureVersions = rigRule<{ feature_below: Feature; feature_unknown: Feature; feature_unclear: Feature }>(
  {
    feature_below: (f) => [
      `${f.name} runs ${f.firmware}; “${f.feature}” came with ${f.lowest}.`,
      'The menu will not offer it.',
      'Update the unit before the site, or do without.',
    ],
    feature_unknown: (f) => [
      `Nobody wrote down the version of ${f.name}; “${f.feature}” came with ${f.lowest}.`,
      'Whether it has the function is open.',
      'Read the version from its own menu, not from the box.',
    ],
    feature_unclear: (f) => [
      `The version ${f.firmware} of ${f.name} cannot be compared with ${f.lowest}.`,
      `“${f.feature}” came with that release; a pre-release may lack it.`,
      'Check by hand.',
    ],
  },
  each(
    (_show, { units }) => units,
    (found, { device, type }) =>
      type.features.flatMap(({ key, label, lowest }) => {
        if (lowest === null || !device.features.includes(key)) return [];
        const order = device.firmware === null ? undefined : compareVersions(device.firmware, lowest);
        if (order !== undefined && order >= 0) return [];
        const details = { name: device.name, feature: label, lowest, firmware: device.firmware ?? '', key };
        const code = order === -1 ? 'feature_below' : device.firmware === null ? 'feature_unknown' : 'feature_unclear';
        const subject = { table: 'devices' as const, id: device.id };
        return [found(code, order === -1 ? 'risky' : 'note', [subject], details)];
      }),
  ),
);
