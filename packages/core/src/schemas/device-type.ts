import { z } from 'zod';
import {
  count,
  feedSchema,
  idSchema,
  ipSchema,
  loginSchema,
  nameSchema,
  portSchema,
  prefixSchema,
  shortText,
  systemSchema,
} from './scalars.ts';
import { feedbackSchema, typeControlSchema } from './surfaces.ts';
import {
  deviceKinds,
  socketRoles,
  connectors,
  triggers,
  protocols,
  replyRules,
  connectionRoles,
  settingWays,
  settingKinds,
  commitActs,
  lampMeanings,
  colourOrders,
  dataSides,
  timeFormats,
  licenceScopes,
} from './words.ts';

export const kindSchema = z.enum(deviceKinds);

const roleSchema = z.enum(socketRoles);

const argumentSchema = z.strictObject({
  name: nameSchema,
  type: z.enum(['i', 'f', 's', 'T']),
  min: z.number().optional(),
  max: z.number().optional(),
  unit: shortText.optional(),
  example: z.union([z.number(), z.string(), z.boolean()]),
  /** The value at which it does nothing, as the middle of a pan. */
  neutral: z.number().optional(),
  /** The list of the unit that it takes a name from, by its key. */
  list: idSchema.optional(),
});

/**
 * One thing that a service understands. `address` is an OSC address, an HTTP path, a line of text or a MIDI message in
 * words ("control-change 1 7 {level}"); a part in braces stands for the argument of that name. `sets` says what changes on the unit, so that planner, message check and stand-in agree.
 */
const commandSchema = z.strictObject({
  key: idSchema,
  label: nameSchema,
  method: z.enum(['GET', 'PUT', 'POST']).optional(),
  address: z.string().min(1).max(200),
  trigger: z.enum(triggers).optional(),
  args: z.array(argumentSchema).max(8),
  sets: z.array(z.strictObject({ parameter: nameSchema, value: shortText })).max(8),
  reply: z.strictObject({ address: z.string().min(1).max(200), args: z.array(shortText).max(8) }).nullable(),
  /** A show cannot be run without it. */
  essential: z.boolean().optional(),
  /** The command that undoes it or goes the other way: whoever can start has to be able to stop. */
  counterpart: idSchema.optional(),
});

const serviceTypeSchema = z.strictObject({
  key: idSchema,
  label: nameSchema,
  protocol: z.enum(protocols),
  transport: z.enum(['udp', 'tcp']),
  /** How OSC packets are told apart on a stream: by SLIP (OSC 1.1), as it is where nothing is said, or by their size before each (OSC 1.0). */
  framing: z.enum(['slip', 'size']).optional(),
  /** Whom it answers over UDP; the one address entered in it where nothing is said. */
  replies: z.enum(replyRules).optional(),
  /** What it can be told to do about a connection; the first is what the factory sets, and where nothing is said it waits. */
  roles: z.array(z.enum(connectionRoles)).min(1).max(2).optional(),
  receivePort: portSchema,
  sendPort: portSchema.nullable(),
  /** Methods that it offers; the first is what the factory sets. */
  logins: z.array(loginSchema).min(1, 'Name at least one, none included').max(3),
  /** Kinds of clients that it lets in only once access was opened for them at it (need 5.5); other kinds need none. */
  needsOpening: z.array(kindSchema).min(1).max(16).optional(),
  onByDefault: z.boolean(),
  lowestFirmware: shortText.nullable(),
  commands: z.array(commandSchema).max(200),
  feedback: z.array(feedbackSchema).max(100).optional(),
  /** Messages that it takes in within a second; where nothing is said, as many as come. */
  perSecond: z.int().min(1).max(100_000).optional(),
});

const socketSchema = z.strictObject({
  key: idSchema,
  label: nameSchema,
  adapter: idSchema.nullable(),
  role: roleSchema.default('any'),
  connector: z.enum(connectors).default('rj45'),
  /** The most that it runs at, in Mbit/s; where nothing is said, 1000. */
  rateMbps: z.int().min(10).max(100_000).nullable().default(null),
  /** Which way pictures go; where nothing is said, its label tells as far as it can. */
  direction: z.enum(['in', 'out']).nullable().default(null),
});

