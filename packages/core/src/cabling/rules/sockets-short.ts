import { counted, nameList } from '../../findings/index.ts';
import { rowsOf, typeOf, type DeviceType } from '../../show/index.ts';
import { cablingRule } from '../cabling-rule.ts';
import { takesCable } from '../plan-cables.ts';

type Short = { names: string[]; needed: number; free: number; short: number };

/**
 * Adapters with an address and no cable, against the free sockets of all switches, by kind of socket (C41): copper waits
 * for switches, radio for access points.
 */
export const socketsShort = cablingRule<{ sockets_short: Short; radio_short: Short }>(
  {
    sockets_short: (f) => [
      `${counted(f.needed, 'adapter waits', 'adapters wait')} for a cable and the switches have ${counted(f.free, 'free socket')}: ${nameList(f.names)}.`,
      `${counted(f.short, 'of them finds', 'of them find')} no socket.`,
      'Plan another switch, or a larger one.',
    ],
    radio_short: (f) => [
      `${counted(f.needed, 'adapter has', 'adapters have')} only a radio and the access points take ${f.free} more: ${nameList(f.names)}.`,
      `${counted(f.short, 'of them finds', 'of them find')} nobody to talk to.`,
      'Plan an access point.',
    ],
  },
  (found, show, cabling, { planned }) => {
    const hubs = rowsOf(show, 'devices').flatMap((device) => {
      const type = typeOf(show, device);
      return type?.forwards ? [{ device, type }] : [];
    });
    const waiting = [
      ...new Map(
        planned
          .filter(({ interface: row, type }) => !type.forwards && cabling.plugOf(row.id) === undefined)
          .map((item) => [item.interface.id, item]),
      ).values(),
    ];
    return (['copper', 'wireless'] as const).flatMap((medium) => {
      const loose = waiting.filter(({ interface: row, type }) => mediumOf(type, row.adapter) === medium);
      const free = hubs.reduce(
        (sum, { device, type }) =>
          sum + cabling.freeSockets(device.id).filter((key) => isFor(type, key, medium)).length,
        0,
      );
      // without any switch two of them are cabled straight to each other
      const direct = medium === 'copper' && hubs.length === 0 ? 2 : free;
      if (loose.length <= direct) return [];
      const subjects = loose.slice(0, 20).map(({ device }) => ({ table: 'devices' as const, id: device.id }));
      const names = [...new Set(loose.map(({ device }) => device.name))];
      const details = { names, needed: loose.length, free, short: loose.length - free };
      return [found(medium === 'copper' ? 'sockets_short' : 'radio_short', 'risky', subjects, details)];
    });
  },
);

/** A cable before a radio; undefined where an adapter has no socket for either. */
function mediumOf({ sockets }: DeviceType, adapter: string): 'copper' | 'wireless' | undefined {
  const own = sockets.filter((socket) => socket.adapter === adapter);
  if (own.some(({ connector }) => connector === 'rj45' || connector === 'sfp')) return 'copper';
  return own.some(({ connector }) => connector === 'radio') ? 'wireless' : undefined;
}

/** What an access point has is meant for radio, though a cable fits too. */
const isFor = (type: DeviceType, key: string, medium: 'copper' | 'wireless'): boolean =>
  medium === 'wireless'
    ? takesCable(type, key, 'wireless')
    : type.kind !== 'access-point' && takesCable(type, key, 'copper');
