import { z } from 'zod';
import { argumentsSchema, idSchema, nameSchema, noteText, shortText } from './scalars.ts';

const delay = z.number().min(0).max(86_400_000);

/**
 * What starts a cue. `after` is the cue before it in the order, `cue` any other one; `clock` a time of day, `timecode` a
 * time code address (SMPTE ST 12-1), `level` a channel of a lighting universe (ANSI E1.11), `web` a page that is asked.
 */
export const cueStartSchema = z.discriminatedUnion('by', [
  z.strictObject({ by: z.literal('hand') }),
  z.strictObject({ by: z.literal('after'), delayMs: delay }),
  z.strictObject({ by: z.literal('cue'), cueId: idSchema, delayMs: delay }),
  z.strictObject({ by: z.literal('clock'), time: z.iso.time({ precision: 0 }) }),
  z.strictObject({
    by: z.literal('timecode'),
    code: z.string().regex(/^([01]\d|2[0-3]):[0-5]\d:[0-5]\d[:;][0-5]\d$/, 'A time code is written as 10:00:12:00'),
  }),
  z.strictObject({ by: z.literal('on_air'), deviceId: idSchema, input: z.int().min(1).max(1000) }),
  z.strictObject({ by: z.literal('message'), address: z.string().min(1).max(200) }),
  z.strictObject({
    by: z.literal('level'),
    universe: z.int().min(1).max(63_999),
    channel: z.int().min(1).max(512),
    above: z.int().min(0).max(254),
  }),
  z.strictObject({ by: z.literal('web'), page: z.string().min(1).max(200), says: shortText.min(1) }),
]);

/** One message of a cue: a command with its values, or as it was typed where the target knows none like it. */
export const cueMessageSchema = z.strictObject({
  targetId: idSchema,
  serviceKey: idSchema,
  command: idSchema.nullable(),
  args: argumentsSchema.default([]),
  typed: shortText.default(''),
  /** Milliseconds after the cue has started. */
  delayMs: delay.default(0),
});

/** One line of the running order, which is the order of the numbers. */
export const cueSchema = z.strictObject({
  id: idSchema,
  number: z.number().min(0, 'Numbers start at 0').max(99_999, 'Numbers end at 99999').multipleOf(0.001),
  name: nameSchema,
  /** Whoever sends its messages. */
  controllerId: idSchema,
  enabled: z.boolean().default(true),
  starts: cueStartSchema.default({ by: 'hand' }),
  messages: z.array(cueMessageSchema).max(64).default([]),
  note: noteText.default(''),
  /** The last rehearsal: what was done with these very messages. */
  proved: z
    .strictObject({
      at: z.int().min(0).max(9_000_000_000_000),
      basis: z.string().max(40),
      outcomes: z.array(z.enum(['done', 'refused', 'not_arrived', 'not_sent'])).max(64),
      tookMs: z.number().min(0).max(86_400_000),
    })
    .nullable()
    .default(null),
});
