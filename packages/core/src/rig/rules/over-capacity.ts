import { finding } from '../../findings/index.ts';
import { definitionsOf, type DeviceType, type Show } from '../../show/index.ts';
import { cheapestSet } from '../cheapest-set.ts';
import type { RigFacts, Typed } from '../facts.ts';

const subject = ({ device }: Typed) => [{ table: 'devices' as const, id: device.id }];

/** More sources than a model takes, with the models that would do (need 1.10, C38). */
export const tooManySources = (show: Show, facts: RigFacts) =>
  facts.all.flatMap((item) => {
    const { device, type } = item;
    const { sources: most } = type.most;
    if (device.sources === null || most === null || device.sources <= most) return [];
    const wanted = device.sources;
    const enough = [...definitionsOf(show).values()].filter(
      (other) => other.kind === type.kind && other.model !== type.model && (other.most.sources ?? 0) >= wanted,
    );
    const details = { name: device.name, type: type.name, wanted, most, surplus: wanted - most };
    return [
      finding('rig', 'too_many_sources', 'risky', subject(item), {
        ...details,
        units: most > 0 ? Math.ceil(wanted / most) : 0,
        alternatives: enough.map(({ name }) => name),
        cheapest: cheapestBeside(show, type, wanted - most),
      }),
    ];
  });

/** The cheapest units to add beside the one that is there, of those with a price: “2 × Caller box, 800 together”. */
function cheapestBeside(show: Show, { kind }: DeviceType, surplus: number): string {
  const offers = [...definitionsOf(show).values()].flatMap((type) =>
    type.kind === kind && type.price !== null
      ? [{ name: type.name, sources: type.most.sources ?? 0, price: type.price }]
      : [],
  );
  const set = cheapestSet(surplus, offers);
  return set ? `${set.counts.map(({ name, count }) => `${count} × ${name}`).join(' and ')}, ${set.cost} together` : '';
}

/** More controllers at once than a model lets drive it; one means that equal controllers are refused (C27). */
export const tooManyControllers = (show: Show, facts: RigFacts) =>
  facts.all.flatMap((item) => {
    const most = item.type.most.controllers;
    const ids = new Set(facts.linksTo.get(item.device.id)?.map(({ controllerId }) => controllerId));
    if (most === null || ids.size <= most) return [];
    const names = [...ids].map((id) => show.devices[id]?.name ?? '');
    return [finding('rig', 'too_many_controllers', 'risky', subject(item), { name: item.device.name, most, names })];
  });
