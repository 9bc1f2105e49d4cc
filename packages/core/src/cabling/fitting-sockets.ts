import { socketsOf, typeOf, type Cable, type Device, type DeviceType, type Show } from '../show/index.ts';
import type { CablingFacts } from './segments.ts';

export interface SocketEnd {
  readonly deviceId: string;
  readonly socket: string;
}
type Medium = Cable['medium'];

const families = { rj45: 'network', sfp: 'network', radio: 'radio', usb: 'usb', sdi: 'sdi', hdmi: 'hdmi' } as const;
type Family = (typeof families)[keyof typeof families];

/** What a socket mates with: an access point takes cables and radio at any of its own. */
function familiesOf(show: Show, { deviceId, socket }: SocketEnd): readonly Family[] {
  const device = show.devices[deviceId];
  const type = typeOf(show, device);
  const own = type && socketsOf(type, device?.variant ?? null).find(({ key }) => key === socket);
  if (!type || !own) return [];
  const family = families[own.connector];
  return type.kind === 'access-point' && family === 'network' ? ['network', 'radio'] : [family];
}

/** Sockets of a unit without a cable that a cable from the other end fits into, in the order of the panel. */
export function fittingSockets(show: Show, facts: CablingFacts, from: SocketEnd, far: Device): readonly string[] {
  return facts.freeSockets(far.id).filter((socket) => mates(show, from, { deviceId: far.id, socket }));
}

/** Does what comes out of one socket go into the other one? */
export function mates(show: Show, one: SocketEnd, two: SocketEnd): boolean {
  const wanted = new Set(familiesOf(show, one));
  return familiesOf(show, two).some((family) => wanted.has(family));
}

/** What runs between two sockets: radio where both have one, fibre where both are for fibre, else copper. */
export function mediumBetween(show: Show, one: SocketEnd, two: SocketEnd): Medium {
  const shared = familiesOf(show, one).filter((family) => familiesOf(show, two).includes(family));
  if (shared.includes('radio') && !isWired(show, one) && !isWired(show, two)) return 'wireless';
  if (shared.includes('radio') && !shared.includes('network')) return 'wireless';
  const connectors = [one, two].map((end) => connectorOf(show, end));
  return connectors.every((connector) => connector === 'sfp') ? 'fibre' : 'copper';
}

const isWired = (show: Show, end: SocketEnd): boolean => connectorOf(show, end) !== 'radio';

function connectorOf(
  show: Show,
  { deviceId, socket }: SocketEnd,
): DeviceType['sockets'][number]['connector'] | undefined {
  const device = show.devices[deviceId];
  const type = typeOf(show, device);
  return type && socketsOf(type, device?.variant ?? null).find(({ key }) => key === socket)?.connector;
}
