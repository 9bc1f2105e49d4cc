import { changeOf, updateRow, type Change, type Cue, type Show } from '../show/index.ts';

/** What became of a cue when it was tried: its outcomes in the order of its messages, and what it was like then. */
export interface Tried {
  readonly cueId: string;
  readonly at: number;
  readonly tookMs: number;
  readonly basis: string;
  readonly deliveries: readonly { readonly outcome: NonNullable<Cue['proved']>['outcomes'][number] }[];
}

/** Keeps what a rehearsal showed with its cues; of several tries the last counts. */
export function planProofs(show: Show, tried: readonly Tried[]): Change | undefined {
  const last = new Map(tried.map((one) => [one.cueId, one]));
  const edits = [...last.values()].flatMap(({ cueId, at, tookMs, basis, deliveries }) => {
    const cue = show.cues[cueId];
    const proved = { at, tookMs, basis, outcomes: deliveries.map(({ outcome }) => outcome) };
    return cue ? [updateRow('cues', cue, { proved })] : [];
  });
  return changeOf(`A rehearsal of ${edits.length} cues`, edits);
}
