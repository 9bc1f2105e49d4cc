import { nameList, each } from '../../findings/index.ts';
import { definitionsOf, type Show } from '../../show/index.ts';
import { cheapestSet } from '../cheapest-set.ts';
import type { RigFacts, Typed } from '../facts.ts';
import { rigRule } from '../rig-rule.ts';

const subject = ({ device }: Typed) => [{ table: 'devices' as const, id: device.id }];

/** More sources than a model takes, with the models that would do (need 1.10, C38). */
export const tooManySources = rigRule<{
  too_many_sources: {
    name: string;
    wanted: number;
    most: number;
    surplus: number;
    units: number;
    alternatives: string[];
    cheapest: string;
  };
}>(
  {
    too_many_sources: (f) => [
      `${f.name} takes ${f.most} sources; the plan has ${f.wanted}.`,
      `${f.surplus} ${f.surplus === 1 ? 'is' : 'are'} left over.`,
      (f.alternatives.length > 0
        ? `${nameList(f.alternatives)} would do, or ${f.units} of these.`
        : `Plan ${f.units} of these, or fewer sources.`) + (f.cheapest ? ` Cheapest beside it: ${f.cheapest}.` : ''),
    ],
  },
  each(
    (_show, { units }) => units,
    (found, item, show, facts) => {
      const { device, type } = item;
      const { sources: most } = type.most;
      if (device.sources === null || most === null || device.sources <= most) return [];
      const wanted = device.sources;
      const enough = [...definitionsOf(show).values()].filter(
        (other) => other.kind === type.kind && other.model !== type.model && (other.most.sources ?? 0) >= wanted,
      );
      return [
        found('too_many_sources', 'risky', subject(item), {
          name: device.name,
          wanted,
          most,
          surplus: wanted - most,
          units: most > 0 ? Math.ceil(wanted / most) : 0,
          alternatives: enough.map(({ name }) => name),
          cheapest: cheapestBeside(show, facts, item, wanted - most),
        }),
      ];
    },
  ),
);

/** What to add beside the one that is there: units of the rig with room to spare, then those with a price. */
function cheapestBeside(show: Show, facts: RigFacts, { device, type: { kind } }: Typed, surplus: number): string {
  const offers = [...definitionsOf(show).values()].flatMap((type) =>
    type.kind === kind && type.price !== null
      ? [{ name: type.name, sources: type.most.sources ?? 0, price: type.price }]
      : [],
  );
  const idle = facts.all.flatMap((other) => {
    const most = other.type.most.sources;
    if (other.device.id === device.id || other.type.kind !== kind || most === null) return [];
    // one that nobody said anything of is free if nothing leads to it and nothing from it
    const isIdle =
      other.device.sources === null && !facts.linksTo.has(other.device.id) && !facts.linksFrom.has(other.device.id);
    return other.device.sources === null && !isIdle
      ? []
      : [{ name: other.device.name, sources: most - (other.device.sources ?? 0) }];
  });
  const set = cheapestSet(surplus, offers, idle);
  if (!set) return '';
  const bought = set.counts.map(({ name, count }) => `${count} × ${name}`);
  const there = set.idle.map((name) => `${name}, which has room,`);
  const all = [...there, ...bought].join(' and ').replace(/,$/, '');
  return bought.length > 0 ? `${all}, ${set.cost} together` : all;
}

/** More controllers at once than a model lets drive it; one means that equal controllers are refused (C27). */
export const tooManyControllers = rigRule<{ too_many_controllers: { name: string; most: number; names: string[] } }>(
  {
    too_many_controllers: (f) => [
      `${nameList(f.names)} all control ${f.name}, which ${f.most === 1 ? 'obeys one at a time' : `takes ${f.most}`}.`,
      'The last one to connect wins, or is refused.',
      'Agree who controls it and take the other links out.',
    ],
  },
  each(
    (_show, { units }) => units,
    (found, item, show, facts) => {
      const most = item.type.most.controllers;
      const ids = new Set(facts.linksTo.get(item.device.id)?.map(({ controllerId }) => controllerId));
      if (most === null || ids.size <= most) return [];
      const names = [...ids].map((id) => show.devices[id]?.name ?? '');
      return [found('too_many_controllers', 'risky', subject(item), { name: item.device.name, most, names })];
    },
  ),
);
