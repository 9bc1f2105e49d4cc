import type { contract } from '@deep-patch/core';

export type Connection = 'connecting' | 'open' | 'lost';

const firstRetryMs = 300;
const lastRetryMs = 3_000;

/** One socket per tab that joins a show and comes back by itself after a break. Answers with a function that ends it. */
export function openSocket(
  showId: string,
  on: { message: (message: contract.LiveMessage) => void; connection: (state: Connection) => void },
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
    fresh.onmessage = (event) => on.message(JSON.parse(String(event.data)) as contract.LiveMessage);
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
