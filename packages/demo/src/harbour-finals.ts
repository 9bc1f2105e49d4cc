import { show as core, type Show } from '@deep-patch/core';
import { addresses, blocks, cables, devices, licences, links, networks, passwords, services } from './harbour-rows.ts';
import { clips, inputRules, timeHops } from './harbour-on-air.ts';
import { walls } from './harbour-wall.ts';
import { assignments, banks, cues } from './harbour-surfaces.ts';
import { shippedLibrary, typeLibrary } from './type-library.ts';

/** Passwords of the demo by secret id; the server encrypts them when it loads the show. */
export const demoPasswords = passwords;

/** The demo: a two-day harbour sailing final. It contains a handful of honest planning mistakes. */
export function demoShow(id = 'harbour-finals'): Show {
  const tables = {
    libraries: [shippedLibrary],
    types: [...typeLibrary],
    licences,
    networks,
    blocks,
    devices,
    interfaces,
    addresses,
    cables,
    services: allServices(),
    links,
    assignments,
    banks,
    cues,
    inputRules,
    clips,
    timeHops,
    walls,
  };
  const rows = Object.entries(tables).map(([name, list]) => [
    name,
    Object.fromEntries(list.map((row) => [row.id, { ...row, rev: 1 }])),
  ]);
  return {
    ...core.emptyShow({ id, name: 'Harbour Finals', subtitle: 'Quay stage, day 2' }),
    rev: 1,
    ...Object.fromEntries(rows),
  } as Show;
}

const typeById = new Map(typeLibrary.map((type) => [type.id, type]));

/** Every device has the adapters of its type; the MAC addresses follow from its place in the list (02: locally administered). */
const interfaces: core.Content<'interfaces'>[] = devices.flatMap((device, at) =>
  (typeById.get(device.typeId)?.adapters ?? []).map((adapter, n) => ({
    id: `${device.id}-${adapter.key}`,
    deviceId: device.id,
    adapter: adapter.key,
    mac: `02:1e:70:0${n}:${hex(at >> 8)}:${hex((at * 37 + 11) & 255)}`,
  })),
);

function allServices(): core.Content<'services'>[] {
  return devices.flatMap((device) =>
    (typeById.get(device.typeId)?.services ?? []).map((type) =>
      core.filledRow('services', {
        id: `${device.id}-${type.key}`,
        deviceId: device.id,
        key: type.key,
        enabled: type.onByDefault,
        receivePort: type.receivePort,
        sendPort: type.sendPort,
        sendTo: type.sendPort === null ? null : '10.61.20.200',
        account: null,
        secretId: null,
        ...services[device.id],
      }),
    ),
  );
}

function hex(value: number): string {
  return value.toString(16).padStart(2, '0');
}
