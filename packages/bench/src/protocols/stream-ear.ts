import type { SoundRequest, Talk } from './steps.ts';

/** Keeps a connection to the target open, as a controller does that follows it, and tells what comes by itself. */
export async function hearStream(
  { link }: SoundRequest,
  { controller, ip }: Talk,
  read: (chunk: Uint8Array) => string | undefined,
  tell: (what: string) => void,
): Promise<(() => void) | undefined> {
  const stream = await controller.host.tcp.connect(ip, link.port);
  if (typeof stream === 'string') return undefined;
  stream.on('data', (chunk: Uint8Array) => {
    const what = read(chunk);
    if (what !== undefined) tell(what);
  });
  return () => void stream.end();
}
