import { addressingFacts, formatIp, mustIp } from '../addressing/index.ts';
import { cablingFacts } from '../cabling/index.ts';
import {
  changeOf,
  rowsOf,
  serviceTypeOf,
  typeOf,
  updateRow,
  type Address,
  type Change,
  type Device,
  type Edit,
  type Link,
  type Show,
} from '../show/index.ts';
import { entryOf } from './entry.ts';
import { sidesOf } from './sides.ts';

/** One place outside the unit where its address is keyed in (C17). */
export interface StoredPlace {
  readonly kind: 'controller' | 'controller_typed' | 'reply' | 'gateway' | 'reservation';
  /** The unit in whose menu it stands, and where there. */
  readonly device: Device | undefined;
  readonly where: string;
  /** Controllers that look an address up once need it entered anew even when it is right (need 5.9). */
  readonly looksUpOnce: boolean;
  /** The edit of the plan that follows a move to another address; null where the plan follows by itself. */
  readonly follow: ((ip: string) => Edit) | null;
}

/**
 * Everybody who holds an address: controllers of the unit (by what the plan fills in, or typed), targets that send
 * their replies there, networks and units whose gateway it is, and the server that reserves it.
 */
export function whoStores(show: Show, address: Address): StoredPlace[] {
  const own = show.devices[show.interfaces[address.interfaceId]?.deviceId ?? ''];
  const { ip } = address;
  if (!own) return [];
  const sides = sidesOf(show, addressingFacts(show), cablingFacts(show));
  // of several addresses of a unit the plan fills in one; within one machine it is the loopback address
  const isFilledIn = (link: Link): boolean => {
    const { far, ip: filled } = entryOf({ sides }, link);
    return far?.address.id === address.id && (ip === null || filled === mustIp(ip));
  };
  return [
    ...rowsOf(show, 'links').flatMap((link): StoredPlace[] => {
      const [controller, target] = [show.devices[link.controllerId], show.devices[link.targetId]];
      if (!controller || !target) return [];
      const typed = link.host !== null && link.host === ip;
      if (!typed && !(link.host === null && isFilledIn(link))) return [];
      const slot = link.slot === null ? '' : `slot ${link.slot}`;
      const looksUpOnce = typeOf(show, controller)?.looksUpOnce ?? false;
      const follow = typed ? (to: string) => updateRow('links', link, { host: to }) : null;
      return [
        { kind: typed ? 'controller_typed' : 'controller', device: controller, where: slot, looksUpOnce, follow },
      ];
    }),
    ...rowsOf(show, 'services')
      .filter(({ sendTo, alsoTo }) => ip !== null && (sendTo === ip || alsoTo.includes(ip)))
      .map((service): StoredPlace => {
        const device = show.devices[service.deviceId];
        const where = serviceTypeOf(show, device, service.key)?.label ?? service.key;
        const moved = (to: string) => (old: string) => (old === ip ? to : old);
        const follow = (to: string) =>
          updateRow('services', service, {
            sendTo: service.sendTo === ip ? to : service.sendTo,
            alsoTo: service.alsoTo.map(moved(to)),
          });
        return { kind: 'reply', device, where, looksUpOnce: false, follow };
      }),
    ...rowsOf(show, 'networks')
      .filter(({ gateway }) => ip !== null && gateway === ip)
      .map((network): StoredPlace => {
        const follow = (to: string) => updateRow('networks', network, { gateway: to });
        return { kind: 'gateway', device: undefined, where: network.name, looksUpOnce: false, follow };
      }),
    ...rowsOf(show, 'addresses')
      .filter(({ gateway }) => ip !== null && gateway === ip)
      .map((row): StoredPlace => {
        const device = show.devices[show.interfaces[row.interfaceId]?.deviceId ?? ''];
        const follow = (to: string) => updateRow('addresses', row, { gateway: to });
        return { kind: 'gateway', device, where: 'its own gateway', looksUpOnce: false, follow };
      }),
    ...(address.method === 'dhcp' && ip !== null
      ? [
          {
            kind: 'reservation',
            device: undefined,
            where: show.networks[address.networkId]?.name ?? '',
            looksUpOnce: false,
            follow: null,
          } as const,
        ]
      : []),
  ];
}

/** Moves an address and, in the same change, every entry of the plan that names the old one. */
export function planMoveEverywhere(show: Show, address: Address, ip: number, held = address.held): Change | undefined {
  const to = formatIp(ip);
  const device = show.devices[show.interfaces[address.interfaceId]?.deviceId ?? ''];
  const follows = whoStores(show, address).flatMap(({ follow }) => (follow ? [follow(to)] : []));
  return changeOf(`Move ${device?.name ?? 'a unit'} to ${to}`, [
    updateRow('addresses', address, { ip: to, held }),
    ...follows,
  ]);
}
