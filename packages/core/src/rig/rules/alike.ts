import { finding, fixWith, keyed, nameList } from '../../findings/index.ts';
import {
  changeOf,
  groupBy,
  rowsOf,
  updateRow,
  type Change,
  type Device,
  type Service,
  type Show,
} from '../../show/index.ts';
import { namesOf, type RigFacts, type Typed } from '../facts.ts';

/**
 * Settings that should be equal among alike units and are not (C83): with three or more of a model, a value that one
 * or a few of them have against the rest. Names, units and addresses must differ and have rules of their own.
 */
export function alikeDiffer(show: Show, facts: RigFacts) {
  const services = groupBy(rowsOf(show, 'services'), ({ deviceId, key }) => `${deviceId} ${key}`);
  return [...facts.byModel.values()]
    .filter((own) => own.length >= 3 && own[0]?.type.kind !== 'computer')
    .flatMap((own) => [
      ...differing(own, 'firmware', ({ device }) => device.firmware ?? '', undefined),
      ...differing(
        own,
        'variant',
        ({ device }) => device.variant ?? '',
        (device, value) =>
          changeOf(`Variant of ${device.name}`, [updateRow('devices', device, { variant: value || null })]),
      ),
      ...(own[0]?.type.services ?? []).flatMap(({ key, label }) => {
        const row = ({ device }: Typed): Service | undefined => services.get(`${device.id} ${key}`)?.[0];
        return [
          ...differing(own, `${label}, port`, (item) => String(row(item)?.receivePort ?? ''), undefined),
          ...differing(own, `${label}, on or off`, (item) => (row(item)?.enabled ? 'on' : 'off'), undefined),
          ...differing(own, `${label}, account`, (item) => row(item)?.account ?? '', undefined),
        ];
      }),
    ]);
}

const together = (changes: readonly Change[]): Change | undefined =>
  changeOf(
    'As the others',
    changes.flatMap(({ edits }) => edits),
  );

type Mend = (device: Device, value: string) => ReturnType<typeof changeOf>;

function differing(own: readonly Typed[], field: string, valueOf: (item: Typed) => string, mend: Mend | undefined) {
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
  return [keyed(finding('rig', 'alike_differ', 'note', subjects, details, fixes), details.type, field)];
}