/**
 * A model of gear or of a program as data. `model` names it across libraries: of several definitions of one model,
 * that of the first library counts. Everything that a shipped file may leave out has a default.
 */
export const typeSchema = z.strictObject({
  id: idSchema,
  libraryId: idSchema,
  model: idSchema,
  version: z.string().trim().min(1, 'Give it a version, such as 1.0').max(20),
  name: nameSchema,
  kind: kindSchema,
  /** A program has no adapters of its own: it runs on a computer and uses those. */
  form: z.enum(['unit', 'program']).default('unit'),
  factory: z.strictObject({
    mode: z.enum(['static', 'dhcp', 'self', 'none']),
    ip: ipSchema.nullable(),
    prefix: prefixSchema.nullable(),
    /** It forms an IPv6 link-local address by itself, so that it can be reached before it has another. */
    linkLocal6: z.boolean().default(false),
    /** `preset`: an account that the whole trade knows; `create`: it asks for an administrator before anything else. */
    login: z.enum(['none', 'preset', 'create']).default('none'),
    account: shortText.nullable().default(null),
  }),
  adapters: z.array(z.strictObject({ key: idSchema, label: nameSchema })).max(16),
  sockets: z.array(socketSchema).max(64),
  /** Modes or variants in which sockets serve something else. */
  variants: z
    .array(
      z.strictObject({
        key: idSchema,
        label: nameSchema,
        sockets: z.array(z.strictObject({ key: idSchema, role: roleSchema, adapter: idSchema.nullable() })).max(64),
      }),
    )
    .max(8)
    .default([]),
  /** A switch or access point: sockets without an adapter are one bridge. */
  forwards: z.boolean().default(false),
  /** A switch that runs spanning tree and knows VLANs. */
  managed: z.boolean().default(false),
  /** It feeds units over their network cables (IEEE 802.3 clause 33). */
  feedsCables: z.boolean().default(false),
  /** Where its address is set; `alone`: only while nothing else shares its network. */
  ways: z
    .array(z.strictObject({ way: z.enum(settingWays), note: shortText.default(''), alone: z.boolean().default(false) }))
    .max(8)
    .default([]),
  commits: z
    .array(
      z.strictObject({
        of: z.enum(settingKinds),
        acts: z
          .array(z.strictObject({ act: z.enum(commitActs), seconds: count(3600).nullable().default(null) }))
          .max(8),
      }),
    )
    .max(settingKinds.length)
    .default([]),
  startsInSeconds: count(3600).nullable().default(null),
  /** How many sets of settings it keeps in a list of its own. */
  sets: count(32).default(0),
  /** Its menu refuses an empty gateway. */
  needsGateway: z.boolean().default(false),
  services: z.array(serviceTypeSchema).max(32).default([]),
  features: z
    .array(
      z.strictObject({
        key: idSchema,
        label: nameSchema,
        lowest: shortText.nullable().default(null),
        bundle: idSchema.nullable().default(null),
        /** Further licences, any of which opens it as well. */
        orBundles: z.array(idSchema).max(8).default([]),
      }),
    )
    .max(32)
    .default([]),
  bundles: z
    .array(z.strictObject({ key: idSchema, label: nameSchema, per: z.enum(licenceScopes) }))
    .max(16)
    .default([]),
  /** How many sources it takes, and how many controllers may drive it at once (1: equal controllers are refused). */
  most: z
    .strictObject({ sources: count(10_000).nullable(), controllers: count(1000).nullable() })
    .default({ sources: null, controllers: null }),
  /** What one costs to get for this show, in whatever money the crew counts in; null where nobody knows. */
  price: z.number().min(0).max(10_000_000).nullable().default(null),
  chain: z
    .strictObject({ most: count(1000), delayMs: z.number().min(0).max(10_000) })
    .nullable()
    .default(null),
  /** An older product that a unit of another model brings onto the network, which serves so many of them. */
  through: z
    .strictObject({ model: idSchema, serves: z.int().min(1).max(1000) })
    .nullable()
    .default(null),
  /** A program of which each needs a computer that runs no other of its kind: an operator's station. */
  ownComputer: z.boolean().default(false),
  /** As a controller it looks a target's address up once, when it is entered. */
  looksUpOnce: z.boolean().default(false),
  /** As a controller it shows a lamp for each target; null where it has none. */
  lampMeans: z.enum(lampMeanings).nullable().default(null),
  /** As a controller or target it must have the same version as a partner of that model. */
  matches: z
    .array(z.strictObject({ model: idSchema, rule: z.enum(['equal', 'first_part']) }))
    .max(16)
    .default([]),
  /** Ways to feed it; the first is the usual one. */
  power: z
    .array(z.strictObject({ feed: feedSchema, note: shortText.default('') }))
    .max(5)
    .default([]),
  /** Systems that a program runs on, with the lowest version of each. */
  runsOn: z
    .array(
      z.strictObject({
        system: systemSchema,
        lowest: shortText.nullable().default(null),
        /** The last version on which it runs. */
        highest: shortText.nullable().default(null),
      }),
    )
    .max(8)
    .default([]),
  accessories: z
    .array(
      z.strictObject({
        key: idSchema,
        label: nameSchema,
        /** `always`, for any `network` cable, or for one feature by its key. */
        need: z.union([z.literal('always'), z.literal('network'), idSchema]),
        count: z.int().min(1).max(100).default(1),
      }),
    )
    .max(16)
    .default([]),
  /** Drivers, background services and bridges that must be installed beside it, with their purpose. */
  helpers: z
    .array(z.strictObject({ label: nameSchema, purpose: shortText, system: systemSchema.nullable().default(null) }))
    .max(16)
    .default([]),
  /** What needs the internet before the site: downloads, accounts, a first sign-in. */
  online: z.array(shortText.min(1)).max(16).default([]),
  /** What a reset to factory state erases. */
  erases: z.array(shortText.min(1)).max(16).default([]),
  /** Manuals and papers to have at hand. */
  papers: z.array(shortText.min(1)).max(16).default([]),
  /** Protocols that this type can speak as a controller. */
  drives: z.array(z.enum(protocols)).max(8).default([]),
  /** Keys of the commands that it can send at all, where it is a client of limited scope; with none it sends any. */
  sendsOnly: z.array(idSchema).max(64).default([]),
  /** What a hand moves on it, where it is a surface, and how many layers or pages of meanings it has. */
  controls: z.array(typeControlSchema).max(512).default([]),
  layers: z.int().min(1).max(100).default(1),
  /** Lists of names that it keeps, such as callers or clips, with those that it has on the bench. */
  lists: z
    .array(z.strictObject({ key: idSchema, label: nameSchema, names: z.array(nameSchema).max(500) }))
    .max(8)
    .default([]),
  /**
   * A player: milliseconds from an order to the first moving frame, with how much that varies on the bench, and what it
   * can play. No codecs named: nobody has said.
   */
  plays: z
    .strictObject({
      startMs: z.number().min(0).max(60_000),
      jitterMs: z.number().min(0).max(60_000),
      codecs: z.array(shortText.min(1)).max(64).default([]),
      most: z
        .strictObject({ width: z.int().min(1), height: z.int().min(1), fps: z.number().min(1) })
        .nullable()
        .default(null),
      /** The lowest version from which several of them play frame for frame together; null where none does. */
      togetherFrom: shortText.nullable().default(null),
    })
    .nullable()
    .default(null),
  /** What it does with time code: what it takes in and gives out, and how many inputs may be chosen at once. */
  timecode: z
    .strictObject({
      takes: z.array(z.enum(timeFormats)).max(timeFormats.length),
      gives: z.array(z.enum(timeFormats)).max(timeFormats.length),
      inputs: z.int().min(1).max(64).nullable().default(null),
      /** It makes time code by itself: a source, or a generator for tests. */
      makes: z.boolean().default(false),
    })
    .nullable()
    .default(null),
  /** One panel of an LED wall: what is printed on its back. */
  panel: z
    .strictObject({
      width: z.int().min(1).max(1024),
      height: z.int().min(1).max(1024),
      widthMm: z.number().min(1).max(5000),
      heightMm: z.number().min(1).max(5000),
      kg: z.number().min(0).max(500),
      /** All of it white. */
      watts: z.number().min(0).max(5000),
      /** For a moment when power comes. */
      startAmps: z.number().min(0).max(200).nullable().default(null),
      /** Modules side by side and above each other. */
      across: z.int().min(1).max(32).default(1),
      down: z.int().min(1).max(32).default(1),
      /** One row of so many in a module is lit at a time: 16 for 1/16. */
      scan: z.int().min(1).max(128),
      chip: shortText.default(''),
      colours: z.enum(colourOrders).default('RGB'),
      dataFrom: z.enum(dataSides).default('left'),
    })
    .refine(
      ({ width, height, across, down, scan }) =>
        width % across === 0 && height % down === 0 && (height / down) % scan === 0,
      'Modules and rows that are lit at a time divide the panel without a rest',
    )
    .nullable()
    .default(null),
  /** What drives a wall: its data outputs, and pixels that each carries at 8 bits and 60 pictures a second. */
  drivesWall: z
    .strictObject({
      outputs: z.int().min(1).max(256),
      pixels: z.int().min(1).max(100_000_000),
      /** Its panels hang on distribution units with so many outputs each; null: on itself. */
      unitOutputs: z.int().min(1).max(64).nullable().default(null),
    })
    .nullable()
    .default(null),
  /** What its own screen shows on the bench: parameter and starting value. */
  face: z
    .array(z.strictObject({ parameter: nameSchema, start: shortText }))
    .max(12)
    .default([]),
});

