import { counted, nameList, oneOr, each, groups } from '../../findings/index.ts';
import { addressingRule } from '../addressing-rule.ts';
import { contains, mustIp, subnetOf } from '../ipv4.ts';
import { fixAddresses } from '../move-fix.ts';

/** A second address on an adapter that gets its first one by itself: most systems allow only fixed ones there (C13). */
export const secondNeedsFixed = addressingRule<{
  second_needs_fixed: { name: string; count: number; networks: string[] };
}>(
  {
    second_needs_fixed: (f) => [
      `An adapter of ${f.name} has ${counted(f.count, 'address', 'addresses')} on ${nameList(f.networks)}, and not all are fixed.`,
      'Most systems allow a second address only beside a fixed one.',
      'Give it fixed ones only.',
    ],
  },
  groups(
    (_show, { byInterface }) => byInterface,
    (found, own, _show, facts) => {
      const moving = own.filter(({ address }) => address.method !== 'static');
      if (moving.length === 0) return [];
      const subjects = own.map(({ address }) => ({ table: 'addresses' as const, id: address.id }));
      const networksOf = (items: typeof own) => [...new Set(items.map(({ network }) => network.name))];
      const details = { name: own[0]?.device.name ?? '', count: own.length, networks: networksOf(own) };
      const label = `Fix its ${oneOr(moving.length, 'address', 'addresses')} on ${nameList(networksOf(moving))}`;
      return [found('second_needs_fixed', 'risky', subjects, details, [fixAddresses(facts, moving, label)])];
    },
    2,
  ),
);

/** DHCP on a network where nobody hands addresses out: the unit waits, then makes one up (need 2.8). */
export const noServer = addressingRule<{ no_server: { on: string; names: string[] } }>(
  {
    no_server: (f) => [
      `${nameList(f.names)} ${oneOr(f.names.length, 'waits', 'wait')} for an address from a server, and ${f.on} has none.`,
      'After a while a unit makes one up that nobody knows.',
      'Give fixed addresses there, or plan a pool.',
    ],
  },
  each(
    (_show, facts) => facts.on,
    (found, on, _show, facts) => {
      if (on.pool) return [];
      const asking = on.by('dhcp');
      if (asking.length === 0) return [];
      const subjects = asking.map(({ address }) => ({ table: 'addresses' as const, id: address.id }));
      const names = [...new Set(asking.map(({ device }) => device.name))];
      const label = `Fix the ${asking.length === 1 ? 'address' : 'addresses'} of ${nameList(names)}`;
      const fixes = [fixAddresses(facts, asking, label)];
      return [found('no_server', 'risky', subjects, { on: on.network.name, names }, fixes)];
    },
  ),
);

/** A pool of our own on a network in which no router of the plan stands: the range is written down, and nobody hands it out. */
export const poolUnserved = addressingRule<{ pool_unserved: { on: string; names: string[] } }>(
  {
    pool_unserved: ({ on, names }) => [
      `${on} has a pool, and no router of the plan stands there to hand it out.`,
      `${nameList(names)} ${oneOr(names.length, 'asks', 'ask')} in vain, and then ${oneOr(names.length, 'makes', 'make')} an address up.`,
      'Give a router an address on it, or fixed addresses to those who ask.',
    ],
  },
  each(
    (_show, facts) => facts.on,
    (found, on) => {
      const asking = on.by('dhcp');
      if (!on.pool || on.network.owner === 'house' || asking.length === 0) return [];
      const isServed = on.planned.some(
        ({ type, address, ip }) => type.kind === 'router' && address.method === 'static' && ip !== null,
      );
      if (isServed) return [];
      const subject = [{ table: 'networks' as const, id: on.network.id }];
      const names = [...new Set(asking.map(({ device }) => device.name))];
      return [found('pool_unserved', 'risky', subject, { on: on.network.name, names })];
    },
  ),
);

/** More units that ask than the pool holds. */
export const poolTooSmall = addressingRule<{ pool_small: { on: string; asking: number; size: number } }>(
  {
    pool_small: (f) => [
      `${counted(f.asking, 'unit asks', 'units ask')} the server of ${f.on}, which has ${counted(f.size, 'address', 'addresses')}.`,
      'The last ones get none.',
      'Widen the pool or give some a fixed address.',
    ],
  },
  each(
    (_show, facts) => facts.on,
    (found, on) => {
      const asking = on.by('dhcp').filter(({ ip }) => ip === null).length;
      const size = on.pool ? on.pool.to - on.pool.from + 1 : 0;
      if (!on.pool || asking <= size || size < 1) return [];
      const subject = [{ table: 'networks' as const, id: on.network.id }];
      return [found('pool_small', 'risky', subject, { on: on.network.name, asking, size })];
    },
  ),
);

/** Units that give themselves an address land in a range of their own (RFC 3927 section 2.1), whatever the network is called. */
export const selfOutside = addressingRule<{ self_outside: { on: string; network: string; names: string[] } }>(
  {
    self_outside: (f) => [
      `${nameList(f.names)} ${oneOr(f.names.length, 'gives itself an address', 'give themselves addresses')}, and ${f.on} is ${f.network}.`,
      'Addresses that units make up begin with 169.254: nobody on this network reaches them.',
      'Give fixed addresses there, or make 169.254.0.0/16 the network of what assigns itself.',
    ],
  },
  each(
    (_show, facts) => facts.on,
    (found, on, _show, facts) => {
      const alone = on.by('self');
      if (alone.length === 0 || contains(selfAssigned, on.subnet.network)) return [];
      const subjects = alone.map(({ address }) => ({ table: 'addresses' as const, id: address.id }));
      const names = [...new Set(alone.map(({ device }) => device.name))];
      const { network, prefix, name } = on.network;
      const label = `Fix the ${alone.length === 1 ? 'address' : 'addresses'} of ${nameList(names)}`;
      return [
        found('self_outside', 'risky', subjects, { on: name, network: `${network}/${prefix}`, names }, [
          fixAddresses(facts, alone, label),
        ]),
      ];
    },
  ),
);

const selfAssigned = subnetOf(mustIp('169.254.0.0'), 16);
