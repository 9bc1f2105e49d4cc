import { z } from 'zod';
import { typeFaults, typeSchema } from './device-type.ts';

const entrySchema = typeSchema.omit({ id: true, libraryId: true });

/** The open format in which types travel: one library as JSON. */
export const typeFileSchema = z
  .strictObject({
    format: z.literal('device-types'),
    version: z.literal(1),
    name: z.string().trim().min(1, 'Give the library a name').max(80, 'At most 80 characters'),
    types: z.array(entrySchema).min(1, 'There is no type in it').max(500, 'At most 500 types in one file'),
  })
  .superRefine(({ types }, context) => {
    types.forEach((type, at) => {
      for (const { path, message } of typeFaults({ ...type, id: 'x', libraryId: 'x' }))
        context.addIssue({ code: 'custom', path: ['types', at, ...path], message });
      const first = types.findIndex(({ model }) => model === type.model);
      if (first < at)
        context.addIssue({
          code: 'custom',
          path: ['types', at, 'model'],
          message: `The model of type ${first + 1} again`,
        });
    });
  });
export type TypeFile = z.infer<typeof typeFileSchema>;

/** One type as a JSON Schema (draft 2020-12), for who helps with typing it. */
export const typeJsonSchema = (): object => z.toJSONSchema(entrySchema, { io: 'input', unrepresentable: 'any' });

/** The same as a JSON Schema (draft 2020-12), for editors of other people. */
export const typeFileJsonSchema = (): object => z.toJSONSchema(typeFileSchema, { io: 'input', unrepresentable: 'any' });
