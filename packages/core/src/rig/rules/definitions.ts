import { fixWith, nameList, each } from '../../findings/index.ts';
import {
  changeOf,
  contentWith,
  definitionsOf,
  insertRow,
  removeRow,
  rowsBy,
  updateRow,
  type DeviceType,
  type Edit,
  type Show,
} from '../../show/index.ts';
import { compareVersions } from '../compare-versions.ts';
import { rigRule } from '../rig-rule.ts';

/** A newer definition that an older one hides, since its library stands further down (C36). */
export const newerHidden = rigRule<{
  newer_hidden: { type: string; version: string; newer: string; library: string; below: string };
}>(
  {
    newer_hidden: (f) => [
      `${f.type} ${f.version} in “${f.library}” hides the newer ${f.newer} in “${f.below}”.`,
      'The first library that has a type defines it, whatever the version says.',
      'Remove the older one, or keep it knowingly.',
    ],
  },
  each(
    (show) => rowsBy(show, 'types', 'id'),
    (found, hidden, show) => {
      const effective = definitionsOf(show);
      const devices = rowsBy(show, 'devices', 'typeId');
      const first = effective.get(hidden.model);
      if (!first || first.id === hidden.id || compareVersions(hidden.version, first.version) !== 1) return [];
      const retyped = (devices.get(first.id) ?? []).map((device) =>
        updateRow('devices', device, { typeId: hidden.id }),
      );
      const change = changeOf(`Use ${hidden.name} ${hidden.version}`, [...retyped, removeRow('types', first)]);
      const details = {
        type: first.name,
        version: first.version,
        newer: hidden.version,
        library: show.libraries[first.libraryId]?.name ?? '',
        below: show.libraries[hidden.libraryId]?.name ?? '',
      };
      const subject = { table: 'types' as const, id: hidden.id };
      return [found('newer_hidden', 'note', [subject], details, [fixWith('Remove the older one', change)])];
    },
  ),
);

/** Units whose adapters and services are not those of their type any more, since the definition changed. */
export const partsMoved = rigRule<{ parts_moved: { name: string; type: string; lacks: string[]; extra: string[] } }>(
  {
    parts_moved: (f) => [
      `${f.name} does not have the parts of its type ${f.type} any more.`,
      [
        f.lacks.length > 0 && `It lacks ${nameList(f.lacks)}.`,
        f.extra.length > 0 && `It still has ${nameList(f.extra)}.`,
      ]
        .filter(Boolean)
        .join(' '),
      'Take the parts of its type as they are now.',
    ],
  },
  each(
    (_show, { units }) => units,
    (found, { device, type }, show) => {
      const interfaces = rowsBy(show, 'interfaces', 'deviceId');
      const services = rowsBy(show, 'services', 'deviceId');
      const [its, does] = [interfaces.get(device.id) ?? [], services.get(device.id) ?? []];
      const isWhole =
        its.length === type.adapters.length &&
        does.length === type.services.length &&
        its.every(({ adapter }) => type.adapters.some(({ key }) => key === adapter)) &&
        does.every(({ key }) => type.services.some((service) => service.key === key));
      if (isWhole) return [];
      const own = {
        adapters: new Map(its.map((row) => [row.adapter, row.id])),
        services: new Map(does.map((row) => [row.key, row.id])),
      };
      const lacks = [...lacking(type.adapters, own.adapters), ...lacking(type.services, own.services)];
      const extra = [...surplus(type.adapters, own.adapters), ...surplus(type.services, own.services)];
      if (lacks.length + extra.length === 0) return [];
      const edits = [...missingRows(device.id, type, own), ...extra.flatMap(({ id }) => removalOf(show, id))];
      const details = { name: device.name, type: type.name, lacks, extra: extra.map(({ key }) => key) };
      const change = changeOf(`Give ${device.name} the parts of its type`, edits);
      const subject = { table: 'devices' as const, id: device.id };
      return [
        found('parts_moved', lacks.length > 0 ? 'risky' : 'note', [subject], details, [
          fixWith('Take the parts of its type', change),
        ]),
      ];
    },
  ),
);

/** Takes a service or an interface away, with its addresses. */
function removalOf(show: Show, id: string): Edit[] {
  const [service, its] = [show.services[id], show.interfaces[id]];
  return [
    ...(service ? [removeRow('services', service)] : []),
    ...(rowsBy(show, 'addresses', 'interfaceId').get(id) ?? []).map((row) => removeRow('addresses', row)),
    ...(its ? [removeRow('interfaces', its)] : []),
  ];
}

type Keyed = readonly { readonly key: string }[];
const lacking = (wanted: Keyed, own: ReadonlyMap<string, string>): string[] =>
  wanted.filter(({ key }) => !own.has(key)).map(({ key }) => key);
const surplus = (wanted: Keyed, own: ReadonlyMap<string, string>) =>
  [...own].filter(([key]) => !wanted.some((item) => item.key === key)).map(([key, id]) => ({ key, id }));

/** Ids follow from unit and part, so that the fix is the same at every analysis. */
function missingRows(
  deviceId: string,
  type: DeviceType,
  own: { adapters: ReadonlyMap<string, string>; services: ReadonlyMap<string, string> },
) {
  const idOf = (key: string) => `${deviceId}-${key}`.slice(0, 40).replace(/-$/, '');
  const adapters = type.adapters.filter(({ key }) => !own.adapters.has(key));
  const services = type.services.filter(({ key }) => !own.services.has(key));
  return [
    ...adapters.map(({ key }) => insertRow('interfaces', { id: idOf(`i-${key}`), deviceId, adapter: key, mac: null })),
    ...services.map(({ key, onByDefault, receivePort, sendPort }) =>
      insertRow(
        'services',
        contentWith('services', {
          id: idOf(`s-${key}`),
          deviceId,
          key,
          enabled: onByDefault,
          receivePort,
          sendPort,
          sendTo: null,
          account: null,
          secretId: null,
        }),
      ),
    ),
  ];
}
