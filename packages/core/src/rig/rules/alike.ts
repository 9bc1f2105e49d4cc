import { differing, fixWith, keyed, nameList, type Finding, type Fix, type Found } from '../../findings/index.ts';
import {
  changeOf,
  indexBy,
  rowsBy,
  typeOf,
  updateRow,
  type Device,
  type DeviceType,
  type Show,
} from '../../show/index.ts';
import { unitsById, type Typed } from '../facts.ts';
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
  differing(
    (show) => compared(show),
    ({ value }) => value,
    (found, own, show) => [...oddOnes(found, own, show), ...pairDiffers(found, own, show)],
  ),
);

/** What one unit has in a field that is compared among those of its type. */
interface Value {
  readonly id: string;
  readonly field: string;
  readonly value: string;
  readonly type: string;
  /** Versions have rules of their own where there are two. */
  readonly inPairs: boolean;
}

/** Values by model and field, and for slots by the controller too. */
const compared = indexBy('devices', ({ id }, show): [string, Value][] => {
  const [item] = unitsById(show).get(id) ?? [];
  return item && item.type.kind !== 'computer' ? valuesOf(show, item) : [];
});

function valuesOf(show: Show, { device, type }: Typed): [string, Value][] {
  const { id } = device;
  const at = (field: string, value: string, also = '', inPairs = true): [string, Value] => [
    [type.model, field, also].join('\n'),
    { id, field, value, type: type.name, inPairs },
  ];
  const own = rowsBy(show, 'services', 'deviceId').get(id) ?? [];
  const mask = maskOf(show, id);
  return [
    at('firmware', device.firmware ?? '', '', false),
    ...(mask === undefined ? [] : [at('mask', mask)]),
    ...slotsOf(show, id).map(([controllerId, hasSlot]) => at('slot', hasSlot, controllerId)),
    at('variant', device.variant ?? ''),
    ...type.services.flatMap(({ key, label }) => {
      const row = own.find((service) => service.key === key);
      return [
        ...(isApart(show, device, type) ? [at(`${label}, port`, String(row?.receivePort ?? ''), key)] : []),
        at(`${label}, on or off`, row?.enabled ? 'on' : 'off', key),
        at(`${label}, account`, row?.account ?? '', key),
        at(`${label}, login`, row?.login ?? '', key),
      ];
    }),
  ];
}

/** Programs of one model by their computer. */
const besides = indexBy('devices', (device, show) => {
  const model = typeOf(show, device)?.model;
  return device.runsOn === null || model === undefined ? [] : [[`${model} ${device.runsOn}`, device.id]];
});

/** Programs on one computer need ports that differ. */
const isApart = (show: Show, { runsOn }: Device, { model }: DeviceType): boolean =>
  runsOn === null || besides(show).get(`${model} ${runsOn}`)?.length === 1;

/** Addresses by the unit that has them. */
const addressesOf = indexBy('addresses', (address, show) => {
  const deviceId = show.interfaces[address.interfaceId]?.deviceId;
  return deviceId === undefined ? [] : [[deviceId, address]];
});

/** The length of a unit's mask in its first network; the network's own where none was keyed in. */
function maskOf(show: Show, deviceId: string): string | undefined {
  const [first] = addressesOf(show).get(deviceId) ?? [];
  return first && `/${first.prefix ?? show.networks[first.networkId]?.prefix ?? ''}`;
}

/** Alike targets of one controller: each has a slot of its own, or none has one. The last link of each counts. */
const slotsOf = (show: Show, deviceId: string): [controllerId: string, hasSlot: string][] => [
  ...new Map(
    (rowsBy(show, 'links', 'targetId').get(deviceId) ?? []).map(({ controllerId, slot }) => [
      controllerId,
      slot === null ? 'none' : 'given',
    ]),
  ),
];

const nameOf = (show: Show, { id }: Value): string => show.devices[id]?.name ?? '';
const subjectsOf = (own: readonly Value[]) => own.map(({ id }) => ({ table: 'devices' as const, id }));

/** Of two units nobody can tell which is odd. */
function pairDiffers(found: Found<Finds>, own: readonly Value[], show: Show): Finding[] {
  const [first, second] = own;
  if (own.length !== 2 || !first?.inPairs || !second) return [];
  const values = own.map(({ value }) => value);
  if (values.includes('')) return [];
  const about = { names: own.map((one) => nameOf(show, one)), field: first.field, values, type: first.type };
  return [keyed(found('alike_pair', 'note', subjectsOf(own), about), about.type, first.field)];
}

function oddOnes(found: Found<Finds>, own: readonly Value[], show: Show): Finding[] {
  const [first] = own;
  if (!first) return [];
  const counts = new Map<string, number>();
  for (const { value } of own) counts.set(value, (counts.get(value) ?? 0) + 1);
  const inOrder = [...counts].sort(([a, one], [b, two]) => two - one || (a < b ? -1 : 1));
  const [usual] = inOrder;
  // a clear majority is needed to call the others odd
  if (!usual || usual[1] <= own.length / 2) return [];
  const others = own.filter(({ value }) => value !== usual[0]);
  const odd = inOrder.slice(1).flatMap(([value]) => others.filter((one) => one.value === value));
  const details = {
    names: odd.map((one) => nameOf(show, one)),
    field: first.field,
    values: [...new Set(odd.map(({ value }) => value))].map((value) => value || 'nothing'),
    usual: usual[0] || 'nothing',
    count: usual[1],
    type: first.type,
  };
  const fixes = first.field === 'variant' ? [asTheOthers(show, odd, usual[0])] : [];
  return [keyed(found('alike_differ', 'note', subjectsOf(odd), details, fixes), details.type, first.field)];
}

function asTheOthers(show: Show, odd: readonly Value[], variant: string): Fix | undefined {
  const edits = odd.flatMap(({ id }) => {
    const device = show.devices[id];
    return device ? [updateRow('devices', device, { variant: variant || null })] : [];
  });
  const names = nameList(odd.map((one) => nameOf(show, one)));
  return fixWith(`As the others: ${names}`, changeOf('As the others', edits));
}
