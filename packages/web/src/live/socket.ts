import type { show as core } from '@deep-patch/core';

/** What the server tells tabs, by topic. */
export type LiveMessage =
  /** From here on everything new is told; what was before has to be asked for. */
  | { topic: 'joined'; showId: string }
  | { topic: 'revision'; showId: string; rev: number }
  | { topic: 'gone'; showId: string }
  | { topic: 'presence'; showId: string; here: number }
  | { topic: 'seen'; showId: string }
  /** The whole state; null when the bench ended. */
  | { topic: 'bench'; showId: string; state: core.BenchState | null }
  | { topic: 'bench-news'; showId: string; difference: core.BenchDifference }
  | { topic: 'tap'; showId: string; news: core.TapNews }
  /** `full`: it is away since the disk has no room. */
  | { topic: 'database'; away: boolean; full: boolean };

export type Connection = 'connecting' | 'open' | 'lost';

const firstRetryMs = 300;
const lastRetryMs = 3_000;

/** One socket per tab that joins a show and comes back by itself after a break. Answers with a function that ends it. */
export function openSocket(
  showId: string,
  on: { message: (message: LiveMessage) => void; connection: (state: Connection) => void },
): () => void {
  let socket: WebSocket | undefined;
  let timer: ReturnType<typeof setTimeout> | undefined;
  let retryMs = firstRetryMs;
  let ended = false;

  function connect(): void {
    const fresh = new WebSocket(`ws://${location.host}/api/live`);
    socket = fresh;
    fresh.onopen = () => {
      retryMs = firstRetryMs;
      fresh.send(JSON.stringify({ topic: 'join', showId }));
      on.connection('open');
    };
    fresh.onmessage = (event) => on.message(JSON.parse(String(event.data)) as LiveMessage);
    fresh.onclose = () => {
      if (ended) return;
      on.connection('lost');
      timer = setTimeout(connect, retryMs);
      retryMs = Math.min(lastRetryMs, retryMs * 2);
    };
  }

  // a short wait spares the double mount of development a socket that closes before it opens
  timer = setTimeout(connect, 0);
  return () => {
    ended = true;
    clearTimeout(timer);
    socket?.close();
  };
}
