import { runGraph } from '../cabling/index.ts';
import type { Show } from '../show/index.ts';
import { endsOf, type LinkFacts } from './ends.ts';
import type { Sounding } from './forecast.ts';
import { legsOf, nodeOf } from './legs.ts';

/** What a link that reaches the bottom passes on its ways there and back. */
export interface LinkWay {
  readonly linkId: string;
  readonly runs: readonly string[];
  /** Units at its ends and on its way. */
  readonly units: readonly string[];
}

/** The ways of all links that reach the bottom. */
export function linkWays(show: Show, facts: LinkFacts, soundings: Iterable<Sounding>): LinkWay[] {
  const { path } = runGraph(show, facts.cabling.domains());
  return [...soundings].flatMap(({ link, stopsAt }): LinkWay[] => {
    const ends = stopsAt ? undefined : endsOf(show, facts, link);
    if (!ends) return [];
    const [runs, units] = [new Set<string>(), new Set<string>()];
    for (const { machine } of [ends.from, ends.to]) if (machine) units.add(machine.id);
    for (const { from, to } of legsOf(facts, ends)) {
      const way = path(nodeOf(show, from), nodeOf(show, to));
      for (const id of way?.runs ?? []) runs.add(id);
      for (const node of way?.between ?? []) units.add(node.split('/')[0] ?? node);
    }
    return [{ linkId: link.id, runs: [...runs], units: [...units] }];
  });
}

/** What nothing goes over any more when some links stop: runs and units of which every link is among them. */
export function standstill(
  ways: readonly LinkWay[],
  stops: readonly string[],
): { readonly runs: ReadonlySet<string>; readonly units: ReadonlySet<string> } {
  const stopped = new Set(stops);
  const of = (idsOf: (way: LinkWay) => readonly string[]) => {
    const going = new Set(ways.flatMap((way) => (stopped.has(way.linkId) ? [] : idsOf(way))));
    return new Set(ways.flatMap((way) => (stopped.has(way.linkId) ? idsOf(way).filter((id) => !going.has(id)) : [])));
  };
  return { runs: of(({ runs }) => runs), units: of(({ units }) => units) };
}
