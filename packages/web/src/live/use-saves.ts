import type { Change, Conflict } from '@deep-patch/core';
import { useQueryClient } from '@tanstack/react-query';
import { useCallback, useRef, useState } from 'react';
import { api, asProblem, type Problem } from './api.ts';
import { newId, ownAuthor } from './identity.ts';
import { nothing } from './nothing.ts';
import { useNotices } from './notices.tsx';
import { catchUp, takeSaved, type Logged } from './snapshot.ts';
import { OwnEdits } from './own-edits.ts';
import { Unanswered } from './unanswered.ts';

export interface ConflictState {
  readonly change: Change;
  readonly conflicts: readonly Conflict[];
}

const largeChange = 900_000;
/** A save that gets no answer holds the next one up no longer than that. */
const patienceMs = 2000;

/** The server sends the whole change back, so that what did not clash is saved with what was chosen. */
const conflictOf = ({ facts }: Problem): ConflictState => ({
  change: facts['change'] as Change,
  conflicts: facts['conflicts'] as Conflict[],
});

/** Did the server say what became of it? If it did not, it may be done. */
const isAnswer = ({ facts }: Problem): boolean => {
  const status = Number(facts['status']);
  return status >= 400 && status < 500;
};

/** Saving changes and stepping back: each is sent under one id from the first press to the last, and told to its end. */
export function useSaves(showId: string) {
  const client = useQueryClient();
  const { tell, dismiss } = useNotices();
  const [saving, setSaving] = useState(false);
  const [conflict, setConflict] = useState<ConflictState>();
  const unanswered = useRef(new Unanswered());
  const { keep, allSaved } = useUnderWay();
  const own = useRef(new OwnEdits());
  const turn = useRef(Promise.resolve());
  const step = useSteps(showId, keep, setConflict);
  const save = useCallback(
    async function attempt(change: Change | undefined): Promise<boolean> {
      if (!change || change.edits.length === 0) return true;
      setSaving(true);
      const id = unanswered.current.idOf(change) ?? newId();
      for (const noticeId of unanswered.current.overtakenBy(change)) dismiss(noticeId);
      // one after the other, in the order in which they were made
      const before = Promise.race([turn.current, new Promise((done) => setTimeout(done, patienceMs))]);
      const sent = before.then(async () => {
        const answer = await send(showId, id, own.current.onTop(change));
        const saved = 'edits' in answer ? answer : undefined;
        if (saved) own.current.saved(saved.edits, saved.rev);
        return saved;
      });
      turn.current = sent.then(nothing, nothing);
      try {
        // it is in; if the news of it gets lost now, the socket brings it later
        await keep(sent.then((saved) => takeSaved(client, showId, saved).catch(nothing)));
        tell({ text: change.label, undo: () => void step('undo') });
        return true;
      } catch (error) {
        const problem = asProblem(error);
        if (problem.code === 'SHOW_CHANGED') setConflict(conflictOf(problem));
        else {
          const noticeId = tell({ problem, retry: () => void attempt(change) });
          unanswered.current.add({ id, change, noticeId });
        }
        return false;
      } finally {
        setSaving(false);
      }
    },
    [client, showId, tell, dismiss, keep, step],
  );
  const closeConflict = useCallback(() => setConflict(undefined), []);
  return { save, step, saving, conflict, closeConflict, allSaved };
}

function send(showId: string, id: string, change: Change): Promise<Logged | Pick<Logged, 'rev'>> {
  const body = { id, author: ownAuthor(), change };
  const isLarge = change.edits.length > 300 && JSON.stringify(body).length > largeChange;
  return api.post(`/shows/${showId}/${isLarge ? 'imports' : 'changes'}`, body);
}

type Keep = <Result>(write: Promise<Result>) => Promise<Result>;

/** What is on its way to the plan; what is asked of the bench next waits for it. */
function useUnderWay() {
  const underWay = useRef(new Set<Promise<unknown>>());
  const allSaved = useCallback(() => Promise.allSettled(underWay.current), []);
  const keep = useCallback<Keep>(async (write) => {
    underWay.current.add(write);
    try {
      return await write;
    } finally {
      underWay.current.delete(write);
    }
  }, []);
  return { keep, allSaved };
}

function useSteps(showId: string, keep: Keep, onConflict: (conflict: ConflictState) => void) {
  const client = useQueryClient();
  const { tell } = useNotices();
  const ids = useRef(new Map<'undo' | 'redo', string>());
  return useCallback(
    async (kind: 'undo' | 'redo'): Promise<void> => {
      // pressed again because no answer came, it is the same step
      const id = ids.current.get(kind) ?? newId();
      ids.current.set(kind, id);
      try {
        const stepped = api.post<{ label: string }>(`/shows/${showId}/${kind}`, { id, author: ownAuthor() });
        const { label } = await keep(
          stepped.then(async (answer) => {
            ids.current.delete(kind);
            await catchUp(client, showId);
            return answer;
          }),
        );
        tell({ text: `${kind === 'undo' ? 'Taken back' : 'Done again'}: ${label}` });
      } catch (error) {
        const problem = asProblem(error);
        if (isAnswer(problem)) ids.current.delete(kind);
        if (problem.code === 'SHOW_CHANGED') onConflict(conflictOf(problem));
        else tell({ problem });
      }
    },
    [client, showId, tell, keep, onConflict],
  );
}
