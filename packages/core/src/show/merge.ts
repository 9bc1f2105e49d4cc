import { contentOf, type Conflict } from './change.ts';
import type { Content, Edit } from './entities.ts';
import { isEqual } from './is-equal.ts';

/** One field on which two people worked; `both` when a person has to choose. */
export interface FieldChoice {
  readonly field: string;
  readonly base: unknown;
  readonly yours: unknown;
  readonly theirs: unknown;
  readonly both: boolean;
}

/** The fields of a conflict in which yours and theirs differ; empty when one side removed the row. */
export function fieldChoices({ base, yours, theirs }: Conflict): FieldChoice[] {
  if (!yours || !theirs) return [];
  const [was, mine, now] = [base ?? {}, yours, contentOf(theirs)].map((row) => row as Record<string, unknown>);
  return Object.keys(mine ?? {})
    .filter((field) => !isEqual(mine?.[field], now?.[field]))
    .map((field) => ({
      field,
      base: was?.[field],
      yours: mine?.[field],
      theirs: now?.[field],
      both: !isEqual(was?.[field], mine?.[field]) && !isEqual(was?.[field], now?.[field]),
    }));
}

/** The edit that settles a conflict: theirs, with the author's value in every field of `mine`. */
export function settled(conflict: Conflict, mine: ReadonlySet<string>): Edit | undefined {
  const { table, id, yours, theirs } = conflict;
  const before = theirs && contentOf(theirs);
  if (!yours) return before && theirs ? { table, id, base: theirs.rev, before, after: null } : undefined;
  const chosen = Object.entries(yours).filter(([field]) => !before || mine.has(field));
  const after = { ...(before ?? {}), ...Object.fromEntries(chosen) } as Content;
  return { table, id, base: theirs?.rev ?? 0, before, after };
}