type Shape = z.infer<typeof typeSchema>;

/** Faults between the parts of a type, each with the path of the part: doubled keys and names that lead nowhere. */
export function typeFaults(type: Shape): { path: (string | number)[]; message: string }[] {
  const adapters = new Set(type.adapters.map(({ key }) => key));
  const sockets = new Set(type.sockets.map(({ key }) => key));
  const bundles = new Set(type.bundles.map(({ key }) => key));
  const features = new Set(type.features.map(({ key }) => key));
  const lists = [
    ...(['adapters', 'sockets', 'variants', 'services', 'features', 'bundles', 'accessories'] as const),
    ...(['controls', 'lists'] as const),
  ] as const;
  const faults = lists.flatMap((list) => doubled(list, type[list]));
  const say = (path: (string | number)[], message: string) => void faults.push({ path, message });
  const adapterKnown = (key: string | null) => key === null || adapters.has(key);
  type.sockets.forEach(({ adapter }, at) => {
    if (!adapterKnown(adapter)) say(['sockets', at, 'adapter'], `There is no adapter “${adapter}”`);
  });
  type.variants.forEach((variant, at) =>
    variant.sockets.forEach(({ key, adapter }, n) => {
      if (!sockets.has(key)) say(['variants', at, 'sockets', n, 'key'], `There is no socket “${key}”`);
      if (!adapterKnown(adapter)) say(['variants', at, 'sockets', n, 'adapter'], `There is no adapter “${adapter}”`);
    }),
  );
  type.features.forEach(({ bundle, orBundles }, at) => {
    if (bundle !== null && !bundles.has(bundle)) say(['features', at, 'bundle'], `There is no bundle “${bundle}”`);
    orBundles.forEach((key, n) => {
      if (!bundles.has(key)) say(['features', at, 'orBundles', n], `There is no bundle “${key}”`);
    });
  });
  type.accessories.forEach(({ need }, at) => {
    if (need !== 'always' && need !== 'network' && !features.has(need))
      say(['accessories', at, 'need'], `There is no feature “${need}”`);
  });
  if ((type.factory.ip === null) !== (type.factory.prefix === null))
    say(['factory', 'ip'], 'A factory address and its mask belong together');
  if (type.factory.mode === 'static' && type.factory.ip === null)
    say(['factory', 'ip'], 'A fixed factory address is missing');
  type.services.forEach((service, at) => {
    if (service.protocol !== 'osc' && service.protocol !== 'http') return;
    service.commands.forEach(({ address, reply }, n) => {
      for (const [path, text] of [
        ['address', address],
        ['reply', reply?.address],
      ] as const)
        if (text !== undefined && !text.startsWith('/'))
          say(['services', at, 'commands', n, path], 'OSC addresses and paths start with a stroke');
    });
  });
  type.services.forEach(({ commands }, at) =>
    commands.forEach((command, n) => {
      for (const [path, name] of unnamed(command))
        say(['services', at, 'commands', n, path], `No argument is called “${name}”`);
    }),
  );
  type.services.forEach((service, at) => {
    const { commands, protocol, needsOpening, feedback = [] } = service;
    if (needsOpening && protocol !== 'http')
      say(['services', at, 'needsOpening'], 'What kind of client asks is told over HTTP only');
    const keys = new Set(commands.map(({ key }) => key));
    const kept = new Set(type.lists.map(({ key }) => key));
    commands.forEach(({ counterpart, args }, n) => {
      if (counterpart !== undefined && !keys.has(counterpart))
        say(['services', at, 'commands', n, 'counterpart'], `There is no command “${counterpart}”`);
      args.forEach(({ list }, m) => {
        if (list !== undefined && !kept.has(list))
          say(['services', at, 'commands', n, 'args', m, 'list'], `There is no list “${list}”`);
      });
    });
    feedback.forEach(({ ask }, n) => {
      const fault =
        ask === undefined
          ? undefined
          : askFault(
              service,
              commands.find(({ key }) => key === ask),
              ask,
            );
      if (fault !== undefined) say(['services', at, 'feedback', n, 'ask'], fault);
    });
    faults.push(
      ...doubled('feedback', feedback).map(({ path, message }) => ({ path: ['services', at, ...path], message })),
    );
  });
  type.controls.forEach(({ least, greatest }, at) => {
    if (least === greatest)
      say(['controls', at, 'greatest'], 'Its end stops are the same: it could send one value only');
  });
  if (type.form === 'program' && type.adapters.length + type.sockets.length > 0)
    say(['form'], 'A program has no adapters or sockets of its own');
  return faults;
}

