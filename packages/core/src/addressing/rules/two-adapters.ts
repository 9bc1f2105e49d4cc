import { finding, fixWith } from '../../findings/index.ts';
import { groupBy, isCabled, planRemove, type Show } from '../../show/index.ts';
import type { AddressingFacts } from '../facts.ts';

/** Two adapters of one unit on one network (C12): which of them a program uses is anybody's guess. */
export const twoAdapters = (show: Show, facts: AddressingFacts) =>
  [...facts.byDevice.values()].flatMap((own) =>
    [...groupBy(own, ({ network }) => network.id).values()].flatMap((here) => {
      const adapters = new Set(here.map((item) => item.interface.id));
      // the one that is plugged in stays
      const last = here.findLast((item) => !isCabled(show, item.interface)) ?? here.at(-1);
      if (adapters.size < 2 || !last) return [];
      const label =
        last.type.adapters.find(({ key }) => key === last.interface.adapter)?.label ?? last.interface.adapter;
      const others = here.filter((item) => item.interface.id === last.interface.id).map(({ address }) => address.id);
      const change = planRemove(
        show,
        'addresses',
        others,
        `Take ${label} of ${last.device.name} off ${last.network.name}`,
      );
      const subjects = here.map(({ address }) => ({ table: 'addresses' as const, id: address.id }));
      const details = { name: last.device.name, on: last.network.name, count: adapters.size };
      return [finding('addressing', 'two_adapters', 'risky', subjects, details, [fixWith(change.label, change)])];
    }),
  );
