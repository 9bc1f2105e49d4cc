import { nameList, each } from '../../findings/index.ts';
import { rigRule } from '../rig-rule.ts';

/** Several controllers of one target without a rule that the crew agreed (need 8.21, C27). */
export const severalWriters = rigRule<{ several_writers: { name: string; names: string[] } }>(
  {
    several_writers: (f) => [
      `${nameList(f.names)} all control ${f.name}, and no rule for that is written down.`,
      'Whoever touches it last wins, and nobody sees who that was.',
      'Agree who may when, and write it down at the unit.',
    ],
  },
  each(
    (_show, { units }) => units,
    (found, { device, type }, show, facts) => {
      const ids = new Set(facts.linksTo.get(device.id)?.map(({ controllerId }) => controllerId));
      const most = type.most.controllers ?? Infinity;
      // more than it takes is told as such
      if (ids.size < 2 || ids.size > most || device.sharing !== '') return [];
      const names = [...ids].map((id) => show.devices[id]?.name ?? '');
      return [found('several_writers', 'note', [{ table: 'devices', id: device.id }], { name: device.name, names })];
    },
  ),
);
