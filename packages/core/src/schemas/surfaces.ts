import { z } from 'zod';
import { argumentsSchema, idSchema, labelText, nameSchema, shortText } from './scalars.ts';
import {
  assignmentDeeds,
  controlKinds,
  controlLamps,
  controlParts,
  lampColours,
  machineActs,
  oddFaders,
  pickUps,
  transferCurves,
} from './words.ts';

const value = z.number().min(-1e9, 'Not below −1,000,000,000').max(1e9, 'At most 1,000,000,000');
const share = z.number().min(0).max(1);

/** Something on a surface that a hand moves. `row` and `column` count from zero, as its remote protocol counts them. */
export const typeControlSchema = z.strictObject({
  key: idSchema,
  label: nameSchema,
  kind: z.enum(controlKinds),
  row: z.int().min(0).max(63),
  column: z.int().min(0).max(63),
  /** Rows that it takes up. */
  rows: z.int().min(1).max(16).default(1),
  /** It has a screen of its own that can show what it does. */
  screen: z.boolean().default(false),
  lamp: z.enum(controlLamps).default('none'),
  /** What it sends at its end stops; a key sends `greatest` when it is pressed and `least` when it is let go. */
  least: value.default(0),
  greatest: value.default(127),
  /** The channel strip that it belongs to, counted from one. */
  strip: z.int().min(1).max(128).nullable().default(null),
  /** It does nothing before somebody enables it at the surface, as turning often has to be (need 8.16). */
  enabledFirst: z.boolean().default(false),
  /** Stands apart from the strips, and does nothing until somebody assigns it. */
  odd: z.boolean().default(false),
});

/** What a unit tells by itself, and what that means for a lamp. */
export const feedbackSchema = z.strictObject({
  key: idSchema,
  label: nameSchema,
  /** What its own screen calls it. */
  parameter: nameSchema,
  means: shortText,
  /** The values at which a lamp for it is lit; with none it is lit by any but 0, false and nothing. */
  lit: z.array(shortText.min(1, 'An empty value would be lit by anything')).max(16),
  /** The colour in which a lamp that has several is lit at a value. */
  colours: z
    .array(z.strictObject({ says: shortText.min(1, 'Say at which value'), colour: z.enum(lampColours) }))
    .max(16)
    .optional(),
  /** The command that asks for it, or that asks to be told from then on, where the unit tells nobody who did not ask. */
  ask: idSchema.optional(),
});

/** A control of one unit that its type does not list: heard from an outside program, or a region of a touch screen. */
export const controlSchema = z
  .strictObject({
    id: idSchema,
    deviceId: idSchema,
    label: nameSchema,
    kind: z.enum(controlKinds),
    row: z.int().min(0).max(63),
    column: z.int().min(0).max(63),
    /** The OSC address that it sends, or its MIDI message in words without the value; empty for a region. */
    address: shortText.default(''),
    least: value.default(0),
    greatest: value.default(1),
    /** Where on a screen of this size a pointer or finger triggers it, in the screen's own points. */
    region: z
      .strictObject({
        screenWidth: z.int().min(1).max(32_768),
        screenHeight: z.int().min(1).max(32_768),
        x: z.int().min(0).max(32_767),
        y: z.int().min(0).max(32_767),
        width: z.int().min(1).max(32_768),
        height: z.int().min(1).max(32_768),
      })
      .nullable()
      .default(null),
  })
  .refine(({ least, greatest }) => least !== greatest, {
    path: ['greatest'],
    message: 'Its end stops are the same: it could send one value only',
  })
  .refine(
    ({ region }) =>
      region === null ||
      (region.x + region.width <= region.screenWidth && region.y + region.height <= region.screenHeight),
    { path: ['region'], message: 'The region reaches beyond the screen' },
  );

/** How the value of a control becomes that of a parameter (C50). `points` are shares of both ranges. */
export const transferSchema = z
  .strictObject({
    fromMin: value,
    fromMax: value,
    toMin: value,
    toMax: value,
    curve: z.enum(transferCurves).default('straight'),
    points: z
      .array(z.strictObject({ at: share, to: share }))
      .max(32)
      .default([]),
    /** The parameter moves in steps of this size. */
    step: z.number().min(1e-6).max(1e9).nullable().default(null),
    /** Share of the way at each end stop in which nothing moves any more. */
    dead: z.number().min(0).max(0.45, 'At most 45 % at each end').default(0),
    low: value.nullable().default(null),
    high: value.nullable().default(null),
    pickUp: z.enum(pickUps).default('jump'),
  })
  .refine(({ fromMin, fromMax }) => fromMin !== fromMax, {
    path: ['fromMax'],
    message: 'The control’s range has no width: nothing can be scaled from it',
  })
  .refine(({ low, high }) => low === null || high === null || low <= high, {
    path: ['high'],
    message: 'The upper limit is below the lower one',
  })
  .refine(
    ({ curve, points }) =>
      curve === 'straight' ||
      (points.length >= 2 && points.every(({ at }, n) => n === 0 || at > (points[n - 1]?.at ?? 0))),
    { path: ['points'], message: 'A table has at least two points, each further along than the one before' },
  );

/** One thing that a control does. Of several with the same control, layer and part each is done, in the order of their ids. */
export const assignmentSchema = z.strictObject({
  id: idSchema,
  deviceId: idSchema,
  control: idSchema,
  /** The layer or page on which it counts, from zero; null is on all. */
  layer: z.int().min(0).max(99).nullable().default(null),
  part: z.enum(controlParts).default('whole'),
  does: z.enum(assignmentDeeds).default('command'),
  targetId: idSchema.nullable().default(null),
  serviceKey: idSchema.nullable().default(null),
  command: idSchema.nullable().default(null),
  args: argumentsSchema.default([]),
  /** The argument that gets the control's value; null sends the arguments as they are. */
  drives: nameSchema.nullable().default(null),
  transfer: transferSchema.nullable().default(null),
  /** Further targets of the same kind: whichever is chosen on the panel gets it. */
  among: z.array(idSchema).max(64).default([]),
  /** Which of them is chosen, or which layer is shown, by this control; from zero. */
  number: z.int().min(0).max(999).nullable().default(null),
  machine: z.enum(machineActs).nullable().default(null),
  /** What of the target the control's lamp shows. */
  feedback: idSchema.nullable().default(null),
  /** What stands on the control; empty takes the words of what it does. */
  label: labelText.default(''),
});

/** A surface as one stretch of a mixer's channels. */
export const bankSchema = z.strictObject({
  id: idSchema,
  deviceId: idSchema,
  targetId: idSchema,
  serviceKey: idSchema,
  command: idSchema,
  /** Arguments of the command that are the channel, and the level. */
  channel: nameSchema,
  level: nameSchema,
  place: z.int().min(0).max(999),
  /** Strips of the surfaces before it; null is worked out from their order. */
  offset: z.int().min(0).max(9999).nullable().default(null),
  odd: z.enum(oddFaders).default('none'),
});
