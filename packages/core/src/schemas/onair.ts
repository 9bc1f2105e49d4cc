import { z } from 'zod';
import { count, idSchema, labelText, nameSchema, shortText } from './scalars.ts';
import { leavings, offeredLists, takings } from './words.ts';

const ms = z.number().min(0).max(60_000);
const seconds = z.number().min(0, 'Not before the beginning').max(86_400, 'A day at most');

/** What a switcher does about whatever feeds one of its inputs when that goes on air, and when it leaves. */
export const inputRuleSchema = z.strictObject({
  id: idSchema,
  switcherId: idSchema,
  input: z.int().min(1, 'Inputs start at 1').max(1000, 'Inputs end at 1000'),
  goes: z.enum(takings).default('with_cut'),
  leaves: z.enum(leavings).default('hold'),
  /** Which list of the player the switcher is offered, and its name where it is a fixed one. */
  offers: z.enum(offeredLists).default('selected'),
  list: labelText.default(''),
  /** The channel of a caller gateway that is on this input, by its name there. */
  channel: labelText.default(''),
  /** Takes that were tried: of each, milliseconds from the cut until the order arrived, it began to start, and it moved. */
  measured: z
    .strictObject({
      at: z.int().min(0).max(9_000_000_000_000),
      /** What they depended on: where the plan says something else now, they are of the past. */
      basis: z.string().max(80),
      takes: z.array(z.tuple([ms, ms, ms])).max(500),
    })
    .nullable()
    .default(null),
});

/** One item of a list of a player: a file, what is known of it, and what goes with it. */
export const clipSchema = z.strictObject({
  id: idSchema,
  deviceId: idSchema,
  list: nameSchema,
  /** Its place in the list, from 0. */
  place: count(100_000),
  name: nameSchema,
  seconds: seconds.nullable().default(null),
  /** What the file's own header says; null where nobody has read it. */
  form: z
    .strictObject({
      container: shortText,
      codec: shortText,
      width: z.int().min(1).max(100_000).nullable(),
      height: z.int().min(1).max(100_000).nullable(),
      fps: z.number().min(0).max(1000).nullable(),
    })
    .nullable()
    .default(null),
  /** What stands over it while it plays: a name, a credit. */
  title: shortText.default(''),
  /** What comes at a time within it, on every playing; the file stays as it is. */
  actions: z
    .array(z.strictObject({ at: seconds, text: shortText, lasts: seconds.nullable() }))
    .max(64)
    .default([]),
});
