import type { AddressingFacts, NetworkFacts } from './planned.ts';

export interface Range {
  readonly from: number;
  readonly to: number;
}

/**
 * The parts of a range in which somebody may stand: hosts of the network that were granted, off the gateway, the pool
 * and what is kept free. Ranges, not hosts: a /8 has sixteen million of those.
 */
export function usableRanges(on: NetworkFacts, { from, to }: Range): Range[] {
  const whole = { from: Math.max(from, on.first), to: Math.min(to, on.last) };
  const granted = on.granted.length > 0 ? on.granted : [whole];
  const obstacles = [
    ...(on.gateway === null ? [] : [{ from: on.gateway, to: on.gateway }]),
    ...(on.pool ? [on.pool] : []),
    ...on.reserved,
  ];
  const parts = granted.map((part) => ({ from: Math.max(part.from, whole.from), to: Math.min(part.to, whole.to) }));
  return obstacles.reduce(without, joined(parts));
}

/** Where gear may stand: its block, or everything outside all blocks and the pool. */
export function rangesFor(on: NetworkFacts, block: Range | undefined): Range[] {
  const outside: Range[] = [...on.blocks, ...(on.pool ? [on.pool] : [])];
  return block ? usableRanges(on, block) : outside.reduce(without, usableRanges(on, { from: on.first, to: on.last }));
}

/** Ascending, and nothing twice. */
function joined(parts: readonly Range[]): Range[] {
  const result: Range[] = [];
  for (const part of [...parts].filter(({ from, to }) => from <= to).sort((a, b) => a.from - b.from)) {
    const last = result.at(-1);
    if (last && part.from <= last.to + 1)
      result[result.length - 1] = { from: last.from, to: Math.max(last.to, part.to) };
    else result.push(part);
  }
  return result;
}

/** Ranges with one more cut out of them. */
export const without = (ranges: readonly Range[], { from, to }: Range): Range[] =>
  from > to
    ? [...ranges]
    : ranges.flatMap((range) =>
        [
          { from: range.from, to: Math.min(range.to, from - 1) },
          { from: Math.max(range.from, to + 1), to: range.to },
        ].filter((part) => part.from <= part.to),
      );

export const sizeOfRanges = (ranges: readonly Range[]): number =>
  ranges.reduce((sum, { from, to }) => sum + to - from + 1, 0);

/** Runs of free addresses: usable ranges without single spots that are taken or belong to gear from its box. */
export function freeRuns({ byIp, factory, gateways }: AddressingFacts, ranges: readonly Range[]): Range[] {
  const spots = [...new Set([...byIp.keys(), ...factory.keys(), ...gateways.keys()])].sort((a, b) => a - b);
  return ranges.flatMap((range) => {
    const runs: Range[] = [];
    let { from } = range;
    for (const spot of spots) {
      if (spot < from || spot > range.to) continue;
      if (spot > from) runs.push({ from, to: spot - 1 });
      from = spot + 1;
    }
    return from <= range.to ? [...runs, { from, to: range.to }] : runs;
  });
}

/** The lowest addresses of some ranges that pass a test: one of each `step`, from `offset`, as many as are wanted. */
export function lowestHosts(
  ranges: readonly Range[],
  count: number,
  fits: (ip: number) => boolean,
  { step, offset }: { readonly step: number; readonly offset: number } = { step: 1, offset: 0 },
): number[] {
  const found: number[] = [];
  for (const { from, to } of ranges) {
    const first = step === 1 ? from : from + ((((offset - from) % step) + step) % step);
    for (let ip = first; ip <= to && found.length < count; ip += step) if (fits(ip)) found.push(ip);
    if (found.length >= count) break;
  }
  return found;
}
