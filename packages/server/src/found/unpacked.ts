import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { createGunzip } from 'node:zlib';

/** Set where a packed file ended early or is damaged: what came before was given out. */
export interface Packing {
  damaged: boolean;
}

/** The bytes of a file that may be packed with gzip (RFC 1952), piece by piece; others pass as they are. */
export async function* unpacked(chunks: AsyncIterable<Uint8Array>, packing: Packing): AsyncGenerator<Uint8Array> {
  const source = chunks[Symbol.asyncIterator]();
  const head: Uint8Array[] = [];
  // the mark has two bytes, which may come one by one
  while (lengthOf(head) < 2) {
    const next = await source.next();
    if (next.done) break;
    head.push(next.value);
  }
  const all = joined(head, source);
  const [first, second] = Buffer.concat(head);
  if (first !== 0x1f || second !== 0x8b) {
    yield* all;
    return;
  }
  const gunzip = createGunzip();
  const fed = pipeline(Readable.from(all), gunzip).catch((error: unknown) => error);
  try {
    yield* gunzip as AsyncIterable<Uint8Array>;
  } catch (error) {
    if (!isOfZlib(error)) throw error;
    packing.damaged = true;
  } finally {
    gunzip.destroy();
    await fed;
  }
}

const lengthOf = (parts: readonly Uint8Array[]): number => parts.reduce((sum, { length }) => sum + length, 0);

async function* joined(head: readonly Uint8Array[], rest: AsyncIterator<Uint8Array>): AsyncGenerator<Uint8Array> {
  yield* head;
  for (;;) {
    const next = await rest.next();
    if (next.done) return;
    yield next.value;
  }
}

const isOfZlib = (error: unknown): boolean =>
  error instanceof Error && 'code' in error && String(error.code).startsWith('Z_');
