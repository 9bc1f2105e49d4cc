import type { z } from 'zod';
import { Failure } from './failure.ts';

interface Fault {
  readonly at: string;
  readonly message: string;
}

const mostFaults = 200;

/** Input as the schema has it, or one failure that lists every fault with its path. */
export function readInput<Schema extends z.ZodType>(schema: Schema, input: unknown): z.output<Schema> {
  const read = schema.safeParse(input);
  const unkeepable = read.success ? unkeepableIn(read.data) : [];
  if (read.success && unkeepable.length === 0) return read.data;
  const issues = read.error?.issues.map(({ path, message }) => ({ at: path.join('.'), message })) ?? [];
  throw new Failure('INVALID', { faults: [...issues, ...unkeepable].slice(0, mostFaults) });
}

/** Halves of a character and the character of number zero are in no text that a database keeps or a file holds. */
export const isKeepable = (text: string): boolean => !/[\p{Cs}\0]/u.test(text);

function unkeepableIn(value: unknown): Fault[] {
  if (typeof value === 'string')
    return isKeepable(value) ? [] : [{ at: '', message: 'This text holds a broken character. Type it again.' }];
  if (typeof value !== 'object' || value === null) return [];
  const faults: Fault[] = [];
  for (const [key, inner] of Object.entries(value))
    for (const { at, message } of unkeepableIn(inner)) faults.push({ at: at === '' ? key : `${key}.${at}`, message });
  return faults;
}
