import { endWords, planRuns, type WrittenRun } from '../../cabling/index.ts';
import { applyChange, type Change, type Show } from '../../show/index.ts';
import { endsOf, type Ends, type LinkFacts } from '../ends.ts';
import { linkFacts, type Sounding } from '../forecast.ts';
import { addressingFacts } from '../../addressing/index.ts';
import { forecastAll } from '../forecast.ts';
import { lossesOf, type Loss } from '../losses.ts';
import { spotClasses, type Spot, type SpotClass } from './candidates.ts';
import { cutsOf, type Cut } from './cuts.ts';
import { fewestJoins, mendable, type Joined } from './search.ts';

/** What is to be prevented: that a single run stops a link which has to hold, or a single unit on its way. */
export type Against = 'run' | 'unit';

export interface NewRun {
  readonly from: Pick<Spot, 'device'> & { readonly socket: string };
  readonly to: Pick<Spot, 'device'> & { readonly socket: string };
}

/** A loss that stops a link which has to hold, and that no further run prevents. */
export interface NotPrevented {
  readonly kind: Loss['kind'];
  readonly id: string;
  /** Ids of the links that have to hold and stop. */
  readonly links: readonly string[];
  /** `no_socket`: units have none left where another run would have to go; `sockets_short`: another run would do, and its sockets are taken by those above; `no_tree`: spanning tree would cover no run that helps; `the_way`: something else than cables decides. */
  readonly why: 'no_socket' | 'sockets_short' | 'no_tree' | 'the_way';
  /** Ids of the units without a socket. */
  readonly short: readonly string[];
}

export interface FewestRuns {
  readonly runs: readonly NewRun[];
  readonly change: Change | undefined;
  readonly atLeast: number;
  readonly proven: boolean;
  /** How many losses stop a link that has to hold, before and with the runs. */
  readonly before: number;
  readonly notPrevented: readonly NotPrevented[];
}

/**
 * The fewest further runs, in sockets that are free, after which no single run (or unit on the way) stops a link that
 * has to hold (C45). Spanning tree covers each of them. What they prevent is worked out anew with them plugged in.
 */
export function planFewestRuns(
  show: Show,
  facts: LinkFacts,
  soundings: readonly Sounding[],
  against: Against,
): FewestRuns {
  const must = soundings.filter(({ link, stopsAt }) => link.mustHold && !stopsAt);
  const ends = must.flatMap(({ link }) => endsOf(show, facts, link) ?? []);
  const losses = lossesOf(show, facts, must).filter((loss) => loss.kind === against && !isAtEnd(ends, loss));
  const all = cutsOf(show, facts, losses, ends, against);
  const known = spotClasses(show, facts.cabling, all);
  const cuts = mendable(all, known);
  const classes = spotClasses(show, facts.cabling, cuts);
  const { joins, atLeast, proven } = fewestJoins(cuts, classes);
  const runs = placed(classes, joins);
  const change = changeWith(show, runs, against);
  const left = change ? lossesWith(show, change, must, against) : losses;
  const notPrevented = left
    .filter((loss) => !isAtEnd(ends, loss))
    .map((loss) =>
      whyNot(show, {
        loss,
        cut: all.find(({ id }) => id === loss.id),
        isMendable: cuts.some(({ id }) => id === loss.id),
        classes: known,
      }),
    );
  return { runs, change, atLeast, proven, before: losses.length, notPrevented };
}

/** The controller, the target and what they run on have to be on, whatever is cabled. */
const isAtEnd = (ends: readonly Ends[], { kind, id, stops }: Loss): boolean =>
  kind === 'unit' &&
  ends.every(({ link, from, to }) => !stops.includes(link.id) || from.machine?.id === id || to.machine?.id === id);

/** Takes the sockets of each class in turn, from the unit that has most left. */
function placed(classes: readonly SpotClass[], joins: readonly Joined[]): NewRun[] {
  const left = new Map(
    classes.flatMap(({ spots }) => spots.map((spot): [Spot, string[]] => [spot, [...spot.sockets]])),
  );
  const take = (at: number, other?: Spot): { spot: Spot; socket: string } | undefined => {
    const spots = (classes[at]?.spots ?? []).filter((spot) => spot !== other);
    const [spot] = [...spots].sort((a, b) => (left.get(b)?.length ?? 0) - (left.get(a)?.length ?? 0));
    // the last ones of a switch are where runs to other switches go
    const socket = spot && (spot.managed ? left.get(spot)?.pop() : left.get(spot)?.shift());
    return spot && socket !== undefined ? { spot, socket } : undefined;
  };
  return joins.flatMap(([i, j]): NewRun[] => {
    const one = take(i);
    const two = take(j, one?.spot);
    return one && two
      ? [{ from: { device: one.spot.device, socket: one.socket }, to: { device: two.spot.device, socket: two.socket } }]
      : [];
  });
}

function changeWith(show: Show, runs: readonly NewRun[], against: Against): Change | undefined {
  if (runs.length === 0) return undefined;
  const written = runs.map(({ from, to }, at): WrittenRun => ({
    ...{ line: at + 1, from: from.device.name, fromId: from.device.id, fromSocket: from.socket },
    ...{ to: to.device.name, toId: to.device.id, toSocket: to.socket, medium: '', length: '', stage: '' },
  }));
  const plan = planRuns(show, written);
  const [only] = runs;
  const what =
    runs.length === 1 && only
      ? `A second way: ${endWords(show, only.from.device.id, only.from.socket)} to ${endWords(show, only.to.device.id, only.to.socket)}`
      : `${runs.length} more runs, so that no single ${against === 'run' ? 'run' : 'unit'} stops what must hold`;
  return plan.ok && plan.change ? { ...plan.change, label: what.slice(0, 200) } : undefined;
}

function lossesWith(show: Show, change: Change, must: readonly Sounding[], against: Against): Loss[] {
  const applied = applyChange(show, change);
  if (!applied.ok) return [];
  const facts = linkFacts(applied.show, addressingFacts(applied.show), () => ({ change: undefined }));
  const ids = new Set(must.map(({ link }) => link.id));
  const soundings = forecastAll(applied.show, facts).filter(({ link }) => ids.has(link.id));
  return lossesOf(applied.show, facts, soundings).filter(({ kind }) => kind === against);
}

interface Left {
  readonly loss: Loss;
  readonly cut: Cut | undefined;
  readonly isMendable: boolean;
  readonly classes: readonly SpotClass[];
}

/** Which side of a cut has no socket left, or no managed switch. */
function whyNot(show: Show, { loss: { kind, id, stops }, cut, isMendable, classes }: Left): NotPrevented {
  const told = { kind, id, links: stops };
  if (!cut) return { ...told, why: 'the_way', short: [] };
  if (isMendable) return { ...told, why: 'sockets_short', short: [] };
  const nodesOf = (part: number) => [...cut.partOf].flatMap(([node, own]) => (own === part ? [node] : []));
  const hasRoom = (part: number) =>
    classes.some(({ spots }) => spots.some(({ node }) => cut.partOf.get(node) === part));
  const shut = [...new Set(cut.pairs.flat())].filter((part) => !hasRoom(part));
  if (shut.length === 0) return { ...told, why: 'no_tree', short: [] };
  const sides = shut.map(nodesOf).sort((a, b) => a.length - b.length);
  const short = [...new Set((sides[0] ?? []).map((node) => node.split('/')[0] ?? node))];
  return {
    ...told,
    why: 'no_socket',
    short: short.filter((deviceId) => show.devices[deviceId]),
  };
}
