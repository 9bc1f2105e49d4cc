import { z } from 'zod';
import { kindSchema, typeFaults, typeSchema as typeShape } from './device-type.ts';
import { cueSchema } from './cues.ts';
import { clipSchema, inputRuleSchema } from './onair.ts';
import { timeHopSchema } from './timecode.ts';
import {
  argumentsSchema,
  count,
  daySchema,
  feedSchema,
  hostNameSchema,
  idSchema,
  ipSchema,
  labelText,
  loginSchema,
  macSchema,
  nameSchema,
  noteText,
  portSchema,
  prefixSchema,
  shortText,
  systemSchema,
  vlanSchema,
} from './scalars.ts';
import { limits } from './limits.ts';
import { wallSchema } from './wall.ts';
import { assignmentSchema, bankSchema, controlSchema } from './surfaces.ts';
import {
  accountUses,
  cableGrades,
  cableStages,
  commitActs,
  connectionRoles,
  deviceKinds,
  inputKinds,
  media,
  networkPurposes,
  outputForms,
  rateKeys,
  settingKinds,
} from './words.ts';

/** Where definitions of models come from. Of two definitions of one model, that of the library with the lower position counts. */
export const librarySchema = z.strictObject({
  id: idSchema,
  name: nameSchema,
  position: z.int().min(0).max(100_000),
});

export const typeSchema = typeShape.superRefine((type, context) => {
  for (const { path, message } of typeFaults(type)) context.addIssue({ code: 'custom', path, message });
});

export const networkSchema = z
  .strictObject({
    id: idSchema,
    name: nameSchema,
    network: ipSchema,
    prefix: prefixSchema,
    vlan: z.int().min(1).max(limits.vlan).nullable(),
    purpose: shortText,
    carries: z.enum(networkPurposes).default('mixed'),
    gateway: ipSchema.nullable(),
    /** Members need something outside, such as updates or a remote operator. */
    needsOutside: z.boolean().default(false),
    poolFrom: ipSchema.nullable(),
    poolTo: ipSchema.nullable(),
    /** The house's network is used by permission: in the granted ranges only, by its rules. */
    owner: z.enum(['ours', 'house']).default('ours'),
    contact: shortText.default(''),
    rules: noteText.default(''),
    granted: z
      .array(z.strictObject({ first: ipSchema, last: ipSchema }))
      .max(32)
      .default([]),
    /** Room to keep free for growth, in percent of what is planned. */
    growth: count(limits.growth).default(20),
  })
  .refine(({ network, prefix }) => hostBits(network, prefix) === 0, {
    path: ['network'],
    message: 'A network starts where its mask ends: no bits behind the prefix',
  });

const hostBits = (ip: string, prefix: number): number =>
  ip.split('.').reduce((sum, part) => sum * 256 + Number(part), 0) % 2 ** (32 - prefix);

export const blockSchema = z.strictObject({
  id: idSchema,
  networkId: idSchema,
  label: nameSchema,
  kinds: z.array(kindSchema).max(deviceKinds.length),
  first: ipSchema,
  last: ipSchema,
  /** `keep_free`: somebody else's, or for later; nothing is placed there. */
  use: z.enum(['place', 'keep_free']).default('place'),
});

