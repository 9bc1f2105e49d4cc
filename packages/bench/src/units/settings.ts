import { show as core, type Show } from '@deep-patch/core';
import { undotted } from '../ether/dotted.ts';

/** One address as it stands in a unit's own menu. `vlan` is that of the network which it is meant for. */
export interface AddressSetting {
  readonly method: 'static' | 'dhcp' | 'self';
  readonly ip: number | null;
  readonly prefix: number;
  readonly gateway: number | null;
  readonly vlan: number | null;
}

/** What is keyed into one service of a unit. */
export type ServiceSetting = Pick<
  core.Service,
  'key' | 'enabled' | 'receivePort' | 'sendPort' | 'sendTo' | 'alsoTo' | 'role' | 'openFor' | 'login' | 'account'
> & { readonly password: string | undefined };

/** All that is keyed into one unit. */
export interface UnitSettings {
  readonly addresses: Readonly<Record<string, readonly AddressSetting[]>>;
  readonly services: readonly ServiceSetting[];
  readonly firmware: string | null;
  /** The mode or variant that it is in, by its key; null is the usual one. */
  readonly variant: string | null;
}

/** What stands in a unit when everything was keyed in as planned. */
export function plannedSettings(
  show: Show,
  device: core.Device,
  passwords: Readonly<Record<string, string>>,
): UnitSettings {
  const type = core.typeOf(show, device);
  const own = core.rowsBy(show, 'interfaces', 'deviceId').get(device.id) ?? [];
  const byInterface = core.rowsBy(show, 'addresses', 'interfaceId');
  const addressesOf = (key: string) =>
    own.filter(({ adapter }) => adapter === key).flatMap(({ id }) => byInterface.get(id) ?? []);
  const addresses = Object.fromEntries(
    (type?.adapters ?? []).map(({ key }) => [key, addressesOf(key).flatMap((row) => planned(show, row))]),
  );
  const services = (core.rowsBy(show, 'services', 'deviceId').get(device.id) ?? []).map((service) => ({
    ...service,
    password: service.secretId === null ? undefined : (passwords[service.secretId] ?? ''),
  }));
  return { addresses, services, firmware: device.firmware, variant: device.variant };
}

function planned(show: Show, row: core.Address): AddressSetting[] {
  const network = show.networks[row.networkId];
  if (!network) return [];
  const prefix = row.prefix ?? network.prefix;
  const gateway = row.gateway ?? network.gateway;
  return [
    {
      method: row.method,
      ip: row.ip === null ? null : undotted(row.ip),
      prefix,
      gateway: gateway === null ? null : undotted(gateway),
      vlan: network.vlan,
    },
  ];
}

/** A fixed address as it stands in a menu. */
export const staticSetting = (ip: string, prefix: number, gateway: string | null): AddressSetting => ({
  ...{ method: 'static', ip: undotted(ip), prefix, vlan: null },
  gateway: gateway === null ? null : undotted(gateway),
});

/** What stands in a unit as it comes out of its case. */
export function factorySettings(type: core.DeviceType): UnitSettings {
  const { mode, ip, prefix, account } = type.factory;
  const method = mode === 'none' || mode === 'static' ? 'static' : mode;
  const first: AddressSetting = {
    method,
    ip: method === 'static' && ip !== null ? undotted(ip) : null,
    prefix: prefix ?? 24,
    gateway: null,
    vlan: null,
  };
  return {
    addresses: Object.fromEntries(
      type.adapters.map(({ key }, at) => [key, at === 0 && mode !== 'none' ? [first] : []]),
    ),
    services: type.services.map(({ key, onByDefault, receivePort, sendPort, logins }) => ({
      key,
      enabled: onByDefault,
      receivePort,
      sendPort,
      sendTo: null,
      alsoTo: [],
      role: null,
      openFor: [],
      login: logins[0] ?? null,
      account: type.factory.login === 'preset' ? account : null,
      password: undefined,
    })),
    firmware: null,
    variant: null,
  };
}

/** A host refuses the name of the network and the address of everybody, as real ones do (RFC 1122 section 3.2.1.3). */
export function isHostAddress({ ip, prefix }: { ip: number; prefix: number }): boolean {
  const host = prefix === 0 ? ip : (ip << prefix) >>> prefix;
  return prefix >= 31 || (host !== 0 && host !== 2 ** (32 - prefix) - 1);
}
