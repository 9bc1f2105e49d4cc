import { mustIp, type AddressingFacts, type Planned } from '../addressing/index.ts';
import type { CablingFacts } from '../cabling/index.ts';
import { byAdapter, hostOf, typeOf, type Device, type Link, type Show } from '../show/index.ts';

/** What stands in a controller's list for a target, and the adapters that somebody would look at. */
export interface Entry {
  /** The address that is keyed in; undefined while the plan has none. */
  readonly ip: number | undefined;
  readonly from: string | undefined;
  readonly to: string | undefined;
  readonly near: Planned | undefined;
  readonly far: Planned | undefined;
}

export const loopbackIp = mustIp('127.0.0.1');
export const isLoopback = (ip: number): boolean => ip >>> 24 === 127;

type Known = { readonly addressing: AddressingFacts; readonly cabling: CablingFacts };

/**
 * What the plan keys into a controller for a link: what was typed; on one machine loopback, or the address of the
 * adapter that the target was told to use; else the target's address on a network that both are on (C12).
 */
export function entryOf(show: Show, known: Known, link: Link): Entry {
  const [controller, target] = [show.devices[link.controllerId], show.devices[link.targetId]];
  if (!controller || !target) return { ip: undefined, from: undefined, to: undefined, near: undefined, far: undefined };
  const [near, far] = facing(show, known, controller, target);
  const sides = {
    from: near?.interface.adapter ?? firstAdapter(show, controller),
    to: far?.interface.adapter ?? firstAdapter(show, target),
    near,
    far,
  };
  if (link.host !== null) return { ...sides, ip: mustIp(link.host) };
  const sameMachine = hostOf(show, controller).id === hostOf(show, target).id;
  if (!sameMachine) return { ...sides, ip: far?.ip ?? undefined };
  return { ...sides, ip: target.adapter === null ? loopbackIp : (far?.ip ?? loopbackIp) };
}

const firstAdapter = (show: Show, device: Device): string | undefined =>
  device.adapter ?? typeOf(show, hostOf(show, device))?.adapters[0]?.key;

type Facing = readonly [Planned | undefined, Planned | undefined];

/**
 * The pair of addresses on one network; without such a pair, the first address of each. An adapter with a cable goes
 * before one without, since a computer does not send through a dead one, then the first of its type. A program that
 * was told which adapter to use has no other.
 */
export function facing(show: Show, { addressing, cabling }: Known, controller: Device, target: Device): Facing {
  const domains = cabling.domains();
  const isDead = ({ interface: { deviceId, adapter } }: Planned) => Number(!domains.isLit(deviceId, adapter));
  const ranked = (device: Device): readonly Planned[] => {
    const all = addressing.byDevice.get(hostOf(show, device).id) ?? [];
    const own = device.adapter === null ? all : all.filter((item) => item.interface.adapter === device.adapter);
    if (own.length < 2) return own;
    return [...own].sort((a, b) => isDead(a) - isDead(b) || byAdapter(show)(a.interface, b.interface));
  };
  const [own, its] = [ranked(controller), ranked(target)];
  for (const a of own) for (const b of its) if (a.network.id === b.network.id) return [a, b];
  return [own[0], its[0]];
}
