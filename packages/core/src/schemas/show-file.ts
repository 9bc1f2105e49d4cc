import { z } from 'zod';
import { limits } from './limits.ts';
import { schemas, type TableName } from './rows.ts';

const most = 100_000;
const tables = Object.fromEntries(
  Object.entries(schemas).map(([name, schema]) => [name, z.array(schema).max(most).default([])]),
) as unknown as { [T in TableName]: z.ZodDefault<z.ZodArray<(typeof schemas)[T]>> };

/**
 * The open format in which a whole show travels: rows by table, and the bytes of its papers in base64 by their SHA-256.
 * Passwords never leave the house: a row that had one says so by `passwords`, and it is entered again.
 */
export const showFileSchema = z.strictObject({
  format: z.literal('deep-patch/show'),
  version: z.literal(1),
  name: z.string().trim().min(1, 'Give the show a name').max(limits.name),
  subtitle: z.string().max(limits.subtitle).default(''),
  tables: z.strictObject(tables),
  /** Rows whose password has to be entered, as `services/…` and `links/…`. */
  passwords: z.array(z.string().max(90)).max(most).default([]),
  papers: z.record(z.string().regex(/^[0-9a-f]{64}$/, 'A file is named by its SHA-256'), z.base64()).default({}),
});
export type ShowFile = z.infer<typeof showFileSchema>;

/** The same as a JSON Schema (draft 2020-12), for other people’s programs. */
export const showFileJsonSchema = (): object => z.toJSONSchema(showFileSchema, { io: 'input', unrepresentable: 'any' });
