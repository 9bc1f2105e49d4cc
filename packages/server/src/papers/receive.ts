import { createHash, randomUUID } from 'node:crypto';
import { createReadStream, createWriteStream } from 'node:fs';
import { mkdir, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { Failure } from '../http/failure.ts';

export const mostFileBytes = 20_000_000;

interface Received {
  /** The SHA-256 of the bytes. */
  readonly id: string;
  readonly bytes: number;
  readonly chunks: () => AsyncIterable<Uint8Array>;
  readonly remove: () => Promise<void>;
}

/** Takes a paper in on the disk, since its name is known with its last byte only; nothing is held in memory. */
export async function receive(chunks: AsyncIterable<Uint8Array>, folder: string): Promise<Received> {
  await mkdir(folder, { recursive: true });
  const file = join(folder, randomUUID());
  const remove = () => rm(file, { force: true });
  const hash = createHash('sha256');
  let bytes = 0;
  const counted = async function* (all: AsyncIterable<Uint8Array>) {
    for await (const chunk of all) {
      bytes += chunk.length;
      if (bytes > mostFileBytes) throw new Failure('FILE_TOO_LARGE');
      hash.update(chunk);
      yield chunk;
    }
  };
  try {
    await pipeline(chunks, counted, createWriteStream(file, { mode: 0o600 }));
    if (bytes === 0) throw new Failure('FILE_EMPTY');
  } catch (error) {
    await remove();
    throw error;
  }
  return { id: hash.digest('hex'), bytes, chunks: () => opened(file), remove };
}

/** Opened when it is first asked for: a file that nobody reads may be gone before it is open. */
async function* opened(file: string): AsyncGenerator<Uint8Array> {
  for await (const chunk of createReadStream(file)) yield chunk as Uint8Array;
}
