import { show as core } from '@deep-patch/core';
import { z } from 'zod';

// What the server answers, for the description of its interface. Large answers whose parts are told elsewhere are given
// by what a client of the interface relies on; what else stands in them may grow.

const rev = z.int().min(0);
const text = z.string();

export const healthAnswer = z.strictObject({ ok: z.literal(true), product: z.literal('deep-patch') });
export const documentAnswer = z.looseObject({ openapi: text, paths: z.record(text, z.looseObject({})) });
export const schemaAnswer = z.looseObject({ $schema: text });

export const showsAnswer = z.array(
  z.strictObject({
    id: core.idSchema,
    name: text,
    subtitle: text,
    rev,
    devices: z.int().min(0),
    archived: z.boolean(),
    changedAt: text,
  }),
);
export const showFileAnswer = z.looseObject({
  format: z.literal('deep-patch/show'),
  version: z.literal(1),
  name: text,
});
export const madeAnswer = z.strictObject({ id: core.idSchema });
export const savedAnswer = z.strictObject({ rev, id: core.idSchema });
export const stepAnswer = z.strictObject({ rev, label: text });
export const historyAnswer = z.strictObject({ undo: text.nullable(), redo: text.nullable() });
export const loggedAnswer = z.strictObject({
  rev,
  id: core.idSchema,
  kind: z.enum(['do', 'undo', 'redo']),
  ofRev: rev.nullable(),
  label: text,
  author: text,
  edits: z.array(z.looseObject({ table: z.enum(core.tableNames), id: core.idSchema, base: rev })),
});
export const changesAnswer = z.strictObject({ changes: z.array(loggedAnswer).nullable() });

/** Every table as rows by their ids; a row is what its table's schema says, and the revision that wrote it. */
export const showAnswer = z.strictObject({
  id: core.idSchema,
  name: text,
  subtitle: text,
  rev,
  ...(Object.fromEntries(
    core.tableNames.map((table) => [table, z.record(core.idSchema, z.looseObject({ id: core.idSchema, rev }))]),
  ) as unknown as Record<core.TableName, z.ZodType>),
});

const sounding = z.looseObject({
  linkId: core.idSchema,
  source: z.enum(['bench', 'field']),
  at: z.number(),
  rev,
  layers: z.array(
    z.looseObject({ layer: z.enum(core.layerNames), state: z.enum(['pass', 'fail', 'waits', 'unseen']), code: text }),
  ),
  rttMs: z.number().nullable(),
});
export const soundingAnswer = sounding;

const host = z.looseObject({ id: text, mac: text.nullable(), ips: z.array(z.looseObject({ ip: z.ipv4() })) });
export const seenAnswer = z.strictObject({ soundings: z.record(text, sounding), found: z.record(text, host) });
export const captureAnswer = z.looseObject({ hosts: z.array(host) });
export const foundAnswer = z.strictObject({ hosts: z.int().min(1) });
export const fileAnswer = z.strictObject({ fileId: text.regex(/^[0-9a-f]{64}$/), bytes: z.int().min(1) });

export const analysisAnswer = z.strictObject({
  rev,
  findings: z.array(z.looseObject({ code: text, words: z.strictObject({ what: text, why: text, fix: text }) })),
  links: z.array(z.looseObject({ id: core.idSchema })),
});

export const benchAnswer = z.looseObject({
  showId: core.idSchema,
  rev,
  seq: z.int(),
  standins: z.array(z.looseObject({ deviceId: core.idSchema, powered: z.boolean(), status: text })),
  heard: z.array(z.looseObject({ at: z.number(), from: text, to: text, protocol: text, text, ok: z.boolean() })),
  jacks: z.array(z.looseObject({ deviceId: core.idSchema, serviceKey: core.idSchema, port: z.int() })),
  faults: z.array(z.looseObject({})),
});
export const waysAnswer = z.array(
  z.strictObject({ way: text, works: z.boolean(), from: text.nullable(), needs: z.string() }),
);
const part = z.strictObject({ name: text, value: text, at: z.int().min(0), length: z.int().min(1) });
export const frameAnswer = z.strictObject({
  hex: text.regex(/^([0-9a-f]{2})+$/),
  layers: z.array(z.strictObject({ name: text, parts: z.array(part).min(1) })),
});
export const addressesAnswer = z.array(
  z.strictObject({
    address: text,
    count: z.int().min(1),
    values: z.array(z.strictObject({ last: text, least: z.number().nullable(), greatest: z.number().nullable() })),
  }),
);