export const deviceSchema = z.strictObject({
  id: idSchema,
  typeId: idSchema,
  name: nameSchema,
  unit: z
    .int('A unit number is whole')
    .min(0, 'Unit numbers start at 0')
    .max(limits.unit, `Unit numbers end at ${limits.unit}`)
    .nullable(),
  place: shortText,
  firmware: shortText.nullable(),
  note: noteText,
  serial: shortText.default(''),
  /** What it calls itself on the wire, where that is not its name in the rig. */
  hostName: hostNameSchema.default(''),
  /** How often a spare took its place. */
  swaps: count(9999).default(0),
  /** Key of the type's variant or mode that this unit is. */
  variant: idSchema.nullable().default(null),
  /** The computer that a program runs on, and the adapter of it that the program was told to use. */
  runsOn: idSchema.nullable().default(null),
  adapter: idSchema.nullable().default(null),
  system: systemSchema.nullable().default(null),
  systemVersion: shortText.nullable().default(null),
  /** Keys of the type's features that the show uses. */
  features: z.array(idSchema).max(32).default([]),
  /** Sources or callers that it has to take. */
  sources: count(limits.sources).nullable().default(null),
  /** Keys of the type's accessories that are in the case. */
  packed: z.array(idSchema).max(16).default([]),
  feed: feedSchema.nullable().default(null),
  /** The circuit or distribution that its power comes from, such as `Quay B`: all on one go dark together. */
  circuit: shortText.default(''),
  /** Day of the last copy of its settings kept away from it. */
  savedOn: daySchema.nullable().default(null),
  /** Things of the list before the site that are done, by their keys. */
  done: z.array(z.string().max(120)).max(64).default([]),
  /** IPv6 serves a first contact; `off` says that it is switched off afterwards. */
  ipv6: z.enum(['as_delivered', 'off']).default('as_delivered'),
  /**
   * VLANs of a managed switch's sockets where they are not what the plan would set: frames without a tag belong to
   * `untagged`, or are dropped where that is null; `tagged` ones pass with their tag (IEEE 802.1Q section 8.8).
   */
  socketVlans: z
    .array(
      z.strictObject({
        socket: idSchema,
        untagged: vlanSchema.nullable(),
        tagged: z.array(vlanSchema).max(64),
      }),
    )
    .max(64)
    .default([]),
  /** Inputs of a switcher as they are declared in it: what kind of source each has, and its label. */
  inputs: z
    .array(z.strictObject({ number: z.int().min(1).max(1000), label: labelText, kind: z.enum(inputKinds) }))
    .max(200)
    .default([]),
  /** What the crew agreed where several controllers drive it: who may when. */
  sharing: shortText.default(''),
  /** The named group of alike ones that it moves together with, as it was asked for when they first met. */
  peers: shortText.default(''),
  /** The rate at which it works: of pictures, or of the time code that it makes or waits for. */
  rate: z.enum(rateKeys).nullable().default(null),
  /** Of a switcher: frames from the cut until the bus changes; null is none. */
  takeDelay: count(limits.takeDelay).nullable().default(null),
  /** Of several sources of time code it is the one that leads. */
  leads: z.boolean().default(false),
  /** What it is used for where it moves together with others, such as lyrics, notices, stage monitor. */
  usedFor: shortText.default(''),
  /** How its picture sockets, or those of the computer that it runs on, show what is open; the others show all of it. */
  outputs: z
    .array(z.strictObject({ socket: idSchema, form: z.enum(outputForms) }))
    .max(16)
    .default([]),
  /** Names in lists of its own, as they were last taken over from it; of any other list those of its type count. */
  names: z
    .array(z.strictObject({ list: idSchema, names: z.array(nameSchema).max(500) }))
    .max(8)
    .default([]),
  /** Accounts beyond the logins of its services, and who keeps the password, which is not written down here. */
  accounts: z
    .array(z.strictObject({ use: z.enum(accountUses), account: nameSchema, keeper: shortText }))
    .max(8)
    .default([]),
});

/** What stands in a unit according to whoever keyed it in last; `id` is the unit's. */
export const keyedInSchema = z.strictObject({
  id: idSchema,
  deviceId: idSchema,
  values: z
    .array(
      z.strictObject({
        of: z.enum(settingKinds),
        key: z.string().max(90),
        label: z.string().max(120),
        value: z.string().max(300),
      }),
    )
    .max(10_000),
});

const placeSchema = z.strictObject({ ip: ipSchema, prefix: prefixSchema });
const momentSchema = z.int().min(0).max(9_000_000_000_000);
const stepKeySchema = z.string().min(1).max(130);

/**
 * How far the bring-up of one unit has come, and what is true of it now that neither the plan nor what was keyed in
 * says; `id` is the unit's.
 */
