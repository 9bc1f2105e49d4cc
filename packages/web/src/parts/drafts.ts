import { useCallback, useState } from 'react';

/** What was typed and not saved, by where it stands: it waits for whoever comes back, until the tab closes. */
const kept = new Map<string, unknown>();

export const draftAt = (where: string): unknown => kept.get(where);

export function keepDraft(where: string, draft: unknown): void {
  if (draft === undefined) kept.delete(where);
  else kept.set(where, draft);
}

/** A text that is typed at a place of its own: going elsewhere and coming back finds it again. */
export function useDraft(where: string, initial: string): readonly [string, (text: string) => void] {
  const [text, setText] = useState(() => (kept.get(where) as string | undefined) ?? initial);
  const set = useCallback(
    (next: string) => {
      keepDraft(where, next === initial ? undefined : next);
      setText(next);
    },
    [where, initial],
  );
  return [text, set];
}
