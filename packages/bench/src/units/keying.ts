import { show as core } from '@deep-patch/core';
import { byPage, type KeyedChange } from './keyed-change.ts';
import { hold, typeIn } from './pending.ts';
import { factorySettings, type UnitSettings } from './settings.ts';
import { freshFace } from './memory.ts';
import { settingsOf, type Standin } from './standin.ts';

/** Keys something in. Answers whether something of it is in force at once, so that the unit takes its settings in again. */
export function keyIn(standin: Standin, change: KeyedChange): boolean {
  const { memory, type } = standin;
  refuseStrangers(standin, change);
  if (change.of === 'address' && core.isComputer(type)) memory.earlier ??= settingsOf(standin).addresses;
  return byPage(change).filter((part) => typeIn(standin, part)).length > 0;
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

/** Everything as it came out of the case; what the type says is erased is gone. */
export function resetToFactory({ memory, type }: Standin): void {
  hold(memory, factorySettings(type));
  memory.firstSignIn = type.factory.login === 'create';
  memory.sets.clear();
  memory.contents.clear();
  memory.storedContents = undefined;
  memory.activeSet = null;
  memory.leases.clear();
  memory.face.clear();
  for (const [parameter, start] of freshFace(type)) memory.face.set(parameter, start);
}

/** What the plan says, as if somebody had keyed it in. */
export function followPlan({ memory }: Standin): void {
  hold(memory, undefined);
  memory.earlier = undefined;
  memory.firstSignIn = false;
}

/** Its first sign-in: the accounts of the plan are made, and it works from then on. Nothing else of it changes. */
export function makeAdministrator({ memory, planned }: Standin): void {
  // asked once more, because nobody saw that it was done, it is done
  if (!memory.firstSignIn) return;
  const withAccounts = (settings: UnitSettings): UnitSettings => ({
    ...settings,
    services: settings.services.map((own) => {
      const wanted = planned.services.find(({ key }) => key === own.key);
      return wanted?.account == null
        ? own
        : { ...own, login: wanted.login, account: wanted.account, password: wanted.password };
    }),
  });
  if (memory.own) memory.own = withAccounts(memory.own);
  if (memory.kept) memory.kept = withAccounts(memory.kept);
  memory.firstSignIn = false;
}

/** A computer's earlier addresses, before it was set to reach something; what else was keyed in since stays. */
export function putBack(standin: Standin): void {
  const { memory, planned } = standin;
  if (!memory.earlier) throw new Error('nothing was keyed in since');
  const back = { ...settingsOf(standin), addresses: memory.earlier };
  const pending = memory.pending.filter(({ of }) => of !== 'address');
  hold(memory, core.isEqual(back, planned) ? undefined : back);
  memory.pending = pending;
  memory.earlier = undefined;
}

export function putFirmware(standin: Standin, firmware: string): void {
  const { memory } = standin;
  memory.own = { ...settingsOf(standin), firmware };
  memory.kept = { ...(memory.kept ?? standin.planned), firmware };
}
