import { fixWith, groups } from '../../findings/index.ts';
import { groupBy, isCabled, planRemove } from '../../show/index.ts';
import { addressingRule } from '../addressing-rule.ts';

/** Two adapters of one unit on one network (C12): which of them a program uses is anybody's guess. */
export const twoAdapters = addressingRule<{ two_adapters: { name: string; on: string; count: number } }>(
  {
    two_adapters: (f) => [
      `${f.name} is on ${f.on} with ${f.count} adapters.`,
      'Its programs may send through either, and answers come back to the wrong one.',
      'Keep one of them there, or put the other on a network of its own.',
    ],
  },
  groups(
    (_show, { byDevice }) => byDevice,
    (found, own, show) =>
      [...groupBy(own, ({ network }) => network.id).values()].flatMap((here) => {
        const adapters = new Set(here.map((item) => item.interface.id));
        if (adapters.size < 2) return [];
        // the one that is plugged in stays
        const last = here.findLast((item) => !isCabled(show, item.interface)) ?? here.at(-1);
        if (!last) return [];
        const adapter =
          last.type.adapters.find(({ key }) => key === last.interface.adapter)?.label ?? last.interface.adapter;
        const others = here.filter((item) => item.interface.id === last.interface.id).map(({ address }) => address.id);
        const label = `Take ${adapter} of ${last.device.name} off ${last.network.name}`;
        const subjects = here.map(({ address }) => ({ table: 'addresses' as const, id: address.id }));
        const details = { name: last.device.name, on: last.network.name, count: adapters.size };
        return [
          found('two_adapters', 'risky', subjects, details, [
            fixWith(label, planRemove(show, 'addresses', others, label)),
          ]),
        ];
      }),
    2,
  ),
);
