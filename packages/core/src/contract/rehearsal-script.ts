import { z } from 'zod';
import type { Fixed } from './fixed.ts';
import { idSchema, nameSchema } from '../schemas/index.ts';
import { faultKinds } from '../show/index.ts';

const longestSeconds = 4 * 3600;
const secondsSchema = z.int().min(0).max(longestSeconds);

/** A rehearsal as a file: which fault comes when, and where. */
export const rehearsalScriptSchema = z.strictObject({
  title: nameSchema,
  steps: z
    .array(
      z
        .strictObject({
          atSeconds: secondsSchema,
          /** When it mends itself; null leaves it until it is found or the rehearsal is over. */
          untilSeconds: secondsSchema.nullable().default(null),
          kind: z.enum(faultKinds),
          deviceId: idSchema,
          hidden: z.boolean().default(true),
        })
        .refine(({ atSeconds, untilSeconds }) => untilSeconds === null || untilSeconds > atSeconds, {
          path: ['untilSeconds'],
          message: 'It ends after it begins',
        }),
    )
    .min(1, 'Give it at least one fault')
    .max(50),
});

export type RehearsalScript = Fixed<z.output<typeof rehearsalScriptSchema>>;
export type ScriptStep = RehearsalScript['steps'][number];
