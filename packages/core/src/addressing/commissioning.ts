import { byName, groupBy, rowsOf, typeOf, type Device, type Show } from '../show/index.ts';
import type { AddressingFacts } from './facts.ts';
import { mustIp, subnetOf } from './ipv4.ts';
import { formatIpv6, linkLocalOf } from './ipv6.ts';
import { adapterBeside, type AdapterSetting } from './reach.ts';

/** Units that leave the factory on one address, and how to get them apart (C15). */
export interface FactoryGroup {
  readonly ip: string;
  readonly prefix: number;
  readonly setting: AdapterSetting | undefined;
  readonly steps: readonly CommissioningStep[];
}

export interface CommissioningStep {
  readonly device: Device;
  /** `alone`: nothing else of the group may be powered; `by_ipv6`: reached by its own link-local address while all are on. */
  readonly how: 'alone' | 'by_ipv6';
  readonly at: string;
  readonly becomes: string | null;
}

/**
 * The order of first contact. Units whose factory address is shared come one at a time, unless each forms an IPv6
 * link-local address of its own that is known from its MAC; groups in one subnet follow each other, so that the
 * computer's adapter changes as rarely as possible. Units whose plan is the factory address itself come last.
 */
export function commissioningOrder(show: Show, facts: AddressingFacts): FactoryGroup[] {
  const delivered = rowsOf(show, 'devices').flatMap((device) => {
    const factory = typeOf(show, device)?.factory;
    return factory?.mode === 'static' && factory.ip !== null ? [{ device, factory, ip: factory.ip }] : [];
  });
  const groups = [...groupBy(delivered, ({ ip }) => ip)].map(([ip, items]): FactoryGroup => {
    const prefix = items[0]?.factory.prefix ?? 24;
    const steps = items
      .map(({ device }) => stepFor(show, facts, device, ip, items.length))
      .sort((a, b) => Number(a.becomes === ip) - Number(b.becomes === ip) || byName(a.device, b.device));
    return { ip, prefix, setting: adapterBeside(facts, mustIp(ip), prefix), steps };
  });
  const subnetKey = ({ ip, prefix }: FactoryGroup) => subnetOf(mustIp(ip), prefix).network;
  return groups.sort((a, b) => subnetKey(a) - subnetKey(b) || a.prefix - b.prefix || mustIp(a.ip) - mustIp(b.ip));
}

function stepFor(show: Show, facts: AddressingFacts, device: Device, ip: string, alike: number): CommissioningStep {
  const planned = facts.byDevice.get(device.id)?.[0]?.address.ip ?? null;
  const mac = Object.values(show.interfaces).find((row) => row.deviceId === device.id)?.mac ?? null;
  const own6 = typeOf(show, device)?.factory.linkLocal6 && mac ? linkLocalOf(mac) : undefined;
  return alike > 1 && own6
    ? { device, how: 'by_ipv6', at: formatIpv6(own6), becomes: planned }
    : { device, how: 'alone', at: ip, becomes: planned };
}
