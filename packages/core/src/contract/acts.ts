import { z } from 'zod';
import {
  commitActs,
  connectionRoles,
  idSchema,
  ipSchema,
  loginSchema,
  portSchema,
  prefixSchema,
  realWallSchema,
  schemas,
  settingKinds,
  settingWays,
  shortText,
  testPictures,
  vlanSchema,
} from '../schemas/index.ts';
import { faultKinds } from '../show/index.ts';
import { machineActs } from '../schemas/index.ts';
import type { Fixed } from './fixed.ts';
import { unitCopySchema } from './unit-copy.ts';
import { rehearsalScriptSchema } from './rehearsal-script.ts';

const unit = { deviceId: idSchema };
const pair = { fromId: idSchema, toId: idSchema };
const units = { deviceIds: z.array(idSchema).min(1).max(5000) };
const act = <Name extends string, Shape extends z.ZodRawShape>(name: Name, shape: Shape) =>
  z.strictObject({ act: z.literal(name), ...shape });

const keyedSchema = z.discriminatedUnion('of', [
  z.strictObject({
    of: z.literal('address'),
    adapter: idSchema,
    method: z.enum(['static', 'dhcp', 'self']),
    ip: ipSchema.nullable(),
    prefix: prefixSchema,
    gateway: ipSchema.nullable(),
  }),
  z.strictObject({ of: z.literal('mode'), variant: idSchema.nullable() }),
  z.strictObject({
    of: z.literal('service'),
    key: idSchema,
    enabled: z.boolean().optional(),
    receivePort: portSchema.optional(),
    sendPort: portSchema.nullable().optional(),
    sendTo: ipSchema.nullable().optional(),
    alsoTo: z.array(ipSchema).max(16).optional(),
    role: z.enum(connectionRoles).nullable().optional(),
    openFor: z.array(schemas.types.shape.kind).max(16).optional(),
    login: loginSchema.nullable().optional(),
    account: shortText.nullable().optional(),
    password: shortText.optional(),
  }),
]);
const addressSchema = z.strictObject({ ip: ipSchema, prefix: prefixSchema, gateway: ipSchema.nullable() });
const wayInSchema = z.enum(settingWays);
const landingSchema = z.strictObject({ deviceId: idSchema, socket: idSchema, vlan: vlanSchema.nullable() });
const position = z.int().min(1).max(32);
const message = { targetId: idSchema, serviceKey: idSchema, command: idSchema.nullable() };
const values = { args: schemas.links.shape.args, typed: shortText };
/** Controls of a surface that were moved, in order; `value` as the control counts. */
const movesSchema = z.strictObject({
  ...unit,
  moves: z
    .array(
      z.strictObject({
        control: idSchema,
        part: schemas.assignments.shape.part.unwrap(),
        value: z.number().min(-1e9).max(1e9),
      }),
    )
    .min(1)
    .max(100),
});
/** As a page sends them: with the newest plan that whoever moves has before them, on which they count. */
export const sentMovesSchema = movesSchema.extend({ rev: z.int().min(0) });
const guess = { kind: z.enum(faultKinds), ...unit };

const inputNumber = z.int().min(1).max(1000);
const deed = { at: z.number().min(0).max(3600), input: inputNumber };
const deedSchema = z.discriminatedUnion('do', [
  z.strictObject({ ...deed, do: z.literal('cut') }),
  z.strictObject({ ...deed, do: z.literal('play') }),
  z.strictObject({ ...deed, do: z.literal('stop') }),
  z.strictObject({ ...deed, do: z.literal('select'), list: shortText.min(1) }),
]);

const onWall = { wallId: idSchema };

