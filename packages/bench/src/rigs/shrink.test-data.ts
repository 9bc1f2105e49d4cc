import { show as core, type Show } from '@deep-patch/core';

/** The smallest rig, row by row, that still does what `fails` says; for reading, and to keep as a test of its own. */
export async function shrink(show: Show, fails: (smaller: Show) => Promise<boolean>): Promise<Show> {
  let small = show;
  for (let before = ''; before !== JSON.stringify(small);) {
    before = JSON.stringify(small);
    for (const table of [...core.tableNames].reverse())
      for (const id of Object.keys(small[table])) {
        if (table === 'types' || table === 'libraries') continue;
        const applied = core.applyChange(small, core.planRemove(small, table, [id], 'smaller'));
        if (applied.ok && (await fails(applied.show).catch(() => false))) small = applied.show;
      }
  }
  return small;
}
