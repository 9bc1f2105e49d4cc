import { finding } from '../../findings/index.ts';
import type { Show } from '../../show/index.ts';
import type { AddressingFacts, NetworkFacts, Planned } from '../facts.ts';
import { obstacleAt } from '../free-hosts.ts';
import { formatIp } from '../ipv4.ts';
import { moveFix } from '../move-fix.ts';

/** Fixed addresses on spots that something else lays claim to: the gateway, the automatic pool, gear from its box. */
export const reservedSpot = (show: Show, facts: AddressingFacts) =>
  facts.planned.flatMap((item) => {
    const on = facts.byNetwork.get(item.network.id);
    const claim = on && claimOn(facts, on, item);
    if (!claim || item.ip === null) return [];
    const details = { ip: formatIp(item.ip), name: item.device.name, on: item.network.name, other: claim.other };
    const subjects = [{ table: 'addresses' as const, id: item.address.id }];
    return [finding('addressing', claim.code, claim.grade, subjects, details, [moveFix(show, facts, item)])];
  });

function claimOn(facts: AddressingFacts, on: NetworkFacts, { ip, type, address }: Planned) {
  if (ip === null) return undefined;
  if (on.gateway === ip && type.kind !== 'router') return { code: 'on_gateway', grade: 'stops', other: '' } as const;
  const obstacle = obstacleAt(facts, on, ip);
  if (obstacle === 'not_granted') return { code: 'not_granted', grade: 'risky', other: on.network.contact } as const;
  if (obstacle === 'reserved') return { code: 'on_reserved', grade: 'risky', other: reservedFor(on, ip) } as const;
  if (obstacle === 'pool' && address.method !== 'dhcp') return { code: 'in_pool', grade: 'risky', other: '' } as const;
  const witness = facts.factory.get(ip);
  return witness && ({ code: 'on_factory', grade: 'risky', other: witness.name } as const);
}

const reservedFor = (on: NetworkFacts, ip: number): string =>
  on.blocks.find(({ block, from, to }) => block.use === 'keep_free' && ip >= from && ip <= to)?.block.label ?? '';
