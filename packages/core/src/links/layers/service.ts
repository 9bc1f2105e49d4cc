import { compareVersions } from '../../rig/index.ts';
import { layerOf, type SideBySide } from '../layer.ts';

type Function = {
  readonly protocol: string;
  readonly label: string;
  readonly firmware: string;
  readonly lowest: string;
  readonly controller: string;
  readonly target: string;
};
type Passes = { on: Function };
type Stops = {
  cannot_speak: Function;
  version_below: Function;
  version_unknown: Function;
  version_unclear: Function;
};

const sides = (f: Function, otherwise = 'same protocol'): SideBySide => ({
  left: `needs ${f.label}`,
  right: `on${f.firmware ? ` · fw ${f.firmware}` : ''}`,
  between: f.lowest ? `${f.lowest} or later asked` : otherwise,
});

/** Is the function new enough, and does the controller speak its protocol (need 4.2, C35)? */
export const service = layerOf<Passes, Stops>(
  {
    passes: { on: (f) => sides(f) },
    stops: {
      cannot_speak: {
        sides: (f) => ({ ...sides(f), between: `does not speak ${f.protocol}` }),
        said: (f) => [
          `${f.controller} does not speak ${f.protocol}.`,
          'Its type has no such output.',
          'Choose another controller or another service.',
        ],
      },
      version_below: {
        sides: (f) => sides(f),
        said: (f) => [
          `${f.target} runs ${f.firmware}; ${f.label} asks for ${f.lowest}.`,
          'The function may be missing.',
          'Update it before the show.',
        ],
      },
      version_unknown: {
        sides: (f) => sides(f),
        said: (f) => [
          `Nobody wrote down the version of ${f.target}.`,
          `${f.label} asks for ${f.lowest} or later.`,
          'Read it from its own menu.',
        ],
      },
      version_unclear: {
        sides: (f) => sides(f),
        said: (f) => [
          `The version ${f.firmware} of ${f.target} cannot be compared.`,
          `${f.label} asks for ${f.lowest} or later.`,
          'Check it by hand.',
        ],
      },
    },
  },
  ({ serviceType, controllerType, controller, target }, { pass, risky, fail }) => {
    const facts = {
      protocol: serviceType.protocol.toUpperCase(),
      label: serviceType.label,
      firmware: target.firmware ?? '',
      lowest: serviceType.lowestFirmware ?? '',
      controller: controller.name,
      target: target.name,
    };
    if (!controllerType.drives.includes(serviceType.protocol)) return fail('cannot_speak', facts);
    if (!serviceType.lowestFirmware) return pass('on', facts);
    if (!target.firmware) return risky('version_unknown', facts);
    const order = compareVersions(target.firmware, serviceType.lowestFirmware);
    if (order === undefined) return risky('version_unclear', facts);
    return order === -1 ? risky('version_below', facts) : pass('on', facts);
  },
);
