import { keyed, nameList, fixWith, type Finding, type Found } from '../../findings/index.ts';
import { changeOf, groupBy, rowsBy, rowsOf, updateRow, type Change, type Device, type Show } from '../../show/index.ts';
import { namesOf, subjectsOf, type RigFacts, type Typed } from '../facts.ts';
import { rigRule } from '../rig-rule.ts';

type Finds = {
  alike_differ: { names: string[]; field: string; values: string[]; usual: string; count: number; type: string };
  alike_pair: { names: string[]; field: string; values: string[]; type: string };
};

/**
 * Settings that should be equal among alike units and are not (C83): with three or more of a model, a value that one
 * or a few of them have against the rest; of two, any difference, told without saying which is odd. Names, units, slots
 * and addresses must differ and have rules of their own.
 */
export const alikeDiffer = rigRule<Finds>(
  {
    alike_differ: (f) => [
      `${nameList(f.names)}: ${f.field} is ${nameList(f.values)}, on ${f.count} others ${f.usual}.`,
      `Units of type ${f.type} usually have it alike, so this may be a slip.`,
      'Make it equal, or leave it if it is meant.',
    ],
    alike_pair: (f) => [
      `${nameList(f.names)} are of one type, and ${f.field} differs: ${nameList(f.values)}.`,
      `Units of type ${f.type} usually have it alike, so one of the two may be a slip.`,
      'Make them equal, or leave it if it is meant.',
    ],
  },
  (found, show, facts) => {
    const masks = masksOf(show);
    const services = rowsBy(show, 'services', 'deviceId');
    return [...facts.byModel.values()]
      .filter(([first, second]) => second && first?.type.kind !== 'computer')
      .flatMap((own) => [
        ...differing(found, own, 'firmware', ({ device }) => device.firmware ?? ''),
        ...compared(
          found,
          own.filter(({ device }) => masks.has(device.id)),
          'mask',
          ({ device }) => masks.get(device.id) ?? '',
        ),
        ...slotsOf(found, own, facts),
        ...compared(
          found,
          own,
          'variant',
          ({ device }) => device.variant ?? '',
          (device, value) =>
            changeOf(`Variant of ${device.name}`, [updateRow('devices', device, { variant: value || null })]),
        ),
        ...(own[0]?.type.services ?? []).flatMap(({ key, label }) => {
          const row = ({ device }: Typed) => services.get(device.id)?.find((service) => service.key === key);
          return [
            ...compared(found, apart(own), `${label}, port`, (item) => String(row(item)?.receivePort ?? '')),
            ...compared(found, own, `${label}, on or off`, (item) => (row(item)?.enabled ? 'on' : 'off')),
            ...compared(found, own, `${label}, account`, (item) => row(item)?.account ?? ''),
            ...compared(found, own, `${label}, login`, (item) => row(item)?.login ?? ''),
          ];
        }),
      ]);
  },
);

/** Programs on one computer need ports that differ. */
const apart = (own: readonly Typed[]): readonly Typed[] =>
  own.filter(
    ({ device }) =>
      device.runsOn === null ||
      !own.some((other) => other.device.id !== device.id && other.device.runsOn === device.runsOn),
  );

/** The length of each unit's mask in its first network; the network's own where none was keyed in. */
function masksOf(show: Show): Map<string, string> {
  const deviceOf = new Map(rowsOf(show, 'interfaces').map(({ id, deviceId }) => [id, deviceId]));
  return new Map(
    rowsOf(show, 'addresses')
      .toReversed()
      .map(({ interfaceId, networkId, prefix }) => [
        deviceOf.get(interfaceId) ?? '',
        `/${prefix ?? show.networks[networkId]?.prefix ?? ''}`,
      ]),
  );
}

/** Alike targets of one controller: each has a slot of its own, or none has one. */
function slotsOf(found: Found<Finds>, own: readonly Typed[], { linksTo }: RigFacts): Finding[] {
  const entries = own.flatMap((item) => (linksTo.get(item.device.id) ?? []).map((link) => ({ item, link })));
  return [...groupBy(entries, ({ link }) => link.controllerId).values()].flatMap((list) => {
    const hasSlot = new Map(list.map(({ item, link }) => [item, link.slot === null ? 'none' : 'given']));
    return compared(found, [...hasSlot.keys()], 'slot', (item) => hasSlot.get(item) ?? '');
  });
}

const together = (changes: readonly Change[]): Change | undefined =>
  changeOf(
    'As the others',
    changes.flatMap(({ edits }) => edits),
  );

type Mend = (device: Device, value: string) => ReturnType<typeof changeOf>;

/** Of two units nobody can tell which is odd; their versions have rules of their own. */
function pairDiffers(
  found: Found<Finds>,
  own: readonly Typed[],
  field: string,
  valueOf: (item: Typed) => string,
): Finding[] {
  const values = own.map(valueOf);
  if (own.length !== 2 || values[0] === values[1] || values.includes('')) return [];
  const about = { names: namesOf(own), field, values, type: own[0]?.type.name ?? '' };
  return [keyed(found('alike_pair', 'note', subjectsOf(own), about), about.type, field)];
}

/** A setting that is compared among many and between two. */
const compared = (
  found: Found<Finds>,
  own: readonly Typed[],
  field: string,
  valueOf: (item: Typed) => string,
  mend?: Mend,
): Finding[] => [...differing(found, own, field, valueOf, mend), ...pairDiffers(found, own, field, valueOf)];

function differing(
  found: Found<Finds>,
  own: readonly Typed[],
  field: string,
  valueOf: (item: Typed) => string,
  mend?: Mend,
): Finding[] {
  const values = own.map(valueOf);
  if (values.every((value) => value === values[0])) return [];
  const groups = [...groupBy(own, valueOf)].sort(([a, one], [b, two]) => two.length - one.length || (a < b ? -1 : 1));
  const [usual] = groups;
  // a clear majority is needed to call the others odd
  if (!usual || usual[1].length <= own.length / 2) return [];
  const odd = groups.slice(1).flatMap(([, items]) => items);
  const fixes = mend
    ? [
        fixWith(
          `As the others: ${nameList(namesOf(odd))}`,
          together(odd.flatMap((item) => mend(item.device, usual[0]) ?? [])),
        ),
      ]
    : [];
  const subjects = odd.map(({ device }) => ({ table: 'devices' as const, id: device.id }));
  const details = {
    names: namesOf(odd),
    field,
    values: [...new Set(odd.map(valueOf))].map((value) => value || 'nothing'),
    usual: usual[0] || 'nothing',
    count: usual[1].length,
    type: own[0]?.type.name ?? '',
  };
  return [keyed(found('alike_differ', 'note', subjects, details, fixes), details.type, field)];
}
