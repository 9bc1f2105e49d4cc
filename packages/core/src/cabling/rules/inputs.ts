import { changeOf, updateRow, rowsBy } from '../../show/index.ts';
import { fixWith, nameList, type Finding, each } from '../../findings/index.ts';
import { cablingRule } from '../cabling-rule.ts';
import { inputsOf, switchersById } from '../picture-inputs.ts';

type Finds = {
  input_differs: { switcher: string; source: string; input: number; slot: number };
  input_doubled: { switcher: string; input: number; names: string[] };
};

/** The number of an input in the switcher and in what is tied to it (C64): they start each other by it. */
export const inputs = cablingRule<Finds>(
  {
    input_differs: (f) => [
      `${f.source} feeds input ${f.input} of ${f.switcher}, and is entered there as ${f.slot}.`,
      `Taking input ${f.input} on air does not start it; taking ${f.slot} does.`,
      `Enter ${f.input}, or feed input ${f.slot}.`,
    ],
    input_doubled: (f) => [
      `Input ${f.input} of ${f.switcher} is entered for ${nameList(f.names)}.`,
      'Taking it on air starts all of them.',
      'Give each the number of the input that it feeds.',
    ],
  },
  each(switchersById, (found, device, show) =>
    inputsOf(show, device).flatMap(({ switcher, source, number, links, state }): Finding[] => {
      if (!source) return [];
      const off = links.find(({ slot }) => slot !== number);
      const subjects = [
        { table: 'devices' as const, id: switcher.id },
        { table: 'devices' as const, id: source.id },
      ];
      if (state === 'mismatch' && off) {
        const label = `Enter ${source.name} as ${number}`;
        const change = changeOf(label, [updateRow('links', off, { slot: number })]);
        const details = { switcher: switcher.name, source: source.name, input: number, slot: off.slot ?? 0 };
        return [found('input_differs', 'risky', subjects, details, [fixWith(label, change)])];
      }
      if (state !== 'doubled') return [];
      const names = (rowsBy(show, 'links', 'controllerId').get(switcher.id) ?? [])
        .filter(({ slot }) => slot === number)
        .map(({ targetId }) => show.devices[targetId]?.name ?? '');
      return [found('input_doubled', 'risky', subjects, { switcher: switcher.name, input: number, names })];
    }),
  ),
);
