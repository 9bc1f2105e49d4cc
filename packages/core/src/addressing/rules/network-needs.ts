import { finding, fixWith, type Finding } from '../../findings/index.ts';
import { typeOf, type Show } from '../../show/index.ts';
import type { AddressingFacts, NetworkFacts } from '../facts.ts';
import { blockFor } from '../free-hosts.ts';
import { sizeOfRanges, usableRanges } from '../free-ranges.ts';
import { hostCount } from '../ipv4.ts';
import { planNetworkEdit } from '../plan-network.ts';

const about = ({ network }: NetworkFacts) => ({ on: network.name, network: `${network.network}/${network.prefix}` });
const subject = ({ network }: NetworkFacts) => [{ table: 'networks' as const, id: network.id }];

/** Something outside is needed and there is no way out, or a way out that nobody needs (C10). */
export const gatewayNeed = (_show: Show, facts: AddressingFacts) =>
  facts.networks.flatMap((on): Finding[] => {
    const { gateway, needsOutside, owner } = on.network;
    if (gateway === null && needsOutside)
      return [finding('addressing', 'gateway_missing', 'risky', subject(on), about(on))];
    // one outside the network is told by its own rule
    const isOutside = on.gateway !== null && (on.gateway < on.first || on.gateway > on.last);
    if (gateway === null || isOutside || needsOutside || owner === 'house' || isRouter(facts, on)) return [];
    return [
      finding('addressing', 'gateway_idle', 'note', subject(on), { ...about(on), ip: gateway }, [
        fixWith('Leave the gateway empty', planNetworkEdit(on.network, { gateway: null })),
        fixWith('It is needed', planNetworkEdit(on.network, { needsOutside: true })),
      ]),
    ];
  });

/** A router of the plan stands there: whoever put it in wants a way from this network to others. */
const isRouter = (facts: AddressingFacts, on: NetworkFacts): boolean =>
  (facts.byIp.get(on.gateway ?? -1) ?? []).some(({ type }) => type.kind === 'router');

/** The house's network without a range that it granted: whatever is taken there may be somebody's (need 2.2). */
export const grantMissing = (_show: Show, facts: AddressingFacts) =>
  facts.networks
    .filter((on) => on.network.owner === 'house' && on.granted.length === 0 && on.planned.length > 0)
    .map((on) =>
      finding('addressing', 'no_grant', 'risky', subject(on), { ...about(on), contact: on.network.contact }),
    );

/** Too little room for what is planned and the growth that was asked for (C9), by network and by block. */
export const tightRoom = (_show: Show, facts: AddressingFacts) =>
  facts.networks.flatMap((on): Finding[] => {
    const placed = on.planned.filter(({ address }) => address.method === 'static');
    const pool = on.pool ? on.pool.to - on.pool.from + 1 : 0;
    const room = hostCount(on.subnet) - pool - (on.gateway === null ? 0 : 1);
    const wanted = withGrowth(placed.length, on.network.growth);
    const tight = wanted > room && placed.length > 0;
    const whole = tight
      ? [
          finding('addressing', 'network_tight', 'note', subject(on), {
            ...about(on),
            room,
            units: placed.length,
            growth: on.network.growth,
            short: wanted - room,
          }),
        ]
      : [];
    return [...whole, ...tightBlocks(facts, on)];
  });

const withGrowth = (units: number, percent: number): number => Math.ceil((units * (100 + percent)) / 100);

function tightBlocks(facts: AddressingFacts, on: NetworkFacts) {
  return on.blocks.flatMap(({ block, from, to }) => {
    if (block.use === 'keep_free') return [];
    const units = on.planned.filter(({ type }) => blockFor(on, type.kind)?.block.id === block.id).length;
    const ranges = usableRanges(on, { from, to });
    const boxed = [...facts.factory.keys()].filter((ip) => ranges.some((range) => ip >= range.from && ip <= range.to));
    const room = sizeOfRanges(ranges) - boxed.length;
    const wanted = withGrowth(units, on.network.growth);
    if (units === 0 || wanted <= room) return [];
    const details = { ...about(on), label: block.label, room, units, growth: on.network.growth, short: wanted - room };
    return [finding('addressing', 'block_tight', 'note', [{ table: 'blocks' as const, id: block.id }], details)];
  });
}

/** A pool that reaches over the edge of its network or over a block: the server and the plan hand out the same address. */
export const poolShape = (_show: Show, facts: AddressingFacts) =>
  facts.networks.flatMap((on): Finding[] => {
    const { pool } = on;
    if (!pool) return [];
    if (pool.from > pool.to) return [poolReversed(on)];
    const outside = pool.from < on.first || pool.to > on.last;
    const over = on.blocks.filter(({ block, from, to }) => block.use === 'place' && from <= pool.to && to >= pool.from);
    const details = { ...about(on), from: on.network.poolFrom ?? '', to: on.network.poolTo ?? '' };
    return [
      ...(outside ? [finding('addressing', 'pool_outside', 'risky', subject(on), details)] : []),
      ...over.map(({ block }) =>
        finding('addressing', 'pool_over_block', 'note', [{ table: 'blocks' as const, id: block.id }], {
          ...details,
          label: block.label,
        }),
      ),
    ];
  });

/** A range that ends before it starts holds nothing. */
function poolReversed(on: NetworkFacts): Finding {
  const { poolFrom, poolTo } = on.network;
  return finding(
    'addressing',
    'pool_reversed',
    'risky',
    subject(on),
    { ...about(on), from: poolFrom ?? '', to: poolTo ?? '' },
    [fixWith(`Hand out ${poolTo} to ${poolFrom}`, planNetworkEdit(on.network, { poolFrom: poolTo, poolTo: poolFrom }))],
  );
}

/** Factory addresses of gear on this job inside a network: a unit straight from its box is inside it at once (C6). */
export const factoryInside = (show: Show, facts: AddressingFacts) =>
  facts.networks.flatMap((on) => {
    const inside = [...facts.factory].filter(([ip]) => ip >= on.first && ip <= on.last).map(([, device]) => device);
    if (inside.length === 0) return [];
    const ips = inside.map((device) => typeOf(show, device)?.factory.ip ?? '');
    const names = inside.map(({ name }) => name);
    return [finding('addressing', 'factory_inside', 'note', subject(on), { ...about(on), names, ips })];
  });
