import type { SoundRequest, Talk } from './steps.ts';
import { streamTo } from './stream-to.ts';

/** Keeps a connection to the target open, as a controller does that follows it, and tells what comes by itself. */
export async function hearStream(
  request: SoundRequest,
  talk: Talk,
  read: (chunk: Uint8Array) => string | undefined,
  tell: (what: string) => void,
): Promise<(() => void) | undefined> {
  const stream = await streamTo(request, talk);
  if (typeof stream === 'string') return undefined;
  stream.on('data', (chunk: Uint8Array) => {
    const what = read(chunk);
    if (what !== undefined) tell(what);
  });
  return () => void stream.end();
}
