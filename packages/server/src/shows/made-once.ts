import { createHash, randomUUID } from 'node:crypto';
import { Failure } from '../http/failure.ts';

/** An id that is readable in addresses and unique: the same for the same key. */
export function showIdFor(name: string, key: string = randomUUID()): string {
  const slug = name
    .toLowerCase()
    .normalize('NFD')
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-|-$/g, '')
    .slice(0, 26);
  const digest = createHash('sha256').update(key).digest('hex');
  return `${slug || 'show'}-${digest.slice(0, 8)}`;
}

/** What was asked for with a key and is there already was made by the same request before. */
export async function madeOnce(key: string | undefined, make: () => Promise<void>): Promise<void> {
  await make().catch((error: unknown) => {
    const isSame = key !== undefined && error instanceof Failure && error.code === 'SHOW_EXISTS';
    if (!isSame) throw error;
  });
}
