import type { AddressingFacts, Planned } from '../addressing/index.ts';
import type { CablingFacts } from '../cabling/index.ts';
import {
  byAdapter,
  hostOf,
  interfacesOf,
  memo,
  typeOf,
  type Device,
  type DeviceType,
  type Interface,
  type Show,
} from '../show/index.ts';

/** A unit as an end of links: what all links that end there share, worked out once a unit. */
export interface Side {
  readonly device: Device;
  readonly type: DeviceType | undefined;
  /** The machine that its packets leave from. */
  readonly host: Device;
  /** The adapter that somebody looks at where nothing is planned: the one that it was told to use, or the first. */
  readonly firstAdapter: string | undefined;
  /** The machine's interfaces by adapter. */
  readonly interfaces: ReadonlyMap<string, Interface>;
  /** All that is planned for the machine. */
  readonly planned: readonly Planned[];
  /** What of it the unit may use, the likeliest first. */
  readonly ranked: readonly Planned[];
}

export type Sides = (deviceId: string) => Side | undefined;

export const sidesOf = (show: Show, addressing: AddressingFacts, cabling: CablingFacts): Sides =>
  memo((deviceId) => {
    const device = show.devices[deviceId];
    if (!device) return undefined;
    const host = hostOf(show, device);
    const planned = addressing.byDevice.get(host.id) ?? [];
    return {
      device,
      type: typeOf(show, device),
      host,
      firstAdapter: device.adapter ?? typeOf(show, host)?.adapters[0]?.key,
      interfaces: new Map(interfacesOf(show, host.id).map((row) => [row.adapter, row])),
      planned,
      ranked: rankedFor(show, cabling, device, planned),
    };
  });

/**
 * An adapter with a cable goes before one without, since a computer does not send through a dead one, then the first of
 * its type. A program that was told which adapter to use has no other.
 */
function rankedFor(show: Show, cabling: CablingFacts, { adapter }: Device, planned: readonly Planned[]) {
  const own = adapter === null ? planned : planned.filter((item) => item.interface.adapter === adapter);
  if (own.length < 2) return own;
  const domains = cabling.domains();
  const isDead = ({ interface: its }: Planned) => Number(!domains.isLit(its.deviceId, its.adapter));
  const inOrder = byAdapter(show);
  return [...own].sort((a, b) => isDead(a) - isDead(b) || inOrder(a.interface, b.interface));
}

/** The pair of addresses on one network (C12); without such a pair, the first address of each. */
export function facing(near: Side, far: Side): readonly [Planned | undefined, Planned | undefined] {
  for (const a of near.ranked) for (const b of far.ranked) if (a.network.id === b.network.id) return [a, b];
  return [near.ranked[0], far.ranked[0]];
}
