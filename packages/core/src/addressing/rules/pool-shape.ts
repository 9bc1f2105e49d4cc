import { fixWith, each } from '../../findings/index.ts';
import { addressingRule } from '../addressing-rule.ts';
import type { NetworkFacts } from '../facts.ts';
import { planNetworkEdit } from '../plan-network.ts';

type Pool = { from: string; to: string };

/** A pool that reaches over the edge of its network or over a block: the server and the plan hand out the same address. */
export const poolShape = addressingRule<{
  pool_outside: Pool & { network: string };
  pool_over_block: Pool & { label: string };
  pool_reversed: Pool & { on: string };
}>(
  {
    pool_outside: (f) => [
      `The automatic pool ${f.from} to ${f.to} reaches over the edge of ${f.network}.`,
      'Servers refuse it or hand out addresses that reach nothing.',
      'Draw it inside the network.',
    ],
    pool_over_block: (f) => [
      `The block ${f.label} and the automatic pool ${f.from} to ${f.to} share addresses.`,
      'Placement leaves them to the server, so the block has less room than it seems.',
      'Move the pool or the block.',
    ],
    pool_reversed: (f) => [
      `The pool of ${f.on} goes from ${f.from} to ${f.to}: it ends before it starts.`,
      'A server refuses such a range, or hands out nothing.',
      'Turn it round.',
    ],
  },
  each(
    (_show, facts) => facts.on,
    (found, on) => {
      const { pool, network } = on;
      if (!pool) return [];
      const [from, to] = [network.poolFrom ?? '', network.poolTo ?? ''];
      // a range that ends before it starts holds nothing
      if (pool.from > pool.to)
        return [
          found('pool_reversed', 'risky', subject(on), { on: network.name, from, to }, [
            fixWith(`Hand out ${to} to ${from}`, planNetworkEdit(network, { poolFrom: to, poolTo: from })),
          ]),
        ];
      const isOutside = pool.from < on.first || pool.to > on.last;
      const over = on.blocks.filter(
        (span) => span.block.use === 'place' && span.from <= pool.to && span.to >= pool.from,
      );
      const edge = `${network.network}/${network.prefix}`;
      return [
        ...(isOutside ? [found('pool_outside', 'risky', subject(on), { from, to, network: edge })] : []),
        ...over.map(({ block }) =>
          found('pool_over_block', 'note', [{ table: 'blocks' as const, id: block.id }], {
            from,
            to,
            label: block.label,
          }),
        ),
      ];
    },
  ),
);

const subject = ({ network }: NetworkFacts) => [{ table: 'networks' as const, id: network.id }];
