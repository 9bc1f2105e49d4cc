import {
  changeOf,
  contentWith,
  insertRow,
  interfacesOf,
  planRemove,
  rowsOf,
  updateRow,
  type Change,
  type Content,
  type Device,
  type DeviceType,
  type Edit,
  type Show,
} from '../show/index.ts';

export interface DeviceIntent {
  readonly type: DeviceType;
  readonly name: string;
  readonly unit: number | null;
  readonly place: string;
  readonly mac: string | null;
  readonly firmware: string | null;
  readonly note?: string;
  /** Whatever else is known of it. */
  readonly more?: Partial<Content<'devices'>>;
}

/** A unit with everything its type brings: adapters and services as the factory leaves them. */
export function deviceEdits(intent: DeviceIntent, newId: () => string): Edit[] {
  const { type, name, unit, place, firmware } = intent;
  const device = contentWith('devices', {
    id: newId(),
    typeId: type.id,
    name,
    unit,
    place,
    firmware,
    note: intent.note ?? '',
    ...intent.more,
  });
  const interfaces = type.adapters.map(({ key }, at) =>
    insertRow('interfaces', { id: newId(), deviceId: device.id, adapter: key, mac: at === 0 ? intent.mac : null }),
  );
  const services = type.services.map(({ key, onByDefault, receivePort, sendPort }) =>
    insertRow(
      'services',
      contentWith('services', {
        id: newId(),
        deviceId: device.id,
        key,
        enabled: onByDefault,
        receivePort,
        sendPort,
        sendTo: null,
        account: null,
        secretId: null,
      }),
    ),
  );
  return [insertRow('devices', device), ...interfaces, ...services];
}

/**
 * Adds one unit. When the show has one network only, the unit's first adapter joins it, since there is nowhere else
 * to put it.
 */
export function planAddDevice(show: Show, intent: DeviceIntent, newId: () => string): Change {
  const edits = deviceEdits(intent, newId);
  return { label: `Add ${intent.name}`, edits: [...edits, ...joinOnlyNetwork(show, edits, newId)] };
}

function joinOnlyNetwork(show: Show, edits: readonly Edit[], newId: () => string): Edit[] {
  const [only, ...more] = rowsOf(show, 'networks');
  if (!only || more.length > 0) return [];
  return edits
    .filter((edit) => edit.table === 'devices')
    .flatMap((edit) => edits[edits.indexOf(edit) + 1] ?? [])
    .filter(({ table }) => table === 'interfaces')
    .map(({ id }) =>
      insertRow(
        'addresses',
        contentWith('addresses', {
          id: newId(),
          interfaceId: id,
          networkId: only.id,
          ip: null,
          prefix: null,
          gateway: null,
          held: false,
        }),
      ),
    );
}

export interface DevicePatch extends Partial<Omit<Content<'devices'>, 'id' | 'typeId'>> {
  readonly mac?: string | null;
}

export function planEditDevice(show: Show, device: Device, { mac, ...patch }: DevicePatch): Change | undefined {
  const [first] = interfacesOf(show, device.id);
  const macEdit = mac !== undefined && first ? [updateRow('interfaces', first, { mac })] : [];
  return changeOf(`Change ${device.name}`, [updateRow('devices', device, patch), ...macEdit]);
}

export function planRemoveDevices(show: Show, ids: readonly string[]): Change {
  const name = ids.length === 1 ? (show.devices[ids[0] ?? '']?.name ?? 'a unit') : `${ids.length} units`;
  return planRemove(show, 'devices', ids, `Remove ${name}`);
}