export const progressSchema = z.strictObject({
  id: idSchema,
  deviceId: idSchema,
  /** It is plugged in and has power. */
  joined: z.boolean().default(false),
  signedIn: z.boolean().default(false),
  /** Where somebody found it, which is neither where it was delivered nor where it was keyed in; null ip is none at all. */
  shows: z.strictObject({ ip: ipSchema.nullable(), prefix: prefixSchema }).nullable().default(null),
  /** What was keyed in counts only after these acts; until then it is where `held` says. */
  due: z.array(z.enum(commitActs)).max(commitActs.length).default([]),
  held: placeSchema.nullable().default(null),
  /** An address for the meantime that is keyed in, to be replaced by the planned one. */
  meantime: placeSchema.nullable().default(null),
  /** What was true when its confirmation passed: as soon as the plan says otherwise, it has to pass again. */
  confirmed: z
    .array(z.strictObject({ step: stepKeySchema, basis: z.string().max(200) }))
    .max(32)
    .default([]),
  /** Who is on a step of it just now. */
  taken: z.strictObject({ step: stepKeySchema, by: nameSchema, at: momentSchema }).nullable().default(null),
  /** Steps that were left out, and why. */
  left: z
    .array(z.strictObject({ step: stepKeySchema, why: z.enum(['skipped', 'failed']), note: shortText }))
    .max(64)
    .default([]),
  log: z
    .array(
      z.strictObject({
        step: stepKeySchema,
        what: z.enum(['done', 'skipped', 'failed', 'shown']),
        by: nameSchema,
        at: momentSchema,
        /** How long it took, in seconds, and how long its type says; null where nobody began it. */
        tookS: z.number().min(0).max(86_400).nullable().default(null),
        usualS: z.number().min(0).max(86_400).nullable().default(null),
      }),
    )
    .max(200)
    .default([]),
  /** Of the computer that the technician sets everything from: how many addresses an adapter of it may hold. */
  holds: z.int().min(1).max(64).nullable().default(null),
  /** The last acceptance: every link sounded after a cold start, and where those stopped that did not reach bottom. */
  accepted: z
    .strictObject({
      at: momentSchema,
      by: nameSchema,
      links: z.array(z.strictObject({ linkId: idSchema, stop: z.string().max(20).nullable() })).max(20_000),
    })
    .nullable()
    .default(null),
  /** What its adapters are set to now, and where each is plugged in; empty as long as nobody has begun. */
  adapters: z
    .array(
      z.strictObject({
        adapter: idSchema,
        places: z.array(placeSchema).max(64),
        /** The switch or the unit that its cable leads to for now; null is as planned. */
        at: z.strictObject({ deviceId: idSchema, socket: idSchema, vlan: vlanSchema.nullable() }).nullable(),
      }),
    )
    .max(16)
    .default([]),
});

/** A paper kept with the show: a manual of one `model`, or of the whole show. `fileId` is the SHA-256 of its bytes. */
export const documentSchema = z.strictObject({
  id: idSchema,
  model: idSchema.nullable(),
  title: nameSchema,
  fileId: z.string().regex(/^[0-9a-f]{64}$/, 'A file is named by its SHA-256'),
  bytes: count(20_000_000),
});

/** Somebody to ask: the house's administrator, the friend who knows the panel. */
export const contactSchema = z.strictObject({
  id: idSchema,
  name: nameSchema,
  knows: shortText.default(''),
  reach: shortText.default(''),
});

export const interfaceSchema = z.strictObject({
  id: idSchema,
  deviceId: idSchema,
  adapter: idSchema,
  mac: macSchema.nullable(),
});

/** One address of an interface as planned; `ip` null means it waits to be placed, `prefix` null takes the network's. */
export const addressSchema = z.strictObject({
  id: idSchema,
  interfaceId: idSchema,
  networkId: idSchema,
  ip: ipSchema.nullable(),
  prefix: prefixSchema.nullable(),
  gateway: ipSchema.nullable(),
  held: z.boolean(),
  /** `dhcp` with an address is a reservation at the server; without one the address is not known beforehand. */
  method: z.enum(['static', 'dhcp', 'self']).default('static'),
});

export const cableSchema = z
  .strictObject({
    id: idSchema,
    fromDevice: idSchema,
    fromSocket: idSchema,
    toDevice: idSchema,
    toSocket: idSchema,
    medium: z.enum(media),
    /** What its jacket says; null while nobody has looked. */
    grade: z.enum(cableGrades).nullable().default(null),
    /** When it is plugged in: while everything is set up, in the show, or both. */
    stage: z.enum(cableStages).default('both'),
    lengthM: z.number().min(0).max(limits.lengthM).nullable(),
    /** One way, in milliseconds, where it is known: mostly of a wireless hop. */
    delayMs: z.number().min(0).max(limits.delayMs).nullable().default(null),
  })
  .refine(({ medium, grade }) => grade === null || mediumOfGrade[grade] === medium, {
    path: ['grade'],
    message: 'This grade belongs to another medium',
  });

const mediumOfGrade = {
  cat5e: 'copper',
  cat6: 'copper',
  cat6a: 'copper',
  om3: 'fibre',
  om4: 'fibre',
  os2: 'fibre',
} as const;

