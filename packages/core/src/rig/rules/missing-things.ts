import { isCopyGood } from '../copy-age.ts';
import { fixWith, keyed, nameList, each, groups } from '../../findings/index.ts';
import { changeOf, indexBy, rowsBy, typeOf, updateRow, type Device, type DeviceType } from '../../show/index.ts';
import { accessoriesOf, convertersAt } from '../accessories.ts';
import { rigRule } from '../rig-rule.ts';

/** Accessories that nobody packed; without one for the network the unit has no socket at all (C40). */
export const accessoriesMissing = rigRule<{
  accessory_missing: { name: string; accessory: string; need: string; count: number };
}>(
  {
    accessory_missing: (f) => [
      `${f.name} needs ${f.count > 1 ? `${f.count} × ` : ''}${f.accessory}.`,
      f.need === 'network' ? 'Without it the unit has no network socket.' : 'Nobody ticked it as packed.',
      'Pack it, then say so.',
    ],
  },
  each(
    (_show, { units }) => units,
    (found, item, show) =>
      accessoriesOf(show, item)
        .filter(({ packed }) => !packed)
        .map(({ item: { device }, accessory: { key, label, need, count } }) => {
          const packedNow = changeOf(`Pack the ${label} of ${device.name}`, [
            updateRow('devices', device, { packed: [...device.packed, key] }),
          ]);
          const subject = { table: 'devices' as const, id: device.id };
          const details = { name: device.name, accessory: label, key, need, count };
          return found('accessory_missing', need === 'network' ? 'risky' : 'note', [subject], details, [
            fixWith('It is packed', packedNow),
          ]);
        }),
  ),
);

/** Cables whose ends do not mate without a converter (C40). */
export const convertersNeeded = rigRule<{
  converter_needed: { names: string[]; from: string; to: string; medium: string };
}>(
  {
    converter_needed: (f) => [
      `The cable ${f.names[0] === f.names[1] ? `at ${f.names[0]}` : `between ${nameList(f.names)}`} goes from ${f.from} to ${f.to} over ${f.medium}.`,
      'The ends do not mate.',
      'Pack a converter, or use other sockets.',
    ],
  },
  each(
    (show) => rowsBy(show, 'cables', 'id'),
    (found, row, show) =>
      convertersAt(show, row).map(({ cable, from, to }) => {
        const subjects = [cable.fromDevice, cable.toDevice].map((id) => ({ table: 'devices' as const, id }));
        const names = subjects.map(({ id }) => show.devices[id]?.name ?? '');
        return found('converter_needed', 'note', subjects, { names, from, to, medium: cable.medium });
      }),
  ),
);

type Said = Pick<Device, 'id' | 'name' | 'savedOn'>;

/** Units of certain types with what is said of them: whatever else is written of one changes nothing here. */
const saidOf = <Item>(test: (type: DeviceType, device: Device) => boolean, itemOf: (device: Device) => Item) =>
  indexBy('devices', (device, show): [string, Item][] => {
    const type = typeOf(show, device);
    return type && test(type, device) ? [['all', itemOf(device)]] : [];
  });
const idOf = ({ id }: Device) => id;
const nameOf = ({ name }: Device) => name;
const erases = (type: DeviceType): boolean => type.erases.length > 0;
const isUnsaved = (type: DeviceType, { savedOn }: Device): boolean => erases(type) && savedOn === null;
const isPreset = ({ factory }: DeviceType): boolean => factory.login === 'preset';
const erasable = saidOf(erases, () => true);
const [unsaved, unsavedNames] = [saidOf(isUnsaved, idOf), saidOf(isUnsaved, nameOf)];
const saved = saidOf(
  (type, { savedOn }) => erases(type) && savedOn !== null,
  ({ id, name, savedOn }): Said => ({ id, name, savedOn }),
);
const [preset, presetNames] = [saidOf(isPreset, idOf), saidOf(isPreset, nameOf)];

const firstOf = (ids: readonly string[]) => ids.slice(0, 50).map((id) => ({ table: 'devices' as const, id }));

type Several = { names: readonly string[]; count: number };

/** Units that hold something which a reset erases, and of which no copy is known (need 1.14). One finding for all. */
export const copiesMissing = rigRule<{ no_copy: Several }>(
  {
    no_copy: (f) => [
      `${f.count} ${f.count === 1 ? 'unit holds' : 'units hold'} settings of which no fresh copy is known: ${nameList(f.names)}.`,
      'A reset or a wrong synchronisation erases them.',
      'Save a copy away from the unit and write the day down on its page.',
    ],
  },
  groups(
    (show, _facts) => erasable(show),
    (found, _units, show, facts) => {
      const old = (saved(show).get('all') ?? []).filter(({ savedOn }) => !isCopyGood(savedOn, facts.now));
      const [never, named] = [unsaved(show).get('all') ?? [], unsavedNames(show).get('all') ?? []];
      const names = old.length === 0 ? named : [...named, ...old.map(({ name }) => name)];
      const ids = [...never.slice(0, 50), ...old.map(({ id }) => id)];
      const details = { names, count: names.length };
      return names.length === 0 ? [] : [keyed(found('no_copy', 'note', firstOf(ids), details), 'all')];
    },
  ),
);

/** Units with an account that the whole trade knows. One finding for all. */
export const knownLogins = rigRule<{ known_login: Several }>(
  {
    known_login: (f) => [
      `${nameList(f.names)} ${f.count === 1 ? 'comes' : 'come'} with a password that the whole trade knows.`,
      'Anybody on the network can change its settings.',
      'Set another one before guests are on the network.',
    ],
  },
  groups(
    (show) => preset(show),
    (found, open, show) => {
      const details = { names: presetNames(show).get('all') ?? [], count: open.length };
      return [keyed(found('known_login', 'note', firstOf(open), details), 'all')];
    },
  ),
);
