import { z } from 'zod';
import { idSchema, nameSchema, shortText } from './scalars.ts';
import {
  colourOrders,
  dataSides,
  managements,
  playerOutputs,
  rateKeys,
  viewpoints,
  wallCorners,
  wallSenders,
} from './words.ts';

const panels = z.int().min(0).max(500);
const place = z.tuple([panels, panels]);
const pixels = z.int().min(0).max(100_000);

/** An output is told of once. */
const isOnePerOutput = (rows: readonly { readonly output: number }[]): boolean =>
  new Set(rows.map(({ output }) => output)).size === rows.length;
const doubled = 'An output is there twice';

/** What a program or a profile has about a wall and its panels; what nobody has looked at is null. */
export const wallSetSchema = z.strictObject({
  width: pixels.nullable().default(null),
  height: pixels.nullable().default(null),
  scan: z.int().min(1).max(128).nullable().default(null),
  colours: z.enum(colourOrders).nullable().default(null),
  dataFrom: z.enum(dataSides).nullable().default(null),
  chip: shortText.default(''),
});

/** What a player sends to a wall, and what of it is done. `adapter`: the interface that leads to the receivers. */
export const playerOutputSchema = z.strictObject({
  deviceId: idSchema.nullable().default(null),
  kind: z.enum(playerOutputs).nullable().default(null),
  adapter: idSchema.nullable().default(null),
  /** The corner of the wall at which it begins. */
  start: z.enum(wallCorners).default('top_left'),
  enabled: z.boolean().default(false),
  saved: z.boolean().default(false),
  /** What runs behind it was started again since. */
  restarted: z.boolean().default(false),
});

/**
 * How a wall on the bench really is, where that is otherwise than it is planned and entered; null is as it is. `order`:
 * the output that hangs at each part, by rows from the left. `width` and `height`: what the sender runs with.
 */
export const realWallSchema = z.strictObject({
  scan: z.int().min(1).max(128).nullable().default(null),
  colours: z.enum(colourOrders).nullable().default(null),
  dataFrom: z.enum(dataSides).nullable().default(null),
  order: z.array(z.int().min(1).max(256)).max(256).nullable().default(null),
  width: pixels.min(1).nullable().default(null),
  height: pixels.min(1).nullable().default(null),
  /** Strings that end after so many panels. */
  cuts: z
    .array(z.strictObject({ output: z.int().min(1).max(256), panels: z.int().min(0).max(2000) }))
    .max(256)
    .refine(isOnePerOutput, doubled)
    .default([]),
  /** Outputs whose panels hang upside down. */
  turned: z.array(z.int().min(1).max(256)).max(256).default([]),
  start: z.enum(wallCorners).nullable().default(null),
  /** Does what the player sends get to the receivers? */
  reaches: z.boolean().nullable().default(null),
});

/** One LED wall: its panels, who drives which of them, and how they are wired. Places are columns and rows from 0, top left, seen by the audience. */
export const wallSchema = z.strictObject({
  id: idSchema,
  name: nameSchema,
  /** Model of its panels, as the libraries have it. */
  panel: idSchema,
  processorId: idSchema.nullable().default(null),
  sender: z.enum(wallSenders).default('device'),
  /** The adapter of a computer that sends by its own network card. */
  card: idSchema.nullable().default(null),
  managed: z.enum(managements).nullable().default(null),
  /** From whatever drives it to the foot of the wall. */
  distanceM: z.number().min(0).max(10_000).nullable().default(null),
  /** From the left: how many panels, how many rows are missing above them, and what lies between it and the one before. */
  columns: z
    .array(
      z.strictObject({
        panels: z.int().min(1).max(200),
        drop: panels.default(0),
        gapMm: z.number().min(0).max(10_000).default(0),
        /** Degrees by which it turns towards the audience. */
        angle: z.number().min(-90).max(90).default(0),
      }),
    )
    .min(1, 'A wall has a column at least')
    .max(500),
  /** Columns at which a surface of its own begins, beside the first. */
  surfaces: z.array(panels).max(32).default([]),
  /** Which columns and rows each output or receiver drives. */
  parts: z
    .array(z.strictObject({ output: z.int().min(1).max(256), x: panels, y: panels, width: panels, height: panels }))
    .max(256)
    .refine(isOnePerOutput, doubled)
    .default([]),
  numberedFrom: z.enum(viewpoints).default('front'),
  /** The way of the data through the panels, by the output. */
  strings: z
    .array(z.strictObject({ output: z.int().min(1).max(256), path: z.array(place).max(2000) }))
    .max(256)
    .refine(isOnePerOutput, doubled)
    .default([]),
  bits: z.union([z.literal(8), z.literal(10), z.literal(12)]).default(8),
  rate: z.enum(rateKeys).default('50'),
  /** Data comes back to a second output, so that one cut leaves the picture. */
  loop: z.boolean().default(false),
  /** It is switched on in the show file too. */
  loopInFile: z.boolean().default(false),
  volts: z.int().min(100).max(260).default(230),
  phases: z.union([z.literal(1), z.literal(3)]).default(3),
  /** The set-up program, the profile that came with the panels, and the player. */
  program: wallSetSchema.default(wallSetSchema.parse({})),
  profile: wallSetSchema.default(wallSetSchema.parse({})),
  player: wallSetSchema.default(wallSetSchema.parse({})),
  playerOutput: playerOutputSchema.default(playerOutputSchema.parse({})),
  /** Where on a desktop the sender takes the picture from. */
  captured: z.strictObject({ x: pixels, y: pixels, width: pixels, height: pixels }).nullable().default(null),
  /** The first data channel of the player's output: a universe of 512, and a channel in it. */
  firstChannel: z
    .strictObject({ universe: z.int().min(1).max(63_999), channel: z.int().min(1).max(512) })
    .nullable()
    .default(null),
  /** What the receivers report. */
  found: z
    .array(
      z.strictObject({
        output: z.int().min(1).max(256),
        panels: z.int().min(0).max(2000),
        version: shortText.default(''),
        errors: z.int().min(0).max(2000).default(0),
      }),
    )
    .max(256)
    .refine(isOnePerOutput, doubled)
    .default([]),
  /** What is right was stored in the receivers, and outlives the power. */
  stored: z.boolean().default(false),
});

export type RealWall = Readonly<Omit<z.infer<typeof realWallSchema>, 'order' | 'cuts' | 'turned'>> & {
  readonly order: readonly number[] | null;
  readonly turned: readonly number[];
  readonly cuts: readonly { readonly output: number; readonly panels: number }[];
};