/** What is wrong with a command that is to ask for a state. */
function askFault(
  { protocol, transport }: z.infer<typeof serviceTypeSchema>,
  command: z.infer<typeof commandSchema> | undefined,
  key: string,
): string | undefined {
  const isAsked = protocol === 'http' || (protocol === 'osc' && transport === 'udp');
  if (!isAsked) return 'On a connection that is kept nobody asks: it tells by itself';
  if (!command) return `There is no command “${key}”`;
  return command.args.length > 0 || command.sets.length > 0
    ? `“${command.label}” takes or changes something: what only asks does neither`
    : undefined;
}

/** Names in braces that no argument of the command has, with the field in which they stand. */
function unnamed({ address, args, sets, reply }: z.infer<typeof commandSchema>): [path: string, name: string][] {
  const names = new Set(args.map(({ name }) => name));
  const texts: [path: string, text: string][] = [
    ['address', address],
    ...sets.map(({ parameter, value }): [string, string] => ['sets', `${parameter} ${value}`]),
    ['reply', [reply?.address ?? '', ...(reply?.args ?? [])].join(' ')],
  ];
  return texts.flatMap(([path, text]) =>
    Array.from(text.matchAll(/\{([^{}]+)\}/g), ([, name = '']): [string, string] => [path, name]).filter(
      ([, name]) => !names.has(name),
    ),
  );
}

function doubled(list: string, items: readonly { key: string }[]) {
  const seen = new Set<string>();
  return items.flatMap(({ key }, at) => {
    if (!seen.has(key)) return (seen.add(key), []);
    return [{ path: [list, at, 'key'] as (string | number)[], message: `“${key}” stands here twice` }];
  });
}
