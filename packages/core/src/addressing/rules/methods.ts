import { finding, nameList } from '../../findings/index.ts';
import { groupBy, type Show } from '../../show/index.ts';
import type { AddressingFacts } from '../facts.ts';
import { formatIp } from '../ipv4.ts';
import { fixAddresses } from '../move-fix.ts';

/** A second address on an adapter that gets its first one by itself: most systems allow only fixed ones there (C13). */
export const secondNeedsFixed = (_show: Show, facts: AddressingFacts) =>
  [...groupBy(facts.planned, (item) => item.interface.id).values()].flatMap((own) => {
    const moving = own.filter(({ address }) => address.method !== 'static');
    if (own.length < 2 || moving.length === 0) return [];
    const [first] = own;
    const subjects = own.map(({ address }) => ({ table: 'addresses' as const, id: address.id }));
    const details = { name: first?.device.name ?? '', networks: own.map(({ network }) => network.name) };
    const label = `Fix its ${moving.length === 1 ? 'address' : 'addresses'} on ${nameList(moving.map(({ network }) => network.name))}`;
    const fixes = [fixAddresses(facts, moving, label)];
    return [finding('addressing', 'second_needs_fixed', 'risky', subjects, details, fixes)];
  });

/** DHCP on a network where nobody hands addresses out: the unit waits, then makes one up (need 2.8). */
export const noServer = (_show: Show, facts: AddressingFacts) =>
  facts.networks.flatMap((on) => {
    if (on.pool) return [];
    const asking = on.planned.filter(({ address }) => address.method === 'dhcp');
    if (asking.length === 0) return [];
    const subjects = asking.map(({ address }) => ({ table: 'addresses' as const, id: address.id }));
    const names = [...new Set(asking.map(({ device }) => device.name))];
    const label = `Fix the ${asking.length === 1 ? 'address' : 'addresses'} of ${nameList(names)}`;
    const fixes = [fixAddresses(facts, asking, label)];
    return [finding('addressing', 'no_server', 'risky', subjects, { on: on.network.name, names }, fixes)];
  });

/** A pool of our own on a network in which no router of the plan stands: the range is written down, and nobody hands it out. */
export const poolUnserved = (_show: Show, facts: AddressingFacts) =>
  facts.networks.flatMap((on) => {
    const asking = on.planned.filter(({ address }) => address.method === 'dhcp');
    const isServed = on.planned.some(
      ({ type, address, ip }) => type.kind === 'router' && address.method === 'static' && ip !== null,
    );
    if (!on.pool || on.network.owner === 'house' || asking.length === 0 || isServed) return [];
    const subject = [{ table: 'networks' as const, id: on.network.id }];
    const names = [...new Set(asking.map(({ device }) => device.name))];
    return [finding('addressing', 'pool_unserved', 'risky', subject, { on: on.network.name, names })];
  });

/** More units that ask than the pool holds. */
export const poolTooSmall = (_show: Show, facts: AddressingFacts) =>
  facts.networks.flatMap((on) => {
    const asking = on.planned.filter(({ address, ip }) => address.method === 'dhcp' && ip === null).length;
    const size = on.pool ? on.pool.to - on.pool.from + 1 : 0;
    if (!on.pool || asking <= size || size < 1) return [];
    const subject = [{ table: 'networks' as const, id: on.network.id }];
    const details = { on: on.network.name, asking, size, from: formatIp(on.pool.from), to: formatIp(on.pool.to) };
    return [finding('addressing', 'pool_small', 'risky', subject, details)];
  });
