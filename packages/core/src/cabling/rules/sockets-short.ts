import { counted, nameList } from '../../findings/index.ts';
import { cablingRule } from '../cabling-rule.ts';

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
  (found, _show, _cabling, _addressing, members) =>
    (['copper', 'wireless'] as const).flatMap((joint) => {
      const [loose, free] = [members.waiting(joint), members.free(joint)];
      // without any switch two of them are cabled straight to each other
      const direct = joint === 'copper' && !members.hasHubs() ? 2 : free;
      if (loose.length <= direct) return [];
      const subjects = loose.slice(0, 20).map(({ device }) => ({ table: 'devices' as const, id: device.id }));
      const names = [...new Set(loose.map(({ device }) => device.name))];
      const details = { names, needed: loose.length, free, short: loose.length - free };
      return [found(joint === 'copper' ? 'sockets_short' : 'radio_short', 'risky', subjects, details)];
    }),
);
