import type { contract, show as core } from '@deep-patch/core';
import { dotted, undotted } from '../ether/dotted.ts';
import type { AddressSetting, UnitSettings } from './settings.ts';

/** `whole` is everything that an adapter is to have, where that is known; else what else it has stays. */
export type KeyedChange = contract.KeyedChange & { readonly whole?: readonly AddressSetting[] };

const loginFields = ['login', 'account', 'password'] as const;

/** Accounts and ports are different pages, with acts of their own: a change of both is two. */
export function byPage(change: KeyedChange): KeyedChange[] {
  if (change.of !== 'service') return [change];
  const { of, key, login, account, password, whole: _whole, ...ports } = change;
  const given = (fields: object) => Object.values(fields).some((value) => value !== undefined);
  return [
    ...(given({ login, account, password }) ? [{ of, key, login, account, password }] : []),
    ...(given(ports) ? [{ of, key, ...ports }] : []),
  ];
}

/** The page of a unit's menu that a change stands on. */
export const pageOf = (change: KeyedChange): core.SettingKind =>
  change.of === 'service' && loginFields.some((field) => change[field] !== undefined) ? 'login' : change.of;

/** Settings with a change in them; everything else stays as it is. */
export function changed(settings: UnitSettings, change: KeyedChange): UnitSettings {
  if (change.of === 'mode') return { ...settings, variant: change.variant };
  return change.of === 'address' ? withAddress(settings, change) : withService(settings, change);
}

function withAddress(
  settings: UnitSettings,
  { adapter, method, ip, prefix, gateway, whole }: KeyedChange & { of: 'address' },
): UnitSettings {
  if (whole) return { ...settings, addresses: { ...settings.addresses, [adapter]: whole } };
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

function withService(
  settings: UnitSettings,
  { of: _of, whole: _whole, key, ...patch }: KeyedChange & { of: 'service' },
): UnitSettings {
  const given = Object.fromEntries(Object.entries(patch).filter(([, value]) => value !== undefined));
  return {
    ...settings,
    services: settings.services.map((service) => (service.key === key ? { ...service, ...given } : service)),
  };
}

/** A change in a few words, as it stands on its page; a password is never told. */
export function changeWords(type: core.DeviceType, change: KeyedChange): string {
  const labelOf = (list: readonly { key: string; label: string }[], key: string) =>
    list.find((entry) => entry.key === key)?.label ?? key;
  switch (change.of) {
    case 'mode':
      return change.variant === null ? 'usual mode' : labelOf(type.variants, change.variant);
    case 'address': {
      const { adapter, method, ip, prefix, gateway } = change;
      const own = ip === null ? method : `${dotted(undotted(ip))} /${prefix}`;
      return `${labelOf(type.adapters, adapter)}: ${own}${gateway === null ? '' : ` via ${gateway}`}`;
    }
    default: {
      const { enabled, receivePort, sendPort, sendTo, alsoTo = [], role, openFor, login, account, password } = change;
      const parts = [
        enabled === undefined ? '' : enabled ? 'on' : 'off',
        receivePort === undefined ? '' : `hears ${receivePort}`,
        sendPort == null ? '' : `sends to port ${sendPort}`,
        sendTo == null ? '' : `sends to ${[sendTo, ...alsoTo].join(', ')}`,
        role == null ? '' : `${role} ${role === 'opens' ? 'the connection' : 'for the connection'}`,
        openFor === undefined || openFor.length === 0 ? '' : `open for ${openFor.join(', ')}`,
        login === undefined ? '' : `login ${login ?? 'none'}`,
        account == null ? '' : `account ${account}`,
        password === undefined ? '' : 'a password',
      ];
      return `${labelOf(type.services, change.key)}: ${parts.filter(Boolean).join(', ')}`;
    }
  }
}
