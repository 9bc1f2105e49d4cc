import { formatIp, harmlessGateway, maskOf, type AddressingFacts, type Planned } from '../addressing/index.ts';
import { nameList } from '../findings/index.ts';
import {
  hostOf,
  kindWords,
  loginOf,
  roleOf,
  rowsBy,
  rowsOf,
  serviceTypeOf,
  typeOf,
  type Device,
  type KeyedIn,
  type Link,
  type Service,
  type Show,
} from '../show/index.ts';

/** One thing that somebody keys into a unit. `key` names the place, `label` and `value` are what a person reads. */
export type Setting = KeyedIn['values'][number];

/**
 * Everything that the plan wants keyed into one unit: addresses, IPv6, services and their logins, its mode, the list of
 * what it controls, the program on its computer. What is not decided yet (an address still to be placed) is left out.
 */
export function plannedSettings(show: Show, addressing: AddressingFacts, device: Device): Setting[] {
  const services = rowsBy(show, 'services', 'deviceId').get(device.id) ?? [];
  const entries = rowsOf(show, 'links')
    .filter(({ controllerId }) => controllerId === device.id)
    .sort(
      (a, b) =>
        (a.slotGroup ?? 0) - (b.slotGroup ?? 0) ||
        (a.slot ?? Infinity) - (b.slot ?? Infinity) ||
        (a.id < b.id ? -1 : 1),
    );
  return [
    ...mode(show, device),
    ...(addressing.byDevice.get(device.id) ?? []).flatMap((item) => address(addressing, item)),
    ...(device.ipv6 === 'off' ? [setting('address', 'ipv6', 'IPv6', 'off')] : []),
    ...services.flatMap((service) => serviceSettings(show, device, service)),
    ...entries.flatMap((link) => entry(show, addressing, link)),
    ...program(show, device),
  ];
}

export const setting = (of: Setting['of'], key: string, label: string, value: string): Setting => ({
  of,
  key: key.slice(0, 90),
  label: label.slice(0, 120),
  value: value.slice(0, 300),
});

function address(
  addressing: AddressingFacts,
  { address: row, interface: its, type, network, ip, prefix }: Planned,
): Setting[] {
  const label = type.adapters.find(({ key }) => key === its.adapter)?.label ?? its.adapter;
  const name = `${label} on ${network.name}`;
  if (row.method === 'dhcp') return [setting('address', row.id, name, 'by DHCP')];
  if (row.method === 'self') return [setting('address', row.id, name, 'self-assigned')];
  if (ip === null) return [];
  // a menu that refuses an empty field gets an address that nobody has, the same one on every screen
  const unused = type.needsGateway ? harmlessGateway(addressing, network.id) : undefined;
  const gateway = row.gateway ?? network.gateway ?? unused ?? 'none';
  return [setting('address', row.id, name, `${formatIp(ip)}, mask ${formatIp(maskOf(prefix))}, gateway ${gateway}`)];
}

export function serviceSettings(show: Show, device: Device, service: Service): Setting[] {
  const type = serviceTypeOf(show, device, service.key);
  if (!type) return [];
  const opens = roleOf(service, type) === 'opens';
  const ports = [
    opens ? 'on, opens the connection' : `on, hears ${service.receivePort}`,
    service.openFor.length === 0 ? '' : `open for ${nameList(service.openFor.map(kindWords))}`,
    service.sendPort === null ? '' : `${opens ? 'to' : 'sends to'} ${repliesTo(service)}${service.sendPort}`,
  ].filter(Boolean);
  const on = setting('service', service.key, type.label, service.enabled ? ports.join(', ') : 'off');
  return [on, ...login(service, type.label, loginOf(service, type))];
}

const repliesTo = ({ sendTo, alsoTo }: Service): string =>
  sendTo === null ? '' : `${[sendTo, ...alsoTo].join(' and ')}:`;

/** The password is compared by its sealed id: whether it is the one that was keyed in, never what it is. */
function login({ key, account, secretId, enabled }: Service, label: string, method: string): Setting[] {
  if (!enabled || method === 'none') return [];
  return [
    setting('login', key, `${label}: login`, `${method}, account ${account ?? 'open'}`),
    ...(secretId ? [setting('login', `${key}:password`, `${label}: password`, secretId)] : []),
  ];
}

function mode(show: Show, device: Device): Setting[] {
  const variant = typeOf(show, device)?.variants.find(({ key }) => key === device.variant);
  return variant ? [setting('mode', 'variant', 'variant or mode', variant.label)] : [];
}

/** A target as its controller has it in its list. */
function entry(show: Show, addressing: AddressingFacts, link: Link): Setting[] {
  const target = show.devices[link.targetId];
  if (!target) return [];
  const type = serviceTypeOf(show, target, link.serviceKey);
  const planned = addressing.byDevice.get(hostOf(show, target).id)?.find(({ ip }) => ip !== null);
  const host = link.host ?? (planned?.ip == null ? null : formatIp(planned.ip));
  if (host === null) return [];
  const replies = link.replyPort === null ? '' : `, hears replies on ${link.replyPort}`;
  const group = link.slotGroup === null ? '' : `group ${link.slotGroup}, `;
  const slot = link.slot === null ? '' : `${group}number ${link.slot}: `;
  const account = link.account === null ? '' : `, account ${link.account}`;
  return [
    setting(
      'entry',
      link.id,
      `${link.label || target.name}, ${type?.label ?? link.serviceKey}`,
      link.role === 'waits'
        ? `${slot}waits on ${link.port} for ${host}${account}`
        : `${slot}${host}:${link.port}${replies}${account}`,
    ),
    ...(link.secretId ? [setting('entry', `${link.id}:password`, `${target.name}: password`, link.secretId)] : []),
  ];
}

function program(show: Show, device: Device): Setting[] {
  const host = hostOf(show, device);
  if (host.id === device.id) return [];
  return [setting('install', 'program', `on ${host.name}`, device.firmware ?? 'any version')];
}
