import { rowsBy, rowsOf, socketOf, typeOf, type Cable, type DeviceType, type Show } from '../show/index.ts';
import type { RigFacts, Typed } from './facts.ts';

export interface AccessoryNeed {
  readonly item: Typed;
  readonly accessory: DeviceType['accessories'][number];
  readonly packed: boolean;
}

/** What each unit needs beside itself, for the way the show uses it (need 1.11). */
export function accessoryNeeds(show: Show, facts: RigFacts): AccessoryNeed[] {
  return facts.all.flatMap((item) => accessoriesOf(show, item));
}

/** The same of one unit. */
export const accessoriesOf = (show: Show, item: Typed): AccessoryNeed[] =>
  item.type.accessories
    .filter(({ need }) =>
      need === 'network' ? isNetworked(show, item.device.id) : need === 'always' || item.device.features.includes(need),
    )
    .map((accessory) => ({ item, accessory, packed: item.device.packed.includes(accessory.key) }));

/** Does the plan put a unit on a network, by an address or a cable? */
function isNetworked(show: Show, deviceId: string): boolean {
  const addresses = rowsBy(show, 'addresses', 'interfaceId');
  return (
    (rowsBy(show, 'interfaces', 'deviceId').get(deviceId) ?? []).some(({ id }) => addresses.has(id)) ||
    rowsBy(show, 'cables', 'fromDevice').has(deviceId) ||
    rowsBy(show, 'cables', 'toDevice').has(deviceId)
  );
}

export interface ConverterNeed {
  readonly cable: Cable;
  readonly from: string;
  readonly to: string;
  /** One at each end where neither fits the run between them. */
  readonly count: 1 | 2;
}

const carriedBy: Readonly<Record<Cable['medium'], ReadonlySet<string>>> = {
  copper: new Set(['rj45', 'usb', 'sdi', 'hdmi']),
  fibre: new Set(['sfp']),
  wireless: new Set(['radio']),
};

/**
 * Cables whose two ends do not mate (C40): another connector at each end, or one that the medium does not fit. A
 * switch socket takes a fibre module, so that fibre between two switches needs no converter.
 */
export const converterNeeds = (show: Show): ConverterNeed[] =>
  rowsOf(show, 'cables').flatMap((cable) => convertersAt(show, cable));

/** The same of one cable. */
export function convertersAt(show: Show, cable: Cable): ConverterNeed[] {
  const [from, to] = [
    plugOf(show, cable.fromDevice, cable.fromSocket, cable.medium),
    plugOf(show, cable.toDevice, cable.toSocket, cable.medium),
  ];
  if (!from || !to) return [];
  const unfit = [from, to].filter((connector) => !carriedBy[cable.medium].has(connector)).length;
  if (unfit === 0 && from === to) return [];
  return [{ cable, from, to, count: unfit === 2 ? 2 : 1 }];
}

function plugOf(show: Show, deviceId: string, key: string, medium: Cable['medium']): string | undefined {
  const device = show.devices[deviceId];
  const type = typeOf(show, device);
  const socket = type && socketOf(type, device?.variant ?? null, key);
  if (!type || !socket) return undefined;
  const adapts = type.forwards && socket.connector === 'rj45';
  if (adapts && medium === 'fibre' && type.managed) return 'sfp';
  return adapts && medium === 'wireless' && type.kind === 'access-point' ? 'radio' : socket.connector;
}
