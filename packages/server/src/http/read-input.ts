import type { z } from 'zod';
import { Failure } from './failure.ts';

/** Input as the schema has it, or one failure that lists every fault with its path. */
export function readInput<Schema extends z.ZodType>(schema: Schema, input: unknown): z.output<Schema> {
  const read = schema.safeParse(input);
  if (read.success) return read.data;
  const faults = read.error.issues.slice(0, 200).map(({ path, message }) => ({ at: path.join('.'), message }));
  throw new Failure('INVALID', { faults });
}
