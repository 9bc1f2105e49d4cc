import { finding, fixWith } from '../../findings/index.ts';
import type { Show } from '../../show/index.ts';
import type { AddressingFacts } from '../facts.ts';
import { looseInterfaces } from '../plan-network.ts';
import type { Placement } from '../plan-placement.ts';

/** Addresses that nobody placed yet, one finding a network, with the placement as its fix. */
export const waiting = (_show: Show, facts: AddressingFacts, placement: (networkId: string) => Placement) =>
  facts.networks.flatMap((on) => {
    const open = on.planned.filter((item) => item.ip === null && item.address.method === 'static');
    if (open.length === 0) return [];
    const { change, noRoom } = placement(on.network.id);
    const left = open.filter((item) => noRoom.some(({ address }) => address.id === item.address.id));
    const subjects = [{ table: 'networks' as const, id: on.network.id }];
    const details = { on: on.network.name, count: open.length - left.length };
    const names = left.map(({ device }) => device.name);
    return [
      ...(left.length < open.length
        ? [finding('addressing', 'waiting', 'note', subjects, details, [fixWith('Place them', change)])]
        : []),
      ...(left.length > 0 ? [finding('addressing', 'no_room', 'risky', subjects, { on: on.network.name, names })] : []),
    ];
  });

/** Interfaces that are on no network at all. */
export function onNoNetwork(show: Show) {
  const loose = looseInterfaces(show);
  if (loose.length === 0) return [];
  const names = [...new Set(loose.map((row) => show.devices[row.deviceId]?.name ?? ''))];
  const subjects = loose.slice(0, 50).map((row) => ({ table: 'devices' as const, id: row.deviceId }));
  return [finding('addressing', 'on_no_network', 'note', subjects, { count: loose.length, names })];
}
