import type { Ear } from './protocol.ts';
import type { SoundRequest, Talk } from './steps.ts';
import { streamTo } from './stream-to.ts';

/** Keeps a connection to the target open, as a controller does that follows it, and tells what comes by itself. */
export async function hearStream(
  request: SoundRequest,
  talk: Talk,
  take: (chunk: Uint8Array) => void,
  { ended }: Pick<Ear, 'ended'>,
): Promise<(() => void) | undefined> {
  const stream = await streamTo(request, talk);
  if (typeof stream === 'string') return undefined;
  stream.on('data', take);
  stream.once('end', ended);
  stream.once('close', ended);
  return () => void stream.end();
}
