import { finding, fixWith } from '../../findings/index.ts';
import { changeOf, updateRow, type Show } from '../../show/index.ts';
import { accessoryNeeds, converterNeeds } from '../accessories.ts';
import { namesOf, subjectsOf, type RigFacts } from '../facts.ts';

/** Accessories that nobody packed; without one for the network the unit has no socket at all (C40). */
export const accessoriesMissing = (show: Show, facts: RigFacts) =>
  accessoryNeeds(show, facts)
    .filter(({ packed }) => !packed)
    .map(({ item: { device }, accessory: { key, label, need, count } }) => {
      const packedNow = changeOf(`Pack the ${label} of ${device.name}`, [
        updateRow('devices', device, { packed: [...device.packed, key] }),
      ]);
      const subject = { table: 'devices' as const, id: device.id };
      const details = { name: device.name, accessory: label, key, need, count };
      return finding('rig', 'accessory_missing', need === 'network' ? 'risky' : 'note', [subject], details, [
        fixWith('It is packed', packedNow),
      ]);
    });

/** Cables whose ends do not mate without a converter (C40). */
export const convertersNeeded = (show: Show) =>
  converterNeeds(show).map(({ cable, from, to }) => {
    const subjects = [cable.fromDevice, cable.toDevice].map((id) => ({ table: 'devices' as const, id }));
    const names = subjects.map(({ id }) => show.devices[id]?.name ?? '');
    return finding('rig', 'converter_needed', 'note', subjects, {
      names,
      from,
      to,
      medium: cable.medium,
      cable: cable.id,
    });
  });

/** Units that hold something which a reset erases, and of which no copy is known (need 1.14). One finding for all. */
export function copiesMissing(_show: Show, facts: RigFacts) {
  const open = facts.all.filter(({ device, type }) => type.erases.length > 0 && device.savedOn === null);
  return open.length === 0
    ? []
    : [finding('rig', 'no_copy', 'note', subjectsOf(open.slice(0, 50)), { names: namesOf(open), count: open.length })];
}

/** Units with an account that the whole trade knows. One finding for all. */
export function knownLogins(_show: Show, facts: RigFacts) {
  const open = facts.all.filter(({ type }) => type.factory.login === 'preset');
  return open.length === 0
    ? []
    : [
        finding('rig', 'known_login', 'note', subjectsOf(open.slice(0, 50)), {
          names: namesOf(open),
          count: open.length,
        }),
      ];
}
