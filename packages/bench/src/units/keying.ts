import { show as core } from '@deep-patch/core';
import { factorySettings, type ServiceSetting, type UnitSettings } from './settings.ts';
import { freshFace } from './memory.ts';
import { settingsOf, type Standin } from './standin.ts';
import { undotted } from '../ether/dotted.ts';

/** What somebody keys in at a unit: one address of an adapter, or one service. */
export type KeyedChange =
  | {
      readonly of: 'address';
      readonly adapter: string;
      readonly method: 'static' | 'dhcp' | 'self';
      readonly ip: string | null;
      readonly prefix: number;
      readonly gateway: string | null;
    }
  | { readonly of: 'mode'; readonly variant: string | null }
  | ({ readonly of: 'service'; readonly key: string } & {
      readonly [Field in Exclude<keyof ServiceSetting, 'key'>]?: ServiceSetting[Field] | undefined;
    });

/**
 * Keys something in. Where the type asks for acts first it waits for them, and is lost with the power; otherwise it
 * counts at once. Answers whether the unit has to take its settings in again.
 */
export function keyIn(standin: Standin, change: KeyedChange): boolean {
  const { memory, type } = standin;
  refuseStrangers(standin, change);
  const before = memory.pending?.settings ?? settingsOf(standin);
  const settings = changed(before, change);
  if (change.of === 'address' && core.isComputer(type)) memory.earlier ??= settingsOf(standin);
  if (change.of === 'service' && change.account) memory.firstSignIn = false;
  const acts = type.commits.find(({ of }) => of === change.of)?.acts.map(({ act }) => act) ?? [];
  if (acts.length === 0) {
    memory.own = settings;
    return true;
  }
  memory.pending = { of: change.of, settings, acts };
  return false;
}

/** Its menu has no page for what the unit does not have. */
function refuseStrangers({ type }: Standin, change: KeyedChange): void {
  const has = (list: readonly { key: string }[], key: string) => list.some((entry) => entry.key === key);
  if (change.of === 'address' && !has(type.adapters, change.adapter))
    throw new Error(`it has no adapter “${change.adapter}”`);
  if (change.of === 'service' && !has(type.services, change.key)) throw new Error(`it has no function “${change.key}”`);
  if (change.of === 'mode' && change.variant !== null && !has(type.variants, change.variant))
    throw new Error(`it has no mode “${change.variant}”`);
}

/** What an act at a unit leads to: nothing, its settings taken in again, or a restart. */
export type ActOutcome = 'nothing' | 'refresh' | 'restart';

const restarts: ReadonlySet<core.CommitAct> = new Set(['restart_device', 'restart_computer']);

/** Does the next act of what is pending. An act out of turn does not count, and a restart before its turn loses it. */
export function doAct({ memory }: Standin, act: core.CommitAct): ActOutcome {
  const { pending } = memory;
  if (pending?.acts[0] !== act) {
    if (!restarts.has(act)) return 'nothing';
    memory.pending = undefined;
    return 'restart';
  }
  const acts = pending.acts.slice(1);
  if (acts.length > 0) {
    memory.pending = { ...pending, acts };
    return 'nothing';
  }
  memory.own = pending.settings;
  memory.pending = undefined;
  return restarts.has(act) ? 'restart' : 'refresh';
}

/** Everything as it came out of the case; what the type says is erased is gone. */
export function resetToFactory({ memory, type }: Standin): void {
  memory.own = factorySettings(type);
  memory.pending = undefined;
  memory.firstSignIn = type.factory.login === 'create';
  memory.sets.clear();
  memory.activeSet = null;
  memory.leases.clear();
  memory.face.clear();
  for (const [parameter, start] of freshFace(type)) memory.face.set(parameter, start);
}

/** What the plan says, as if somebody had keyed it in. */
export function followPlan({ memory }: Standin): void {
  memory.own = undefined;
  memory.pending = undefined;
  memory.earlier = undefined;
  memory.firstSignIn = false;
}

/** A computer's earlier settings, before it was set to reach something. */
export function putBack({ memory, planned }: Standin): void {
  if (!memory.earlier) throw new Error('nothing was keyed in since');
  memory.own = core.isEqual(memory.earlier, planned) ? undefined : memory.earlier;
  memory.earlier = undefined;
}

export function putFirmware(standin: Standin, firmware: string): void {
  standin.memory.own = { ...settingsOf(standin), firmware };
}

function changed(settings: UnitSettings, change: KeyedChange): UnitSettings {
  if (change.of === 'mode') return { ...settings, variant: change.variant };
  return change.of === 'address' ? withAddress(settings, change) : withService(settings, change);
}

function withAddress(
  settings: UnitSettings,
  { adapter, method, ip, prefix, gateway }: KeyedChange & { of: 'address' },
): UnitSettings {
  const [first, ...rest] = settings.addresses[adapter] ?? [];
  const keyed = {
    method,
    ip: ip === null ? null : undotted(ip),
    prefix,
    gateway: gateway === null ? null : undotted(gateway),
    vlan: first?.vlan ?? null,
  };
  return { ...settings, addresses: { ...settings.addresses, [adapter]: [keyed, ...rest] } };
}

function withService(settings: UnitSettings, { of: _, key, ...patch }: KeyedChange & { of: 'service' }): UnitSettings {
  const given = Object.fromEntries(Object.entries(patch).filter(([, value]) => value !== undefined));
  return {
    ...settings,
    services: settings.services.map((service) => (service.key === key ? { ...service, ...given } : service)),
  };
}
