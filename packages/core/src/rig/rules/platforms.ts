import { fixWith, each } from '../../findings/index.ts';
import { changeOf, isComputer, updateRow, type DeviceType } from '../../show/index.ts';
import { platformFit } from '../platform.ts';
import { rigRule } from '../rig-rule.ts';
import { systemTexts } from '../type-words.ts';

type Platform = { name: string; computer: string; system: string; version: string; wanted: string[] };

const system = (text: string): string =>
  text.replace(/^(windows|macos|linux|mobile)/, (key) => systemTexts[key as keyof typeof systemTexts]);
const wantedSystems = ({ wanted }: Platform): string => wanted.map(system).join(' or ');
const computerSystem = (f: Platform): string => `${system(f.system)} ${f.version}`.trim();

/** “macos 13.0”, “macos 12 to 14”, “windows up to 10”. */
function rangeOf({ system: name, lowest, highest }: DeviceType['runsOn'][number]): string {
  if (highest === null) return `${name} ${lowest ?? ''}`.trim();
  return lowest === null ? `${name} up to ${highest}` : `${name} ${lowest} to ${highest}`;
}

/** Programs that run nowhere, or on a computer that cannot run them, with the computers of the rig that can (C39). */
export const platforms = rigRule<{
  no_computer: Platform;
  platform_other_system: Platform;
  platform_too_old: Platform;
  platform_too_new: Platform;
  platform_unsaid: Platform;
  platform_unknown: Platform;
}>(
  {
    no_computer: (f) => [
      `${f.name} runs on no computer.`,
      'It has no address and reaches nothing.',
      'Say on which computer it runs.',
    ],
    platform_other_system: (f) => [
      `${f.name} does not run on ${f.computer}, which has ${computerSystem(f)}.`,
      `It exists for ${wantedSystems(f)}.`,
      'Run it on another computer.',
    ],
    platform_too_old: (f) => [
      `${f.computer} has ${computerSystem(f)}; ${f.name} needs ${wantedSystems(f)}.`,
      'It may not start, or fail in use.',
      'Update the computer, or run it on another.',
    ],
    platform_too_new: (f) => [
      `${f.computer} has ${computerSystem(f)}; ${f.name} runs on ${wantedSystems(f)}.`,
      'Nobody promises that it starts there.',
      'Run it on another computer, or look for a newer one of it.',
    ],
    platform_unsaid: (f) => [
      `On which systems ${f.name} runs nobody wrote down.`,
      `It may not start on ${f.computer}.`,
      'Start it there once before the site, and write the systems into its type.',
    ],
    platform_unknown: (f) => [
      `Nobody wrote down the system of ${f.computer}, on which ${f.name} runs.`,
      `It needs ${wantedSystems(f)}.`,
      'Write the system and its version down.',
    ],
  },
  each(
    (_show, { units }) => units,
    (found, { device, type }, show, facts) => {
      if (type.form !== 'program') return [];
      const computer = device.runsOn === null ? undefined : show.devices[device.runsOn];
      const fit = computer && platformFit(type, computer);
      if (fit === 'usable') return [];
      const usable = facts.all.filter((item) => isComputer(item.type) && platformFit(type, item.device) === 'usable');
      const moves = usable
        .slice(0, 3)
        .map((item) =>
          fixWith(
            `Run it on ${item.device.name}`,
            changeOf(`Run ${device.name} on ${item.device.name}`, [
              updateRow('devices', device, { runsOn: item.device.id, adapter: null }),
            ]),
          ),
        );
      const details = {
        name: device.name,
        computer: computer?.name ?? '',
        system: computer?.system ?? '',
        version: computer?.systemVersion ?? '',
        wanted: type.runsOn.map(rangeOf),
      };
      const subjects = [device.id, computer?.id].flatMap((id) => (id ? [{ table: 'devices' as const, id }] : []));
      const code = fit ? (`platform_${fit}` as const) : 'no_computer';
      const isOpen = fit === 'unknown' || fit === 'unsaid';
      return [found(code, isOpen ? 'note' : 'risky', subjects, details, isOpen ? [] : moves)];
    },
  ),
);
