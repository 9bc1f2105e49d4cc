import { groupBy, rowsOf, type Link, type Show } from '../show/index.ts';
import type { Depth } from './depth.ts';

/** Links one behind the other: what each does sets the next one off (need 6.13). */
export interface HopChain {
  readonly id: string;
  readonly hops: readonly Link[];
}

/** A hop with what is known of it. */
export interface HopState {
  readonly link: Link;
  /** `proven`: sounded to the bottom; `stops`: it does not get there; `open`: nobody has sounded it as it is now. */
  readonly state: 'proven' | 'stops' | 'open';
}

const mostChains = 300;
const mostHops = 12;

/**
 * Every way from a controller that nobody drives to the last target (C88): a link whose target is the next one's
 * controller leads on by itself, any other where somebody said so. A circle ends where it would begin again.
 */
export function hopChains(show: Show): HopChain[] {
  const links = rowsOf(show, 'links');
  const said = groupBy(
    links.filter(({ after }) => after !== null && show.links[after]),
    ({ after }) => after ?? '',
  );
  const from = groupBy(
    links.filter(({ after }) => after === null || !show.links[after]),
    ({ controllerId }) => controllerId,
  );
  const nextOf = (link: Link): Link[] => [...(said.get(link.id) ?? []), ...(from.get(link.targetId) ?? [])];
  const led = new Set(links.flatMap((link) => nextOf(link).map(({ id }) => id)));
  const chains: HopChain[] = [];
  const walk = (hops: readonly Link[]): void => {
    const last = hops.at(-1);
    if (!last || chains.length >= mostChains) return;
    const next = nextOf(last).filter((link) => !hops.includes(link));
    if (next.length === 0 || hops.length === mostHops) {
      if (hops.length > 1) chains.push({ id: hops.map(({ id }) => id).join(' '), hops });
      return;
    }
    for (const link of next) walk([...hops, link]);
  };
  for (const link of links) if (!led.has(link.id)) walk([link]);
  // what is driven all the way round has no beginning: it is told from any
  const told = new Set(chains.flatMap(({ hops }) => hops));
  for (const link of links)
    if (!told.has(link) && nextOf(link).length > 0) {
      walk([link]);
      for (const hop of chains.at(-1)?.hops ?? []) told.add(hop);
    }
  return chains;
}

/** What is known of each hop, in its order. */
export const hopStates = ({ hops }: HopChain, depths: ReadonlyMap<string, Depth>): HopState[] =>
  hops.map((link) => {
    const depth = depths.get(link.id);
    const isSeen = depth?.measured === true && !depth.stale;
    if (isSeen && depth.stopsAt === undefined) return { link, state: 'proven' };
    return { link, state: depth?.stopsAt !== undefined ? 'stops' : 'open' };
  });

/** The first hop that is not proven: it is the next to test, whatever is known of those behind it. */
export const firstUnproven = (states: readonly HopState[]): HopState | undefined =>
  states.find(({ state }) => state !== 'proven');
