import { addressing, show as core, type Show } from '@deep-patch/core';
import { shippedLibrary, typeLibrary } from '@deep-patch/demo';

/** A show with so many devices and twice as many links: remotes and cameras on a /16, on a tree of switches,
 * so that every link goes through all eight layers. */
export function crowd(devices: number): Show {
  const types = Object.fromEntries(typeLibrary.map((type) => [type.id, { ...type, rev: 1 }]));
  const hosts = Math.max(1, Math.round(devices / 10));
  const rows: Record<string, Record<string, object>> = {
    libraries: { [shippedLibrary.id]: { ...shippedLibrary, rev: 1 } },
    types,
    networks: {},
    devices: {},
    interfaces: {},
    addresses: {},
    services: {},
    cables: {},
    links: {},
  };
  const put = (table: core.TableName, row: { id: string }) =>
    ((rows[table] ??= {})[row.id] = { ...core.filledRow(table, row as never), rev: 1 });
  put('networks', {
    id: 'net',
    name: 'Net',
    network: '10.40.0.0',
    prefix: 16,
    vlan: null,
    purpose: '',
    gateway: null,
    poolFrom: null,
    poolTo: null,
  } as { id: string });
  for (let at = 0; at < devices; at += 1) {
    const id = `d${at}`;
    const typeId = at < hosts ? 'camera-remote' : 'pan-tilt-camera';
    put('devices', { id, typeId, name: `Unit ${at}`, unit: at, place: '', firmware: '2.0', note: '' } as {
      id: string;
    });
    put('interfaces', { id: `${id}-i`, deviceId: id, adapter: 'lan', mac: null } as { id: string });
    put('addresses', {
      id: `${id}-a`,
      interfaceId: `${id}-i`,
      networkId: 'net',
      ip: addressing.formatIp(addressing.mustIp('10.40.1.0') + at),
      prefix: null,
      gateway: null,
      held: false,
    } as { id: string });
    if (at >= hosts)
      put('services', {
        id: `${id}-s`,
        deviceId: id,
        key: 'web',
        enabled: true,
        receivePort: 80,
        sendPort: null,
        sendTo: null,
        account: 'ops',
        secretId: 's',
      } as { id: string });
  }
  const cable = (fromDevice: string, fromSocket: string, toDevice: string, toSocket: string) =>
    put('cables', {
      id: `c-${fromDevice}`,
      fromDevice,
      fromSocket,
      toDevice,
      toSocket,
      medium: 'copper',
      lengthM: 5,
      delayMs: null,
    } as { id: string });
  const switches = Math.ceil(devices / 12);
  for (let at = 0; at < switches; at += 1) {
    put('devices', {
      id: `s${at}`,
      typeId: 'managed-switch',
      name: `Switch ${at}`,
      unit: at,
      place: '',
      firmware: '4.2',
      note: '',
    } as { id: string });
    // eight switches below each: sockets 13 to 20, the way up in 24
    if (at > 0) cable(`s${at}`, 'p-24', `s${Math.floor((at - 1) / 8)}`, `p-${13 + ((at - 1) % 8)}`);
  }
  for (let at = 0; at < devices; at += 1) cable(`d${at}`, 'port-1', `s${Math.floor(at / 12)}`, `p-${1 + (at % 12)}`);
  for (let at = 0; at < devices * 2; at += 1)
    put('links', {
      id: `l${at}`,
      controllerId: `d${at % hosts}`,
      targetId: `d${hosts + (at % (devices - hosts))}`,
      serviceKey: 'web',
      slot: null,
      host: null,
      port: 80,
      replyPort: null,
      account: 'ops',
      secretId: 's',
      command: 'recall',
      args: [1],
    } as { id: string });
  return { ...core.emptyShow({ id: 'crowd', name: 'Crowd' }), rev: 1, ...rows };
}
