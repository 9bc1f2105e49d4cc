import { counted, nameList } from '../../findings/index.ts';
import { rowsOf, typeOf, type DeviceType } from '../../show/index.ts';
import { cablingRule } from '../cabling-rule.ts';

/** Units with an address and no cable, against the free sockets of all switches (C41). */
export const socketsShort = cablingRule<{
  sockets_short: { names: string[]; needed: number; free: number; short: number };
}>(
  {
    sockets_short: (f) => [
      `${counted(f.needed, 'unit waits', 'units wait')} for a cable and the switches have ${counted(f.free, 'free socket')}: ${nameList(f.names)}.`,
      `${counted(f.short, 'of them finds', 'of them find')} no socket.`,
      'Plan another switch, or a larger one.',
    ],
  },
  (found, show, cabling, { planned }) => {
    const loose = planned.filter(
      ({ interface: row, type }) =>
        !type.forwards && cabling.plugOf(row.id) === undefined && isWired(type, row.adapter),
    );
    const hubs = rowsOf(show, 'devices').filter((device) => typeOf(show, device)?.forwards);
    const free = hubs.reduce((sum, { id }) => sum + cabling.freeSockets(id).length, 0);
    const names = [...new Set(loose.map(({ device }) => device.name))];
    if (hubs.length === 0 || names.length <= free) return [];
    const subjects = loose.slice(0, 20).map(({ device }) => ({ table: 'devices' as const, id: device.id }));
    const details = { names, needed: names.length, free, short: names.length - free };
    return [found('sockets_short', 'risky', subjects, details)];
  },
);

const isWired = (type: DeviceType, adapter: string): boolean =>
  type.sockets.some((socket) => socket.adapter === adapter && socket.connector !== 'radio');
