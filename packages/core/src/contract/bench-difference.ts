import type { BenchState, HeardMessage, StandinState } from './bench-state.ts';
import { isEqual } from '../show/index.ts';

type Parts = Omit<BenchState, 'showId' | 'seq' | 'standins' | 'heard'>;

/** What is new in a state of the bench since the one that was told before. */
export interface BenchDifference {
  readonly showId: string;
  /** The `seq` of the state that it is added to. */
  readonly base: number;
  readonly seq: number;
  readonly changed: Partial<Parts>;
  /** Units that are as they were not before, and the order of all of them where that is new. */
  readonly standins: readonly StandinState[];
  readonly order?: readonly string[];
  /** Lines are added at the end; so many of those before stay. */
  readonly heard: { readonly keep: number; readonly lines: readonly HeardMessage[] };
}

/** Every part of a state beside units and lines; a part that is forgotten here does not compile. */
const parts: Readonly<Record<keyof Parts, true>> = {
  rev: true,
  startUps: true,
  stage: true,
  pulling: true,
  jacks: true,
  faults: true,
  rehearsal: true,
  scan: true,
  script: true,
  looking: true,
  confirming: true,
  partners: true,
  copied: true,
  watch: true,
  panels: true,
  teaching: true,
  stepped: true,
  cueRun: true,
  tried: true,
  trial: true,
  walls: true,
};
const names = Object.keys(parts) as (keyof Parts)[];

export function benchDifference(before: BenchState, after: BenchState): BenchDifference {
  const known = new Map(before.standins.map((standin) => [standin.deviceId, standin]));
  const order = after.standins.map(({ deviceId }) => deviceId);
  const isNewOrder = !isEqual(
    before.standins.map(({ deviceId }) => deviceId),
    order,
  );
  return {
    showId: after.showId,
    base: before.seq,
    seq: after.seq,
    changed: Object.fromEntries(
      names.filter((name) => !isEqual(before[name], after[name])).map((name) => [name, after[name]]),
    ),
    standins: after.standins.filter((standin) => !isEqual(known.get(standin.deviceId), standin)),
    ...(isNewOrder && { order }),
    heard: newLines(before.heard, after.heard),
  };
}

/** The longest end of what was heard before with which the lines now begin. */
function newLines(before: readonly HeardMessage[], after: readonly HeardMessage[]): BenchDifference['heard'] {
  for (let keep = Math.min(before.length, after.length); keep > 0; keep -= 1)
    if (isEqual(before.slice(before.length - keep), after.slice(0, keep))) return { keep, lines: after.slice(keep) };
  return { keep: 0, lines: after };
}

/** The state after a difference; what did not change stays the same object. Undefined where it belongs to another state. */
export function withDifference(before: BenchState, difference: BenchDifference): BenchState | undefined {
  const { showId, base, seq, changed, standins, order, heard } = difference;
  if (before.showId !== showId || before.seq !== base) return undefined;
  const fresh = new Map(standins.map((standin) => [standin.deviceId, standin]));
  const known = new Map(before.standins.map((standin) => [standin.deviceId, standin]));
  const all = (order ?? [...known.keys()]).flatMap((id) => fresh.get(id) ?? known.get(id) ?? []);
  const isSame = standins.length === 0 && order === undefined;
  return {
    ...before,
    ...changed,
    seq,
    standins: isSame ? before.standins : all,
    heard: [...before.heard.slice(before.heard.length - heard.keep), ...heard.lines],
  };
}
