import { fixWith, type Finding } from '../../findings/index.ts';
import { changeOf, updateRow } from '../../show/index.ts';
import { addressingRule } from '../addressing-rule.ts';
import { formatIp, mustIp } from '../ipv4.ts';
import { planNetworkEdit } from '../plan-network.ts';

/** A gateway where somebody else may be, or where the unit itself is (C10). */
export const gatewaySpot = addressingRule<{
  gateway_in_pool: { on: string; ip: string; from: string; to: string };
  own_gateway: { name: string; ip: string };
}>(
  {
    gateway_in_pool: (f) => [
      `The gateway ${f.ip} of ${f.on} lies in its automatic pool, ${f.from} to ${f.to}.`,
      'The server may hand the address of the router to somebody else.',
      'Move the gateway or the pool.',
    ],
    own_gateway: (f) => [
      `${f.name} has its own address ${f.ip} as gateway.`,
      'It sends to itself whatever is meant for outside.',
      'Leave its gateway to the network.',
    ],
  },
  (found, _show, facts) => [
    ...facts.networks.flatMap((on): Finding[] => {
      const { gateway, pool, network } = on;
      if (gateway === null || !pool || gateway < pool.from || gateway > pool.to) return [];
      const details = {
        on: network.name,
        ip: network.gateway ?? '',
        from: network.poolFrom ?? '',
        to: network.poolTo ?? '',
      };
      const isFirst = gateway === pool.from;
      const isLast = gateway === pool.to;
      const change = isFirst
        ? planNetworkEdit(network, { poolFrom: nextTo(network.poolFrom, 1) })
        : isLast
          ? planNetworkEdit(network, { poolTo: nextTo(network.poolTo, -1) })
          : undefined;
      const fix = pool.from < pool.to ? [fixWith('Take it out of the pool', change)] : [];
      return [found('gateway_in_pool', 'risky', [{ table: 'networks' as const, id: network.id }], details, fix)];
    }),
    ...facts.planned.flatMap(({ address, device, ip }): Finding[] => {
      if (ip === null || address.gateway === null || mustIp(address.gateway) !== ip) return [];
      const change = changeOf(`Gateway of ${device.name}`, [updateRow('addresses', address, { gateway: null })]);
      const subjects = [{ table: 'addresses' as const, id: address.id }];
      return [
        found('own_gateway', 'risky', subjects, { name: device.name, ip: address.gateway }, [
          fixWith('Leave it to the network', change),
        ]),
      ];
    }),
  ],
);

const nextTo = (ip: string | null, step: number): string => formatIp(mustIp(ip ?? '0.0.0.0') + step);
