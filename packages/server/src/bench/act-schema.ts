import type { BenchAct } from '@deep-patch/bench';
import { show as core } from '@deep-patch/core';
import { z } from 'zod';

const unit = { deviceId: core.idSchema };
const units = { deviceIds: z.array(core.idSchema).min(1).max(5000) };
const act = <Name extends string, Shape extends z.ZodRawShape>(name: Name, shape: Shape) =>
  z.strictObject({ act: z.literal(name), ...shape });

const keyedSchema = z.discriminatedUnion('of', [
  z.strictObject({
    of: z.literal('address'),
    adapter: core.idSchema,
    method: z.enum(['static', 'dhcp', 'self']),
    ip: core.ipSchema.nullable(),
    prefix: core.prefixSchema,
    gateway: core.ipSchema.nullable(),
  }),
  z.strictObject({ of: z.literal('mode'), variant: core.idSchema.nullable() }),
  z.strictObject({
    of: z.literal('service'),
    key: core.idSchema,
    enabled: z.boolean().optional(),
    receivePort: core.portSchema.optional(),
    sendPort: core.portSchema.nullable().optional(),
    sendTo: core.ipSchema.nullable().optional(),
    login: core.loginSchema.nullable().optional(),
    account: core.shortText.nullable().optional(),
    password: core.shortText.optional(),
  }),
]);
const position = z.int().min(1).max(32);
const guess = { kind: z.enum(core.faultKinds), ...unit };

/** Everything that may be done on a bench beside power, soundings and jacks. */
export const actSchema = z.discriminatedUnion('act', [
  act('restart', units),
  act('factory', units),
  act('follow_plan', units),
  act('key_in', { ...unit, change: keyedSchema }),
  act('commit', { ...unit, step: z.enum(core.commitActs), of: z.enum(core.settingKinds).optional() }),
  act('application', { ...unit, state: z.enum(['ready', 'no_show', 'closed']) }),
  act('firewall', { ...unit, on: z.boolean() }),
  act('helper', { ...unit, on: z.boolean() }),
  act('allow', { ...unit, serviceKey: core.idSchema, on: z.boolean() }),
  act('update', { ...unit, firmware: z.string().regex(/^\d+(\.\d+){0,3}$/, 'A version such as 2.1') }),
  act('folder', { ...unit, clips: z.array(core.shortText.min(1)).max(500) }),
  act('look_up_again', unit),
  act('put_back', unit),
  act('store_set', { ...unit, position, label: core.shortText.min(1) }),
  act('take_set', { ...unit, position }),
  act('drop_set', { ...unit, position }),
  act('synchronise', { linkId: core.idSchema, direction: z.enum(['to_target', 'from_target']) }),
  act('start_ups', { mode: z.enum(['skipped', 'real']) }),
  act('set_fault', guess),
  act('clear_fault', { id: z.string().max(20) }),
  act('rehearse', {}),
  act('guess', guess),
  act('give_up', {}),
  act('end_rehearsal', {}),
  act('touch', { ...unit, serviceKey: core.idSchema, command: core.idSchema, args: core.schemas.links.shape.args }),
  act('name_endpoint', { ...unit, endpoint: core.shortText.min(1), called: core.shortText }),
  act('look_for', unit),
  act('watch', { everySeconds: z.int().min(5).max(3600).nullable() }),
  act('play_script', { script: core.rehearsalScriptSchema }),
  act('script_guess', guess),
  act('end_script', {}),
  act('close_script', {}),
  act('wake', unit),
  act('scan', unit),
  act('stop_scan', {}),
  act('forget_heard', {}),
]) satisfies z.ZodType<BenchAct>;
