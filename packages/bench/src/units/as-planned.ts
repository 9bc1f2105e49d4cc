import { show as core } from '@deep-patch/core';
import { dotted } from '../ether/dotted.ts';
import type { KeyedChange } from './keyed-change.ts';
import { keyIn } from './keying.ts';
import { doAct } from './pending.ts';
import type { AddressSetting, ServiceSetting } from './settings.ts';
import { settingsOf, type Standin } from './standin.ts';

/** Acts at the unit itself that take nothing away: the others are a restart. */
const atOnce: readonly core.CommitAct[] = ['confirm_entry', 'confirm_page', 'store', 'leave_setup'];

/** Keys in all that is planned and does not stand in a unit yet, and does what makes it count but for a restart. */
export function setAsPlanned(standin: Standin): boolean {
  return keyAll(standin, plannedChanges(standin));
}

/** Keys one address in for the meantime; what else the unit has stays. */
export function setMeanwhile(standin: Standin, adapter: string, whole: AddressSetting): boolean {
  return keyAll(standin, [addressChange(adapter, [whole])]);
}

function keyAll(standin: Standin, changes: readonly KeyedChange[]): boolean {
  let isInForce = false;
  for (const change of changes) isInForce = keyIn(standin, change) || isInForce;
  // each page has a confirmation of its own: as long as one of these acts is next anywhere, it is done
  for (;;) {
    const due = standin.memory.pending.find(({ acts }) => acts[0] !== undefined && atOnce.includes(acts[0]));
    const [act] = due?.acts ?? [];
    if (!due || act === undefined) return isInForce;
    isInForce = doAct(standin, act, due.of) === 'refresh' || isInForce;
  }
}

function plannedChanges(standin: Standin): KeyedChange[] {
  const { planned } = standin;
  const now = settingsOf(standin);
  const mode: KeyedChange[] = planned.variant === now.variant ? [] : [{ of: 'mode', variant: planned.variant }];
  const adapters = Object.keys({ ...now.addresses, ...planned.addresses });
  const addresses = adapters.flatMap((adapter) => {
    const [wanted, has] = [planned.addresses[adapter] ?? [], now.addresses[adapter] ?? []];
    // where the plan says nothing, whatever is there stays
    return wanted.length === 0 || core.isEqual(wanted, has) ? [] : [addressChange(adapter, wanted)];
  });
  const services = planned.services.flatMap((wanted) =>
    serviceChange(
      wanted,
      now.services.find(({ key }) => key === wanted.key),
    ),
  );
  return [...mode, ...addresses, ...services];
}

function addressChange(adapter: string, whole: readonly AddressSetting[]): KeyedChange {
  const [first] = whole;
  return {
    ...{ of: 'address', adapter, method: first?.method ?? 'static', prefix: first?.prefix ?? 24, whole },
    ip: first?.ip == null ? null : dotted(first.ip),
    gateway: first?.gateway == null ? null : dotted(first.gateway),
  };
}

function serviceChange(wanted: ServiceSetting, has: ServiceSetting | undefined): KeyedChange[] {
  const { key, enabled, receivePort, sendPort, sendTo, alsoTo, role, openFor, login, account, password } = wanted;
  const ports = { enabled, receivePort, sendPort, sendTo, alsoTo, role, openFor };
  const given = { login, account, password };
  const was = has && { ports: portsOf(has), login: { login: has.login, account: has.account, password: has.password } };
  return [
    ...(core.isEqual(was?.ports, ports) ? [] : [{ of: 'service', key, ...ports } as const]),
    ...(core.isEqual(was?.login, given)
      ? []
      : [{ of: 'service', key, login, account, ...(password === undefined ? {} : { password }) } as const]),
  ];
}

const portsOf = ({ enabled, receivePort, sendPort, sendTo, alsoTo, role, openFor }: ServiceSetting) => ({
  ...{ enabled, receivePort, sendPort, sendTo, alsoTo, role, openFor },
});
