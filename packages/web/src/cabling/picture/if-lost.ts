import { links } from '@deep-patch/core';

/** What losses take down, for the picture to show. */
export interface IfLost {
  readonly losses: readonly links.Loss[];
  readonly ways: readonly links.LinkWay[];
  /** What was chosen to go; a run that is pointed at comes before it. */
  readonly chosen: links.Lost | undefined;
  /** Where choosing a run leads, if not to its panel. */
  readonly onRun?: (runId: string) => void;
}

interface Gone {
  /** Runs that go themselves. */
  readonly lost: ReadonlySet<string>;
  /** Runs and units that nothing goes over any more. */
  readonly runs: ReadonlySet<string>;
  readonly units: ReadonlySet<string>;
}

const nothing: Gone = { lost: new Set(), runs: new Set(), units: new Set() };

/** What goes with a run that is pointed at, else with what was chosen. */
export function goneWith(known: IfLost | undefined, pointed: string | undefined): Gone {
  const lost: links.Lost | undefined = pointed === undefined ? known?.chosen : { kind: 'run', id: pointed };
  if (!known || !lost) return nothing;
  const stops = known.losses.find(({ kind, id }) => kind === lost.kind && id === lost.id)?.stops ?? [];
  const isChosen = known.chosen?.kind === 'run' && known.chosen.id === lost.id;
  // a run that is only pointed at and stops nothing is not crossed out
  const isOut = lost.kind === 'run' && (isChosen || stops.length > 0);
  return { lost: new Set(isOut ? [lost.id] : []), ...links.standstill(known.ways, stops) };
}
