import { fixWith, type Finding } from '../../findings/index.ts';
import { rowsOf, socketLabel, indexBy } from '../../show/index.ts';
import { cablingRule } from '../cabling-rule.ts';
import { endWords } from '../run-words.ts';
import { vlanTable } from '../vlan-table.ts';
import { planSocketAsPlanned } from '../vlan-grid.ts';

type Finds = {
  native_differs: { from: string; to: string; one: string; other: string };
  socket_other_vlan: { socket: string; far: string; has: string; wants: string };
};

const word = (vlan: number | null): string => (vlan === null ? 'nothing' : `VLAN ${vlan}`);

const setByHand = indexBy('devices', (device) => (device.socketVlans.length > 0 ? [[device.id, device]] : []));

/** Sockets of managed switches that were set by hand, and not as what hangs there needs it (C48). */
export const socketVlans = cablingRule<Finds>(
  {
    native_differs: (f) => [
      `Without a tag ${f.from} takes ${f.one} and ${f.to} at the other end takes ${f.other}.`,
      'What has no tag leaves one VLAN and arrives in the other.',
      'Set the same untagged VLAN at both ends.',
    ],
    socket_other_vlan: (f) => [
      `Without a tag ${f.socket} takes ${f.has}; ${f.far} behind it is planned on ${f.wants}.`,
      'It is a member of the wrong VLAN, and does not reach its own.',
      'Set the socket as planned, or plan the unit on the other network.',
    ],
  },
  (found, show, cabling, addressing) => {
    const { memberOf } = cabling.domains();
    const byHand = [...setByHand(show).values()].flat();
    if (byHand.length === 0) return [];
    const isSet = new Set(byHand.flatMap(({ id, socketVlans: set }) => set.map(({ socket }) => `${id} ${socket}`)));
    const wants = new Map(vlanTable(show, addressing).map((line) => [`${line.hub.id} ${line.socket}`, line]));
    return rowsOf(show, 'cables').flatMap((cable): Finding[] => {
      const ends = [
        { id: cable.fromDevice, socket: cable.fromSocket },
        { id: cable.toDevice, socket: cable.toSocket },
      ];
      if (!ends.some(({ id, socket }) => isSet.has(`${id} ${socket}`))) return [];
      const subjects = [{ table: 'cables' as const, id: cable.id }];
      const [a, b] = ends.map(({ id, socket }) => memberOf(id, socket));
      const [from = '', to = ''] = ends.map(({ id, socket }) => endWords(show, id, socket));
      if (a && b)
        return a.untagged !== b.untagged && a.untagged !== null && b.untagged !== null
          ? [found('native_differs', 'risky', subjects, { from, to, one: word(a.untagged), other: word(b.untagged) })]
          : [];
      return ends.flatMap(({ id, socket }) => {
        const hub = show.devices[id];
        const line = wants.get(`${id} ${socketLabel(show, id, socket)}`);
        const member = memberOf(id, socket);
        if (!hub || !line || !member || !isSet.has(`${id} ${socket}`) || line.mode !== 'access') return [];
        const [vlan = 1] = line.vlans;
        if (member.untagged === vlan) return [];
        const details = {
          socket: endWords(show, id, socket),
          far: line.far,
          has: word(member.untagged),
          wants: word(vlan),
        };
        const change = planSocketAsPlanned(hub, socket);
        return [found('socket_other_vlan', 'risky', subjects, details, [fixWith('Set it as planned', change)])];
      });
    });
  },
);
