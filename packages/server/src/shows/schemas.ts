import { show as core } from '@deep-patch/core';
import { z } from 'zod';

/** Who sends a change: a browser's own id, kept by it; undo takes back changes of one author. */
const authorSchema = z.string().regex(/^[a-z0-9-]{8,40}$/, 'An author is 8 to 40 of a-z, 0-9 and -');

export const newShowSchema = z.strictObject({
  name: z
    .string()
    .trim()
    .min(1, 'Give the show a name')
    .max(core.limits.name, `At most ${core.limits.name} characters`),
  subtitle: z.string().trim().max(core.limits.subtitle).default(''),
  /** The same request sent again because no answer came makes one show. */
  key: core.idSchema.optional(),
});

export const saveChangeSchema = z.strictObject({
  id: core.idSchema,
  author: authorSchema,
  change: core.changeSchema,
});

export const stepSchema = z.strictObject({ id: core.idSchema, author: authorSchema });
export const sinceSchema = z.strictObject({ since: z.coerce.number().pipe(core.revisionSchema) });
export const authorQuery = z.strictObject({ author: authorSchema });
export const newSecretSchema = z.strictObject({
  password: z
    .string()
    .min(1, 'Type a password')
    .max(core.limits.password, `At most ${core.limits.password} characters`),
});

export const editShowSchema = z.strictObject({
  name: newShowSchema.shape.name.optional(),
  subtitle: z.string().trim().max(core.limits.subtitle).optional(),
  archived: z.boolean().optional(),
});
/** A copy, or the demo anew: the same request sent again makes one show. */
export const copySchema = z.strictObject({ name: newShowSchema.shape.name, key: core.idSchema.optional() });
export const demoSchema = z.strictObject({ key: core.idSchema.optional() });