/** Everything that may be done on a bench beside power, soundings and jacks. */
export const actSchema = z.discriminatedUnion('act', [
  /** Sets an adapter of the technician's computer; `null` is as it is planned. */
  act('set_computer', { ...unit, adapter: idSchema, addresses: z.array(addressSchema).max(64).nullable() }),
  /** Leads the cable of one of its sockets somewhere for the meantime, or back to where it is planned. */
  act('lead_cable', { ...unit, socket: idSchema, to: landingSchema.nullable() }),
  /** Keys in what is planned, by one of these ways: its own settings, or only an address for the meantime. */
  act('set_as_planned', {
    ...unit,
    ways: z.array(wayInSchema).max(8),
    meantime: z.strictObject({ adapter: idSchema, ...addressSchema.shape }).nullable(),
  }),
  /** Looks whether a unit answers where it should, is gone from where it was, and lets in whom it should. */
  act('confirm', { ...unit, ip: ipSchema, before: ipSchema.nullable() }),
  act('restart', units),
  act('factory', units),
  act('follow_plan', units),
  act('key_in', { ...unit, change: keyedSchema }),
  act('commit', { ...unit, step: z.enum(commitActs), of: z.enum(settingKinds).optional() }),
  act('application', { ...unit, state: z.enum(['ready', 'no_show', 'closed']) }),
  act('firewall', { ...unit, on: z.boolean() }),
  act('helper', { ...unit, on: z.boolean() }),
  act('allow', { ...unit, serviceKey: idSchema, on: z.boolean() }),
  act('update', { ...unit, firmware: z.string().regex(/^\d+(\.\d+){0,3}$/, 'A version such as 2.1') }),
  act('folder', { ...unit, clips: z.array(shortText.min(1)).max(500) }),
  act('look_up_again', unit),
  act('make_administrator', unit),
  act('put_back', unit),
  act('store_set', { ...unit, position, label: shortText.min(1) }),
  act('take_set', { ...unit, position }),
  act('drop_set', { ...unit, position }),
  /** Holds what is in two units against each other. */
  act('compare', pair),
  /** Everything of the first overwrites what the second has. */
  act('synchronise', pair),
  /** Writes what runs in a unit into it, so that it outlives the power. */
  act('store', unit),
  act('keep_copy', unit),
  act('load_copy', { ...unit, copy: unitCopySchema }),
  act('start_ups', { mode: z.enum(['skipped', 'real']) }),
  act('set_fault', guess),
  act('clear_fault', { id: z.string().max(20) }),
  act('change_over', { stage: z.enum(['setup', 'show']) }),
  act('pull_each', { cableIds: z.array(idSchema).min(1).max(10_000), linkIds: z.array(idSchema).min(1).max(10_000) }),
  act('stop_pulling', {}),
  act('rehearse', {}),
  act('guess', guess),
  act('give_up', {}),
  act('end_rehearsal', {}),
  act('touch', { ...unit, serviceKey: idSchema, command: idSchema, args: schemas.links.shape.args }),
  act('name_endpoint', { ...unit, endpoint: shortText.min(1), called: shortText }),
  act('look_for', unit),
  act('watch', { everySeconds: z.int().min(5).max(3600).nullable() }),
  act('play_script', { script: rehearsalScriptSchema }),
  act('script_guess', guess),
  act('end_script', {}),
  act('close_script', {}),
  act('wake', unit),
  act('scan', unit),
  act('stop_scan', {}),
  act('forget_heard', {}),
  /** Takes the next control that moves, on the bench or through a jack; it ends by itself. */
  act('teach', unit),
  act('stop_teaching', {}),
  /** Sends one message of a controller by itself. */
  act('send_message', { controllerId: idSchema, ...message, ...values }),
  /** Everything that can be stopped is stopped; null is for the whole show. */
  act('stop_all', { deviceId: idSchema.nullable() }),
  act('machine', { ...unit, what: z.enum(machineActs) }),
  act('cues_from', { cueId: idSchema.nullable() }),
  act('cue_go', { cueId: idSchema }),
  act('cue_skip', {}),
  act('cue_back', {}),
  act('cues_end', {}),
  act('rehearse_cues', {}),
  /** What the outside world says: a lighting channel, or a page of the web. */
  act('feed_level', {
    universe: z.int().min(1).max(63_999),
    channel: z.int().min(1).max(512),
    value: z.int().min(0).max(255),
  }),
  act('feed_page', { page: shortText.min(1), says: shortText }),
  /** Takes an input on air so many times on a bench of its own, and measures. */
  act('take_times', { switcherId: idSchema, input: inputNumber, times: z.int().min(1).max(400) }),
  /** Does a sequence of cuts on a bench of its own, with what is on air at first. */
  act('try_cuts', { switcherId: idSchema, onAir: inputNumber, deeds: z.array(deedSchema).min(1).max(100) }),
  act('stop_trial', {}),
  /** Somebody calls in on a channel of a gateway; an empty name hangs up. */
  act('call', { ...unit, channel: shortText.min(1), caller: shortText }),
  /** Power of a wall's panels and receivers: what was not stored in them is gone without it. */
  act('wall_power', { ...onWall, on: z.boolean() }),
  /** Sets sender, receivers and player as it is entered; in the receivers that runs until the power goes. */
  act('wall_apply', onWall),
  act('wall_store', onWall),
  /** Looks what hangs on each output. */
  act('wall_detect', onWall),
  act('wall_send', { ...onWall, picture: z.enum(testPictures), sender: z.enum(['processor', 'player']) }),
  /** How it really is, where that is otherwise than planned. */
  act('wall_real', { ...onWall, real: realWallSchema }),
  /** Something is otherwise than it is entered, and nobody says what. */
  act('wall_hide', { ...onWall, wrongs: z.int().min(1).max(2) }),
  /** What a unit has in one of its lists of names. */
  act('set_list', { ...unit, list: idSchema, names: z.array(shortText.min(1)).max(500) }),
]);

/** What somebody does on the bench beside power and soundings. */
export type Moves = Fixed<z.output<typeof movesSchema>>;
export type BenchAct = Fixed<z.output<typeof actSchema>>;
/** What somebody keys in at a unit: one address of an adapter, its mode, or one service. */
export type KeyedChange = Fixed<z.output<typeof keyedSchema>>;
