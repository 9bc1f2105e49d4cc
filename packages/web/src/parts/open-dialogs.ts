import { useEffect, useSyncExternalStore } from 'react';

let open = 0;
const listeners = new Set<() => void>();
const count = (by: 1 | -1) => {
  open += by;
  for (const listener of listeners) listener();
};
const subscribe = (listener: () => void) => {
  listeners.add(listener);
  return () => void listeners.delete(listener);
};

/** Counts the dialogue that calls it, as long as it is there. */
export function useCounted(): void {
  useEffect(() => {
    count(1);
    return () => count(-1);
  }, []);
}

/** Whether a dialogue covers the screen: what is told then is told in it. */
export const useIsCovered = (): boolean => useSyncExternalStore(subscribe, () => open > 0);
