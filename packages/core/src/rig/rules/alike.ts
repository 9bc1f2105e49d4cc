import { keyed, nameList, fixWith, type Finding, type Found } from '../../findings/index.ts';
import { changeOf, groupBy, rowsBy, updateRow, type Change, type Device } from '../../show/index.ts';
import { namesOf, type Typed } from '../facts.ts';
import { rigRule } from '../rig-rule.ts';

type Finds = {
  alike_differ: { names: string[]; field: string; values: string[]; usual: string; count: number; type: string };
};

/**
 * Settings that should be equal among alike units and are not (C83): with three or more of a model, a value that one
 * or a few of them have against the rest. Names, units and addresses must differ and have rules of their own.
 */
export const alikeDiffer = rigRule<Finds>(
  {
    alike_differ: (f) => [
      `${nameList(f.names)}: ${f.field} is ${nameList(f.values)}, on ${f.count} others ${f.usual}.`,
      `Units of type ${f.type} usually have it alike, so this may be a slip.`,
      'Make it equal, or leave it if it is meant.',
    ],
  },
  (found, show, facts) => {
    const services = rowsBy(show, 'services', 'deviceId');
    return [...facts.byModel.values()]
      .filter(([first]) => first?.type.kind !== 'computer')
      .flatMap((own) => [
        ...differing(found, own, 'firmware', ({ device }) => device.firmware ?? ''),
        ...differing(
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
            ...differing(found, own, `${label}, port`, (item) => String(row(item)?.receivePort ?? '')),
            ...differing(found, own, `${label}, on or off`, (item) => (row(item)?.enabled ? 'on' : 'off')),
            ...differing(found, own, `${label}, account`, (item) => row(item)?.account ?? ''),
          ];
        }),
      ]);
  },
);

const together = (changes: readonly Change[]): Change | undefined =>
  changeOf(
    'As the others',
    changes.flatMap(({ edits }) => edits),
  );

type Mend = (device: Device, value: string) => ReturnType<typeof changeOf>;

function differing(
  found: Found<Finds>,
  own: readonly Typed[],
  field: string,
  valueOf: (item: Typed) => string,
  mend?: Mend,
): Finding[] {
  const groups = [...groupBy(own, valueOf)].sort(([a, one], [b, two]) => two.length - one.length || (a < b ? -1 : 1));
  const [usual] = groups;
  // a clear majority is needed to call the others odd
  if (!usual || groups.length < 2 || usual[1].length <= own.length / 2) return [];
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
