import { each } from '../../findings/index.ts';
import type { Says } from '../../findings/index.ts';
import { addressingRule } from '../addressing-rule.ts';
import type { AddressingFacts, NetworkFacts, Planned } from '../facts.ts';
import { obstacleAt } from '../free-hosts.ts';
import { formatIp } from '../ipv4.ts';
import { moveFix, moveWords } from '../move-fix.ts';

type Spot = { ip: string; name: string; on: string; other: string };
type Finds = { on_gateway: Spot; in_pool: Spot; on_factory: Spot; not_granted: Spot; on_reserved: Spot };

const says: Says<Finds> = {
  on_gateway: (f, fixable) => [
    `${f.name} has ${f.ip}, the gateway of ${f.on}.`,
    'It clashes with the router as soon as one is plugged in.',
    moveWords(fixable),
  ],
  in_pool: (f, fixable) => [
    `${f.name} has the fixed address ${f.ip} inside the automatic pool of ${f.on}.`,
    'The server may hand the same address to another unit.',
    moveWords(fixable),
  ],
  on_factory: (f, fixable) => [
    `${f.name} has ${f.ip}, the factory address of ${f.other}.`,
    'A unit straight from its box, or after a reset, clashes with it.',
    moveWords(fixable),
  ],
  not_granted: (f, fixable) => [
    `${f.name} has ${f.ip}, outside what the house granted on ${f.on}.`,
    'It may belong to somebody else there.',
    f.other ? `${moveWords(fixable)} Or ask: ${f.other}.` : moveWords(fixable),
  ],
  on_reserved: (f, fixable) => [
    `${f.name} has ${f.ip}, in the range kept free for ${f.other}.`,
    'Sooner or later somebody else uses it.',
    moveWords(fixable),
  ],
};

/** Fixed addresses on spots that something else lays claim to: the gateway, the automatic pool, gear from its box. */
export const reservedSpot = addressingRule<Finds>(
  says,
  each(
    (_show, { byId }) => byId,
    (found, item, show, facts) => {
      const on = facts.byNetwork.get(item.network.id);
      const claim = on && claimOn(facts, on, item);
      if (!claim || item.ip === null) return [];
      const details = { ip: formatIp(item.ip), name: item.device.name, on: item.network.name, other: claim.other };
      const subjects = [{ table: 'addresses' as const, id: item.address.id }];
      return [found(claim.code, claim.grade, subjects, details, [moveFix(show, facts, item)])];
    },
  ),
);

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
