import { z } from 'zod';
import { nameSchema, shortText } from '../schemas/index.ts';
import type { Fixed } from './fixed.ts';

/** What is in a unit, as a file on a stick (need 7.6): its contents by name, with the model and version that it is of. */
export const unitCopySchema = z.strictObject({
  format: z.literal('deep-patch/unit-copy'),
  version: z.literal(1),
  unit: nameSchema,
  model: z.string().min(1).max(80),
  firmware: z.string().max(40).nullable(),
  at: z.int().min(0).max(9_000_000_000_000),
  contents: z
    .array(z.strictObject({ what: shortText.min(1), value: shortText }))
    .min(1)
    .max(500),
});
export type UnitCopy = Fixed<z.output<typeof unitCopySchema>>;
