import { formatIp, hostRange, mustIp, parseIp, prefixOf, subnetOf } from '../addressing/index.ts';
import { interfacesOf, typeOf, type Device, type DeviceType, type Progress, type Show } from '../show/index.ts';

/** An address with its mask, as figures of both. */
export interface Place {
  readonly ip: number;
  readonly prefix: number;
}

/** Where a unit answers, or what it does to get an address: it asks a server, helps itself, or has none. */
export type Standing = Place | 'asks' | 'self' | 'none';

/** What is true of a unit now. */
export interface UnitNow {
  readonly device: Device;
  readonly type: DeviceType;
  readonly joined: boolean;
  readonly signedIn: boolean;
  readonly at: Standing;
  /** How that is known. */
  readonly from: 'delivered' | 'keyed_in' | 'found' | 'held';
  /** Acts after which what was keyed in counts. */
  readonly due: Progress['due'];
  readonly progress: Progress | undefined;
}

/** Where somebody found a unit on the network, and when. */
export type FoundAt = (
  deviceId: string,
) => { readonly ip: string; readonly prefix: number; readonly at: number } | undefined;

/**
 * What is true of a unit: what it shows or was found with, else what was keyed in last, else how it was delivered. While
 * acts are still due it is where it was before.
 */
export function unitNow(show: Show, device: Device, foundAt: FoundAt = () => undefined): UnitNow | undefined {
  const type = typeOf(show, device);
  if (!type) return undefined;
  const progress = show.progress[device.id];
  const found = foundAt(device.id);
  // what was done since it was found counts more
  const isLater = found && found.at > (progress?.log.at(-1)?.at ?? 0) ? found : undefined;
  const common = {
    device,
    type,
    progress,
    joined: progress?.joined ?? isLater !== undefined,
    signedIn: progress?.signedIn ?? false,
    due: progress?.due ?? [],
  };
  if (isLater) return { ...common, at: placeOf(isLater), from: 'found' };
  if (progress?.meantime && progress.due.length === 0)
    return { ...common, at: placeOf(progress.meantime), from: 'keyed_in' };
  if (progress && progress.due.length > 0)
    return { ...common, at: progress.held ? placeOf(progress.held) : delivered(type), from: 'held' };
  if (progress?.shows) return { ...common, at: shownAt(progress.shows), from: 'found' };
  const keyed = keyedAt(show, device, type);
  return keyed === undefined
    ? { ...common, at: delivered(type), from: 'delivered' }
    : { ...common, at: keyed, from: 'keyed_in' };
}

const placeOf = ({ ip, prefix }: { readonly ip: string; readonly prefix: number }): Place => ({
  ip: mustIp(ip),
  prefix,
});

const shownAt = ({ ip, prefix }: NonNullable<Progress['shows']>): Standing =>
  ip === null ? 'none' : placeOf({ ip, prefix });

/** As it comes out of its case. */
export function delivered({ factory }: DeviceType): Standing {
  if (factory.mode === 'static' && factory.ip !== null)
    return placeOf({ ip: factory.ip, prefix: factory.prefix ?? 24 });
  if (factory.mode === 'dhcp') return 'asks';
  return factory.mode === 'self' ? 'self' : 'none';
}

/** What was keyed into its first adapter that has anything, as it was then: the plan may have moved on since. */
function keyedAt(show: Show, device: Device, { adapters }: DeviceType): Standing | undefined {
  const values = show.keyedIn[device.id]?.values.filter(({ of, key }) => of === 'address' && key !== 'ipv6') ?? [];
  const adapterOf = (key: string) => {
    const its = interfacesOf(show, device.id).find(({ id }) => id === show.addresses[key]?.interfaceId);
    const at = adapters.findIndex((adapter) => adapter.key === its?.adapter);
    return at < 0 ? adapters.length : at;
  };
  const [first] = [...values].sort((a, b) => adapterOf(a.key) - adapterOf(b.key));
  if (!first) return undefined;
  if (first.value === 'by DHCP') return 'asks';
  if (first.value === 'self-assigned') return 'self';
  const [, ip, mask] = /^([\d.]+), mask ([\d.]+)/.exec(first.value) ?? [];
  const [known, prefix] = [parseIp(ip ?? ''), prefixOf(parseIp(mask ?? '') ?? 0)];
  return known === undefined || prefix === undefined ? undefined : { ip: known, prefix };
}

/** The subnet of an address, such as `10.61.20.0/24`. */
export const subnetText = ({ ip, prefix }: Place): string => `${formatIp(subnetOf(ip, prefix).network)}/${prefix}`;

/** No unit takes the name of its subnet, nor the address of everybody there (RFC 1122 section 3.2.1.3). */
export function isHostAddress({ ip, prefix }: Place): boolean {
  const { first, last } = hostRange(subnetOf(ip, prefix));
  return ip >= first && ip <= last;
}

export const isPlace = (standing: Standing): standing is Place => typeof standing === 'object';
