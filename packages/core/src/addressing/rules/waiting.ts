import { counted, fixWith, nameList, oneOr, each, groups } from '../../findings/index.ts';
import { addressingRule } from '../addressing-rule.ts';
import { loosePerUnit } from '../plan-network.ts';

/** Addresses that nobody placed yet, one finding a network, with the placement as its fix. */
export const waiting = addressingRule<{
  waiting: { on: string; count: number };
  no_room: { on: string; names: string[] };
}>(
  {
    waiting: (f) => [
      `${counted(f.count, 'interface')} on ${f.on} ${oneOr(f.count, 'waits', 'wait')} for an address.`,
      `Links to ${oneOr(f.count, 'it', 'them')} cannot be sounded yet.`,
      `Place ${oneOr(f.count, 'it by its unit number', 'them by their unit numbers')}.`,
    ],
    no_room: (f) => [
      `On ${f.on} there is no room for ${nameList(f.names)}.`,
      'Their block, or what the blocks leave free, has fewer places than units.',
      'Open the placement in Addresses: it shows what would make room.',
    ],
  },
  each(
    (_show, facts, _place) => facts.on,
    (found, on, _show, _facts, placement) => {
      const open = on.by('open');
      if (open.length === 0) return [];
      const { change, noRoom } = placement([on.network.id]);
      const left = open.filter((item) => noRoom.some(({ address }) => address.id === item.address.id));
      const subjects = [{ table: 'networks' as const, id: on.network.id }];
      const details = { on: on.network.name, count: open.length - left.length };
      const names = left.map(({ device }) => device.name);
      return [
        ...(left.length < open.length
          ? [found('waiting', 'note', subjects, details, [fixWith('Place them', change)])]
          : []),
        ...(left.length > 0 ? [found('no_room', 'risky', subjects, { on: on.network.name, names })] : []),
      ];
    },
  ),
);

/** Interfaces that are on no network at all. */
export const onNoNetwork = addressingRule<{ on_no_network: { count: number; names: string[] } }>(
  {
    on_no_network: (f) => [
      `${counted(f.count, 'unit is', 'units are')} on no network: ${nameList(f.names)}.`,
      oneOr(
        f.count,
        'It gets no address, and no link can reach it.',
        'They get no address, and no link can reach them.',
      ),
      `Choose a network for ${oneOr(f.count, 'it', 'them')} in Addresses.`,
    ],
  },
  groups(
    (show) => loosePerUnit(show),
    (found, loose, show) => {
      const names = [...new Set(loose.map((row) => show.devices[row.deviceId]?.name ?? ''))];
      const subjects = loose.slice(0, 50).map((row) => ({ table: 'devices' as const, id: row.deviceId }));
      return [found('on_no_network', 'note', subjects, { count: names.length, names })];
    },
  ),
);
