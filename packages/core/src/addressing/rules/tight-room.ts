import { counted, type Said, each } from '../../findings/index.ts';
import { addressingRule } from '../addressing-rule.ts';
import type { AddressingFacts, NetworkFacts } from '../facts.ts';
import { blockFor } from '../free-hosts.ts';
import { sizeOfRanges, usableRanges } from '../free-ranges.ts';

type Room = { room: number; units: number; growth: number; short: number };

/** Too little room for what is planned and the growth that was asked for (C9), in a network. */
export const networkTight = addressingRule<{ network_tight: Room & { on: string } }>(
  { network_tight: (f) => said(f.on, f, 'Widen the network or ask for less growth.') },
  each(
    (_show, facts) => facts.on,
    (found, on, _show, { byIp }) => {
      const units = on.by('static').length;
      const there = on.gateway === null ? [] : (byIp.get(on.gateway) ?? []);
      const routers = there.filter(({ network }) => network.id === on.network.id).length;
      const tight = tightness(on, sizeOfRanges(usableRanges(on, { from: on.first, to: on.last })), units - routers);
      const subject = { table: 'networks' as const, id: on.network.id };
      return tight ? [found('network_tight', 'note', [subject], { ...tight, on: on.network.name })] : [];
    },
  ),
);

/** The same in a block. */
export const blockTight = addressingRule<{ block_tight: Room & { label: string } }>(
  { block_tight: (f) => said(`The block ${f.label}`, f, 'Widen the block.') },
  each(
    (_show, facts) => facts.on,
    (found, on, _show, facts) =>
      on.blocks.flatMap((span) => {
        if (span.block.use === 'keep_free') return [];
        const units = on.planned.filter(({ type }) => blockFor(on, type.kind)?.block.id === span.block.id).length;
        const tight = tightness(on, roomIn(facts, on, span), units);
        const subject = { table: 'blocks' as const, id: span.block.id };
        return tight ? [found('block_tight', 'note', [subject], { ...tight, label: span.block.label })] : [];
      }),
  ),
);

function roomIn(facts: AddressingFacts, on: NetworkFacts, { from, to }: { from: number; to: number }): number {
  const ranges = usableRanges(on, { from, to });
  let boxed = 0;
  for (const ip of facts.factory.keys()) if (ranges.some((range) => ip >= range.from && ip <= range.to)) boxed += 1;
  return sizeOfRanges(ranges) - boxed;
}

function tightness({ network }: NetworkFacts, room: number, units: number): Room | undefined {
  const wanted = Math.ceil((units * (100 + network.growth)) / 100);
  return units > 0 && wanted > room ? { room, units, growth: network.growth, short: wanted - room } : undefined;
}

const said = (where: string, f: Room, fix: string): Said => [
  `${where} has room for ${f.room}; with ${f.growth} % to grow it needs ${f.short} more.`,
  `${counted(f.units, 'unit is', 'units are')} planned there. One more case at the last minute finds no place.`,
  fix,
];