export const serviceSchema = z.strictObject({
  id: idSchema,
  deviceId: idSchema,
  key: idSchema,
  enabled: z.boolean(),
  receivePort: portSchema,
  sendPort: portSchema.nullable(),
  sendTo: ipSchema.nullable(),
  /** Further addresses that get its replies, where its type keeps a list. */
  alsoTo: z.array(ipSchema).max(16).default([]),
  /** The login method chosen on the unit; null is the first of its type. */
  login: loginSchema.nullable().default(null),
  /** What it does about a connection; null is the first of its type. One that opens it goes to `sendTo` at `sendPort`. */
  role: z.enum(connectionRoles).nullable().default(null),
  /** Kinds of clients that access was opened for at it, where its type asks for that. */
  openFor: z.array(kindSchema).max(16).default([]),
  account: shortText.nullable(),
  secretId: idSchema.nullable(),
});

/** One controller driving one target. `host` null means: whatever the plan gives the target. */
export const linkSchema = z.strictObject({
  id: idSchema,
  controllerId: idSchema,
  targetId: idSchema,
  serviceKey: idSchema,
  slot: z.int().min(0).max(limits.slot).nullable(),
  /** The group of the controller’s list that the slot is in; null where it has no groups. */
  slotGroup: z.int().min(0).max(limits.slotGroup).nullable().default(null),
  host: ipSchema.nullable(),
  port: portSchema,
  replyPort: portSchema.nullable(),
  /** What the controller does about a connection; one that waits for it does so at `port`. */
  role: z.enum(connectionRoles).default('opens'),
  account: shortText.nullable(),
  secretId: idSchema.nullable(),
  /** What the controller calls the target; empty where it shows no name or the same one. */
  label: labelText.default(''),
  command: idSchema.nullable(),
  /** The link whose effect sets this one off, where that is not plain from who controls whom. */
  after: idSchema.nullable().default(null),
  /** The crew says that no single loss may stop it. */
  mustHold: z.boolean().default(false),
  /** The message as it was typed, where no command of the target reads so; `command` names none then. */
  typed: shortText.default(''),
  args: argumentsSchema,
});

/** Licences owned for one bundle of a model. */
export const licenceSchema = z.strictObject({
  id: idSchema,
  model: idSchema,
  bundle: idSchema,
  owned: count(9999),
  note: shortText.default(''),
});

/** Every table of a show, in an order in which each refers only to those before it. */
export const schemas = {
  libraries: librarySchema,
  types: typeSchema,
  licences: licenceSchema,
  networks: networkSchema,
  blocks: blockSchema,
  devices: deviceSchema,
  interfaces: interfaceSchema,
  addresses: addressSchema,
  cables: cableSchema,
  services: serviceSchema,
  links: linkSchema,
  keyedIn: keyedInSchema,
  progress: progressSchema,
  documents: documentSchema,
  contacts: contactSchema,
  controls: controlSchema,
  assignments: assignmentSchema,
  banks: bankSchema,
  cues: cueSchema,
  inputRules: inputRuleSchema,
  clips: clipSchema,
  timeHops: timeHopSchema,
  walls: wallSchema,
} as const;

export type TableName = keyof typeof schemas;
export type Content<T extends TableName = TableName> = z.infer<(typeof schemas)[T]>;
/** `rev` is the show's revision at which the row was last changed. */
export type Row<T extends TableName = TableName> = Content<T> & { readonly rev: number };
/** A row with everything left out that has a usual value. */
export type Given<T extends TableName> = z.input<(typeof schemas)[T]>;

/**
 * The content of a row of any table with everything that may be left out filled in, however deep. It does not judge: a
 * row with a fault keeps it, and whoever saves it is told. What is worked out in a browser uses `contentWith` of show.
 */
export function filledRow<T extends TableName>(table: T, given: Given<T>): Content<T> {
  const read = schemas[table].safeParse(given);
  return (read.success ? read.data : { ...defaultsOf(table), ...given }) as Content<T>;
}

function defaultsOf(table: TableName): Record<string, unknown> {
  const fields = Object.entries<z.ZodType>(schemas[table].shape);
  return Object.fromEntries(
    fields.flatMap(([name, field]) => (field instanceof z.ZodDefault ? [[name, field.parse(undefined)]] : [])),
  );
}
