import {
  changeOf,
  contentWith,
  insertRow,
  planRemove,
  updateRow,
  type Address,
  type Change,
  type Show,
} from '../show/index.ts';
import { counted } from '../findings/index.ts';
import { formatIp } from './ipv4.ts';

/** Moves one address; a typed place is kept by holding it, since somebody meant it. */
export function planMove(show: Show, address: Address, ip: number, held = address.held): Change | undefined {
  const name = nameOf(show, address);
  return changeOf(`Move ${name} to ${formatIp(ip)}`, [updateRow('addresses', address, { ip: formatIp(ip), held })]);
}

export const planHold = (show: Show, address: Address, held: boolean): Change | undefined =>
  changeOf(`${held ? 'Hold' : 'Release'} the address of ${nameOf(show, address)}`, [
    updateRow('addresses', address, { held }),
  ]);

export const planRelease = (show: Show, address: Address): Change | undefined =>
  changeOf(`Take the address of ${nameOf(show, address)} back`, [
    updateRow('addresses', address, { ip: null, held: false }),
  ]);

const methodWords = { static: 'a fixed address', dhcp: 'an address from the server', self: 'a self-assigned address' };

/** How an interface gets its address (need 2.8). A self-assigned one cannot be planned, so it loses its place. */
export const planMethod = (show: Show, address: Address, method: Address['method']): Change | undefined =>
  changeOf(`Give ${nameOf(show, address)} ${methodWords[method]}`, [
    updateRow('addresses', address, method === 'self' ? { method, ip: null, held: false } : { method }),
  ]);

/** What units that give themselves addresses show now: they take the same again, so it can be written down (RFC 3927). */
export function planShown(
  show: Show,
  shown: readonly { readonly address: Address; readonly ip: string }[],
): Change | undefined {
  const [first] = shown;
  if (!first) return undefined;
  const whose = shown.length === 1 ? nameOf(show, first.address) : counted(shown.length, 'unit');
  return changeOf(
    `Write down what ${whose} ${shown.length === 1 ? 'shows' : 'show'}`,
    shown.map(({ address, ip }) => updateRow('addresses', address, { ip })),
  );
}

/** Puts an interface on a network; its address waits to be placed. */
export function planJoin(show: Show, join: { id: string; interfaceId: string; networkId: string }): Change {
  const row = contentWith('addresses', { ...join, ip: null, prefix: null, gateway: null, held: false });
  const network = show.networks[join.networkId]?.name ?? 'the network';
  const device = show.devices[show.interfaces[join.interfaceId]?.deviceId ?? '']?.name ?? 'the unit';
  return { label: `Put ${device} on ${network}`, edits: [insertRow('addresses', row)] };
}

function nameOf(show: Show, address: Address): string {
  const its = show.interfaces[address.interfaceId];
  return (its && show.devices[its.deviceId]?.name) ?? 'a unit';
}

/** Takes an address off its adapter, so that the unit is no longer on that network. */
export const planLeave = (show: Show, address: Address): Change =>
  planRemove(
    show,
    'addresses',
    [address.id],
    `Take ${nameOf(show, address)} off ${show.networks[address.networkId]?.name ?? 'its network'}`,
  );

/** A mask or a gateway that one unit has for itself; null is that of its network. */
export const planOwnEntries = (
  show: Show,
  address: Address,
  entries: Pick<Address, 'prefix' | 'gateway'>,
): Change | undefined => {
  const own = show.networks[address.networkId];
  const { prefix, gateway } = entries;
  return changeOf(`Mask and gateway of ${nameOf(show, address)}`, [
    updateRow('addresses', address, {
      prefix: prefix === own?.prefix ? null : prefix,
      gateway: gateway === own?.gateway ? null : gateway,
    }),
  ]);
};

/** How several interfaces get their addresses, in one change. */
export const planMethods = (
  show: Show,
  addresses: readonly Address[],
  method: Address['method'],
): Change | undefined => {
  const [first] = addresses;
  const whom = addresses.length === 1 && first ? nameOf(show, first) : `${addresses.length} units`;
  return changeOf(
    `Give ${whom} ${methodWords[method]}`,
    addresses.map((address) =>
      updateRow('addresses', address, method === 'self' ? { method, ip: null, held: false } : { method }),
    ),
  );
};
