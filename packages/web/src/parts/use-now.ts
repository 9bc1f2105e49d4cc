import { useEffect, useState } from 'react';

/** The time in milliseconds since 1970, anew every so often: what depends on it grows old by itself. */
export function useNow(everyMs: number): number {
  const [now, setNow] = useState(() => Date.now());
  useEffect(() => {
    const timer = setInterval(() => setNow(Date.now()), everyMs);
    return () => clearInterval(timer);
  }, [everyMs]);
  return now;
}
