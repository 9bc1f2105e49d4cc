import { contains, subnetOf, type Planned } from '../../addressing/index.ts';
import type { Address, Device, DeviceType } from '../../show/index.ts';

/**
 * An address that an adapter will have once everything is as planned and running. Where a server or the unit itself
 * picks it, only the range is known: then `from` and `to` differ.
 */
export interface Held {
  /** The machine: never a program. */
  readonly machineId: string;
  readonly adapter: string;
  readonly from: number;
  readonly to: number;
  readonly prefix: number;
  readonly gateway: number | null;
  readonly tag: number | null;
  readonly domain: string | undefined;
  /** A cable leads to its adapter. */
  readonly lit: boolean;
  /** The row of the plan that it follows from. */
  readonly address: Address;
  /** The server that hands it out, where one does. */
  readonly leasedBy: string | undefined;
  /** Several servers answer, or the pool is too small: which address it gets, or whether it gets one, is up to chance. */
  readonly unsure: boolean;
}

export interface Machine {
  readonly id: string;
  readonly type: DeviceType;
  /** In the order of the type's adapters, and there in the order of the plan. */
  readonly held: readonly Held[];
}

export interface Machines {
  readonly of: (machineId: string) => Machine | undefined;
  /** Who answers for an address in a domain. */
  readonly owners: (domain: string, ip: number) => readonly Held[];
  /** Somebody may get this address from one of several servers, and may not. */
  readonly mayBeTaken: (domain: string, ip: number) => boolean;
  /** Somebody there picks an address, or is given one, out of a range with this one in it. */
  readonly mayBeGiven: (domain: string, ip: number) => boolean;
}

/** One adapter of a unit with what is planned for it. */
export interface Place {
  readonly device: Device;
  readonly adapter: string;
  /** The adapter's place in its type. */
  readonly at: number;
  readonly planned: readonly Planned[];
}

/** An adapter that asks a server, or helps itself. */
export interface Asking extends Pick<Held, 'domain' | 'lit'> {
  readonly place: Place;
  readonly row: Planned;
}

/** A unit refuses the name of its network and the address of everybody (RFC 1122 section 3.2.1.3). */
export function isHost(ip: number, prefix: number): boolean {
  const host = prefix === 0 ? ip : ip % 2 ** (32 - prefix);
  return prefix >= 31 || (host !== 0 && host !== 2 ** (32 - prefix) - 1);
}

/** Is the whole range of an address in a subnet, nothing of it, or some? */
export function within(
  { from, to }: Pick<Held, 'from' | 'to'>,
  own: Pick<Held, 'from' | 'prefix'>,
): boolean | 'perhaps' {
  const subnet = subnetOf(own.from, own.prefix);
  const [first, last] = [contains(subnet, from), contains(subnet, to)];
  if (first && last) return true;
  return first || last || (from < subnet.network && to >= subnet.network) ? 'perhaps' : false;
}
