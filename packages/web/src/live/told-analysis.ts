import { withAnalysisParts, type Analysis, type AnalysisParts, type Show } from '@deep-patch/core';
import { dataDifference, withDataDifference, type DataDifference } from './data-difference.ts';

/** What makes one analysis of the one that was told before. */
export interface ToldAnalysis {
  readonly showId: string;
  readonly rev: number;
  readonly at: number;
  readonly findings: DataDifference;
  readonly found: DataDifference;
  readonly soundings: MapDifference;
  readonly depths: MapDifference;
}

interface MapDifference {
  readonly changed: readonly (readonly [string, unknown])[];
  readonly gone: readonly string[];
}

const nothing: AnalysisParts = {
  showId: '',
  rev: 0,
  at: 0,
  found: { looked: false, at: null, items: new Map(), unexpected: [] },
  soundings: new Map(),
  depths: new Map(),
  findings: [],
};

/**
 * By the identity of what is in it: of two analyses one after the other most is the same. Where only some links can be
 * others, `touched` names them.
 */
export function toldDifference(
  before: AnalysisParts = nothing,
  now: AnalysisParts,
  touched?: ReadonlySet<string>,
): ToldAnalysis {
  const { showId, rev, at } = now;
  return {
    ...{ showId, rev, at },
    findings: dataDifference(before.findings, now.findings),
    found: dataDifference(before.found, now.found),
    soundings: mapDifference(before.soundings, now.soundings, touched),
    depths: mapDifference(before.depths, now.depths, touched),
  };
}

function mapDifference(
  before: ReadonlyMap<string, unknown>,
  now: ReadonlyMap<string, unknown>,
  touched: ReadonlySet<string> | undefined,
): MapDifference {
  if (before === now) return { changed: [], gone: [] };
  const ids = [...(touched ?? new Set([...before.keys(), ...now.keys()]))];
  return {
    changed: ids.flatMap((id) => (now.has(id) && before.get(id) !== now.get(id) ? [[id, now.get(id)] as const] : [])),
    gone: ids.filter((id) => before.has(id) && !now.has(id)),
  };
}

/** The analysis that was told, of this show. */
export function withTold(before: AnalysisParts = nothing, show: Show, told: ToldAnalysis): Analysis {
  const { showId, rev, at } = told;
  return withAnalysisParts(show, {
    ...{ showId, rev, at },
    findings: withDataDifference(before.findings, told.findings) as Analysis['findings'],
    found: withDataDifference(before.found, told.found) as Analysis['found'],
    soundings: withMapDifference(before.soundings, told.soundings),
    depths: withMapDifference(before.depths, told.depths),
  });
}

function withMapDifference<Value>(before: ReadonlyMap<string, Value>, { changed, gone }: MapDifference) {
  if (changed.length + gone.length === 0) return before;
  const after = new Map(before);
  for (const id of gone) after.delete(id);
  for (const [id, value] of changed) after.set(id, value as Value);
  return after;
}
