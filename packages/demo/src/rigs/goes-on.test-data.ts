import { analyse, show as core, StandingAnalysis, type Show } from '@deep-patch/core';
import { expect } from 'vitest';
import { diceOf } from './dice.test-data.ts';
import { randomEdit } from './random-edit.test-data.ts';

const editsOfRig = 12;

/**
 * Edits random rigs until so many edits were made, and holds what the standing analysis says of some rooms against the
 * analysis of the whole show after each. Answers how many edits there were, and what they were called.
 */
export function expectItGoesOn(
  rigAt: (at: number) => Show,
  { seed, least, rooms }: { readonly seed: number; readonly least: number; readonly rooms: readonly string[] },
): { readonly edits: number; readonly kinds: readonly string[] } {
  let edits = 0;
  const kinds = new Set<string>();
  const textOf = (findings: readonly { readonly room: string }[]) =>
    findings
      .filter(({ room }) => rooms.includes(room))
      .map((one) => JSON.stringify(one))
      .sort();
  for (let at = 0; edits < least; at += 1) {
    const dice = diceOf(seed + at);
    let show = rigAt(at);
    const standing = new StandingAnalysis(show, core.nothingSeen, 0);
    for (let n = 0; n < editsOfRig; n += 1) {
      const change = randomEdit(show, dice);
      if (!change) continue;
      edits += 1;
      kinds.add(change.label);
      show = core.written(show, change, show.rev + 1);
      const { rev } = show;
      const rows = change.edits.map(({ table, id, after }) => ({ table, id, row: after && { ...after, rev } }));
      const now = standing.advance(rows, rev, core.nothingSeen, 0);
      const whole = analyse(show, core.nothingSeen, 0).findings;
      expect([seed + at, change.label, textOf(now.findings)]).toEqual([seed + at, change.label, textOf(whole)]);
    }
  }
  return { edits, kinds: [...kinds] };
}
