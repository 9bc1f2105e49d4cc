import { show as core, type Change } from '@deep-patch/core';

/**
 * Rows as this tab saved them last. Who types quickly plans the next change before the answer to the one before it is
 * there: on their own earlier value, which is no reason to ask what should stand.
 */
export class OwnEdits {
  private readonly rows = new Map<string, core.Row | null>();

  saved(edits: readonly core.Edit[], rev: number): void {
    for (const { table, id, after } of edits) this.rows.set(`${table}/${id}`, after && { ...after, rev });
  }

  /** The same change on top of what this tab saved meanwhile; what touches the same field stays as it is. */
  onTop(change: Change): Change {
    return { ...change, edits: change.edits.map((edit) => this.rebased(edit)) };
  }

  private rebased(edit: core.Edit): core.Edit {
    const { table, id, base, before, after } = edit;
    const theirs = this.rows.get(`${table}/${id}`);
    if (!theirs || !before || !after || base >= theirs.rev) return edit;
    const conflict = { table, id, base: before, yours: after, theirs };
    const choices = core.fieldChoices(conflict);
    if (choices.some(({ both }) => both)) return edit;
    const mine = choices.filter((choice) => !core.isEqual(choice.base, choice.yours)).map(({ field }) => field);
    return core.settled(conflict, new Set(mine)) ?? edit;
  }
}
