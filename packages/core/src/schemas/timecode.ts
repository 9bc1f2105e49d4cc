import { z } from 'zod';
import { idSchema, labelText } from './scalars.ts';
import { timeFormats } from './words.ts';

/** One hop of time code: who gives it to whom, as what, and the names that have to be equal along it. */
export const timeHopSchema = z.strictObject({
  id: idSchema,
  fromId: idSchema,
  toId: idSchema,
  format: z.enum(timeFormats),
  /** What the giving end calls its output or session; empty is its own name. */
  says: labelText.default(''),
  /** What was chosen as input at the receiving end; empty takes whatever comes. */
  hears: labelText.default(''),
  /** The time code input of the receiver that it is assigned to, where it has several. */
  input: labelText.default(''),
});
