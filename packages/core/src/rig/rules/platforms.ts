import { finding, fixWith } from '../../findings/index.ts';
import { changeOf, isComputer, updateRow, type Show } from '../../show/index.ts';
import type { RigFacts } from '../facts.ts';
import { platformFit } from '../platform.ts';

/** Programs that run nowhere, or on a computer that cannot run them, with the computers of the rig that can (C39). */
export const platforms = (show: Show, facts: RigFacts) =>
  facts.all
    .filter(({ type }) => type.form === 'program')
    .flatMap(({ device, type }) => {
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
      const code = fit ? (`platform_${fit}` as const) : 'no_computer';
      const details = {
        name: device.name,
        computer: computer?.name ?? '',
        system: computer?.system ?? '',
        version: computer?.systemVersion ?? '',
        wanted: type.runsOn.map(({ system, lowest }) => `${system} ${lowest ?? ''}`.trim()),
      };
      const subjects = [device.id, computer?.id].flatMap((id) => (id ? [{ table: 'devices' as const, id }] : []));
      const grade = fit === 'unknown' ? 'note' : 'risky';
      return [finding('rig', code, grade, subjects, details, fit === 'unknown' ? [] : moves)];
    });
