import { fixWith, each } from '../../findings/index.ts';
import { changeOf, updateRow } from '../../show/index.ts';
import { addressingRule } from '../addressing-rule.ts';
import { formatIp, mustIp } from '../ipv4.ts';
import { planNetworkEdit } from '../plan-network.ts';

/** A gateway where somebody else may be (C10). */
export const gatewayInPool = addressingRule<{
  gateway_in_pool: { on: string; ip: string; from: string; to: string };
}>(
  {
    gateway_in_pool: (f) => [
      `The gateway ${f.ip} of ${f.on} lies in its automatic pool, ${f.from} to ${f.to}.`,
      'The server may hand the address of the router to somebody else.',
      'Move the gateway or the pool.',
    ],
  },
  each(
    (_show, facts) => facts.on,
    (found, on) => {
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
    },
  ),
);

/** A gateway where the unit itself is (C10). */
export const ownGateway = addressingRule<{ own_gateway: { name: string; ip: string } }>(
  {
    own_gateway: (f) => [
      `${f.name} has its own address ${f.ip} as gateway.`,
      'It sends to itself whatever is meant for outside.',
      'Leave its gateway to the network.',
    ],
  },
  each(
    (_show, { byId }) => byId,
    (found, { address, device, ip }) => {
      if (ip === null || address.gateway === null || mustIp(address.gateway) !== ip) return [];
      const change = changeOf(`Gateway of ${device.name}`, [updateRow('addresses', address, { gateway: null })]);
      const subjects = [{ table: 'addresses' as const, id: address.id }];
      const fix = fixWith('Leave it to the network', change);
      return [found('own_gateway', 'risky', subjects, { name: device.name, ip: address.gateway }, [fix])];
    },
  ),
);

const nextTo = (ip: string | null, step: number): string => formatIp(mustIp(ip ?? '0.0.0.0') + step);
