import { useMemo, useRef } from 'react';
import { newId } from './identity.ts';

interface SteadyIds {
  /** Gives the ids of one press, one after the other: the same ones at every press until it has worked. */
  readonly begin: () => () => string;
  /** It has worked: what comes next is something new. */
  readonly renew: () => void;
}

/** Ids of what a form adds. However often somebody presses because no answer came, it is the same thing that is added. */
export function useSteadyIds(): SteadyIds {
  const ids = useRef<string[]>([]);
  return useMemo(
    () => ({
      begin: () => {
        let at = -1;
        return () => {
          at += 1;
          return (ids.current[at] ??= newId());
        };
      },
      renew: () => {
        ids.current = [];
      },
    }),
    [],
  );
}
