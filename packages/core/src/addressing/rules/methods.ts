import { finding, fixWith } from '../../findings/index.ts';
import { groupBy, type Show } from '../../show/index.ts';
import type { AddressingFacts } from '../facts.ts';
import { formatIp } from '../ipv4.ts';
import { planMethod } from '../plan-address.ts';

/** A second address on an adapter that gets its first one by itself: most systems allow only fixed ones there (C13). */
export const secondNeedsFixed = (show: Show, facts: AddressingFacts) =>
  [...groupBy(facts.planned, (item) => item.interface.id).values()].flatMap((own) => {
    const moving = own.filter(({ address }) => address.method !== 'static');
    if (own.length < 2 || moving.length === 0) return [];
    const [first] = own;
    const subjects = own.map(({ address }) => ({ table: 'addresses' as const, id: address.id }));
    const details = { name: first?.device.name ?? '', networks: own.map(({ network }) => network.name) };
    const fixes = moving.map((item) =>
      fixWith(`Fix its address on ${item.network.name}`, planMethod(show, item.address, 'static')),
    );
    return [finding('addressing', 'second_needs_fixed', 'risky', subjects, details, fixes)];
  });

/** DHCP on a network where nobody hands addresses out: the unit waits, then makes one up (need 2.8). */
export const noServer = (show: Show, facts: AddressingFacts) =>
  facts.networks.flatMap((on) => {
    if (on.pool) return [];
    const asking = on.planned.filter(({ address }) => address.method === 'dhcp');
    if (asking.length === 0) return [];
    const subjects = asking.map(({ address }) => ({ table: 'addresses' as const, id: address.id }));
    const names = asking.map(({ device }) => device.name);
    const fixes = asking
      .slice(0, 4)
      .map((item) => fixWith(`Fix the address of ${item.device.name}`, planMethod(show, item.address, 'static')));
    return [finding('addressing', 'no_server', 'risky', subjects, { on: on.network.name, names }, fixes)];
  });

/** Reservations of one address for two units, and more units that ask than the pool holds. */
export const poolTooSmall = (_show: Show, facts: AddressingFacts) =>
  facts.networks.flatMap((on) => {
    const asking = on.planned.filter(({ address, ip }) => address.method === 'dhcp' && ip === null).length;
    const size = on.pool ? on.pool.to - on.pool.from + 1 : 0;
    if (!on.pool || asking <= size) return [];
    const subject = [{ table: 'networks' as const, id: on.network.id }];
    const details = { on: on.network.name, asking, size, from: formatIp(on.pool.from), to: formatIp(on.pool.to) };
    return [finding('addressing', 'pool_small', 'risky', subject, details)];
  });
