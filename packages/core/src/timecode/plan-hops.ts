import { planBareLink } from '../links/index.ts';
import { freeLinkId } from '../surfaces/index.ts';
import {
  changeOf,
  contentWith,
  insertRow,
  removeRow,
  serviceTypeOf,
  typeOf,
  updateRow,
  type Change,
  type Content,
  type Device,
  type RateKey,
  type Show,
  type TimeFormat,
  type TimeHop,
} from '../show/index.ts';

/** Formats that both ends of a hop know, the most convenient first; none where one of the two says nothing. */
export function sharedFormats(show: Show, fromId: string, toId: string): readonly TimeFormat[] {
  const gives = typeOf(show, show.devices[fromId])?.timecode?.gives ?? [];
  const takes = typeOf(show, show.devices[toId])?.timecode?.takes ?? [];
  return gives.filter((format) => takes.includes(format));
}

/** A new hop, or other values for one that is there. */
export function planHop(show: Show, hop: Partial<Content<'timeHops'>> & { readonly id: string }): Change | undefined {
  const there = show.timeHops[hop.id];
  if (there) {
    const { id: _, ...patch } = hop;
    return changeOf(`Time code to ${show.devices[there.toId]?.name ?? ''}`, [updateRow('timeHops', there, patch)]);
  }
  const { fromId, toId } = hop;
  if (fromId === undefined || toId === undefined) return undefined;
  const format = hop.format ?? sharedFormats(show, fromId, toId)[0] ?? 'network_midi';
  return changeOf(`Time code from ${show.devices[fromId]?.name ?? ''} to ${show.devices[toId]?.name ?? ''}`, [
    insertRow('timeHops', contentWith('timeHops', { ...hop, fromId, toId, format })),
  ]);
}

/** The rate that a unit makes or waits for; null is whatever comes. */
export const planRate = (device: Device, rate: RateKey | null): Change | undefined =>
  changeOf(`${device.name} at ${rate ?? 'any rate'}`, [updateRow('devices', device, { rate })]);

export const planRemoveHop = (show: Show, hop: TimeHop): Change | undefined =>
  changeOf(`No time code from ${show.devices[hop.fromId]?.name ?? ''} to ${show.devices[hop.toId]?.name ?? ''}`, [
    removeRow('timeHops', hop),
  ]);

/** Enters the session that carries a hop of network MIDI: at whichever end has something to enter it in. */
export function planSession(show: Show, { fromId, toId }: Pick<TimeHop, 'fromId' | 'toId'>): Change | undefined {
  for (const [controllerId, targetId] of [
    [fromId, toId],
    [toId, fromId],
  ] as const) {
    const serviceKey = midiServiceOf(show, targetId);
    const drives: readonly string[] = typeOf(show, show.devices[controllerId])?.drives ?? [];
    if (serviceKey === undefined || !drives.includes('midi')) continue;
    const id = freeLinkId(show, `${controllerId}-to-${targetId}`);
    const change = planBareLink(show, { id, controllerId, targetId, serviceKey, slot: null });
    if (change) return change;
  }
  return undefined;
}

/** The service of the receiver through which network MIDI gets in. */
export const midiServiceOf = (show: Show, deviceId: string): string | undefined => {
  const device = show.devices[deviceId];
  return typeOf(show, device)?.services.find(({ key }) => serviceTypeOf(show, device, key)?.protocol === 'midi')?.key;
};
