import { useCallback } from 'react';
import { Problem } from './api.ts';
import { useNotices } from './notices.tsx';

/**
 * Tells that what a worker was to work out will not come: it broke, or its file is gone because the server was built
 * anew since the page was opened. `what` stands as the subject of "could not be worked out".
 */
export function useWorkerFailure(what: string): (reason: string) => void {
  const { tell } = useNotices();
  return useCallback(
    (reason: string) =>
      void tell({
        problem: new Problem({
          code: 'NOT_WORKED_OUT',
          title: `${what} could not be worked out`,
          detail: `What you see is from before. The next change tries again; if it stays, reload the page.${reason ? ` (${reason})` : ''}`,
        }),
      }),
    [tell, what],
  );
}
