import { byName, groupBy, rowsOf, typeOf, type Device, type Show } from '../show/index.ts';
import type { AddressingFacts } from './facts.ts';
import { hostRange, mustIp, subnetOf } from './ipv4.ts';
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
  /**
   * `alone`: nothing else of the group may be powered; `by_ipv6`: reached by its own link-local address while all are
   * on; `own_menu`: nothing answers at its factory address, so it is set at itself, or by another way of its type.
   */
  readonly how: 'alone' | 'by_ipv6' | 'own_menu';
  readonly at: string;
  readonly becomes: string | null;
  /** Units that stand at the address it is due at until they are set themselves. */
  readonly waitsFor: readonly Device[];
}

/**
 * The order of first contact. Units whose factory address is shared come one at a time, unless each forms an IPv6
 * link-local address of its own that is known from its MAC; groups in one subnet follow each other, so that the
 * computer's adapter changes as rarely as possible. Units whose plan is the factory address itself come last, and one that
 * is due at the factory address of others comes after them.
 */
export function commissioningOrder(show: Show, facts: AddressingFacts): FactoryGroup[] {
  const delivered = rowsOf(show, 'devices').flatMap((device) => {
    const factory = typeOf(show, device)?.factory;
    return factory?.mode === 'static' && factory.ip !== null ? [{ device, factory, ip: factory.ip }] : [];
  });
  const groups = [...groupBy(delivered, ({ ip }) => ip)].map(([ip, items]): FactoryGroup => {
    const prefix = items[0]?.factory.prefix ?? 24;
    const steps = items
      .map(({ device }) => stepFor(show, facts, device, { ip, prefix, alike: items.length, delivered }))
      .sort((a, b) => Number(a.becomes === ip) - Number(b.becomes === ip) || byName(a.device, b.device));
    return { ip, prefix, setting: adapterBeside(facts, mustIp(ip), prefix), steps };
  });
  const subnetKey = ({ ip, prefix }: FactoryGroup) => subnetOf(mustIp(ip), prefix).network;
  const near = groups.sort((a, b) => subnetKey(a) - subnetKey(b) || a.prefix - b.prefix || mustIp(a.ip) - mustIp(b.ip));
  return afterTheirHosts(near);
}

/** Groups in the order given, except that who waits for another group comes after it; of a circle the first waits in vain. */
function afterTheirHosts(groups: readonly FactoryGroup[]): FactoryGroup[] {
  const byIp = new Map(groups.map((group) => [group.ip, group]));
  const done = new Set<FactoryGroup>();
  const result: FactoryGroup[] = [];
  const visit = (group: FactoryGroup): void => {
    if (done.has(group)) return;
    done.add(group);
    for (const { becomes, waitsFor } of group.steps) {
      const host = waitsFor.length > 0 ? byIp.get(becomes ?? '') : undefined;
      if (host) visit(host);
    }
    result.push(group);
  };
  groups.forEach(visit);
  return result;
}

interface Delivered {
  readonly ip: string;
  readonly prefix: number;
  readonly alike: number;
  readonly delivered: readonly { readonly device: Device; readonly ip: string }[];
}

function stepFor(
  show: Show,
  facts: AddressingFacts,
  device: Device,
  { ip, prefix, alike, delivered }: Delivered,
): CommissioningStep {
  const planned = facts.byDevice.get(device.id)?.[0]?.address.ip ?? null;
  const mac = Object.values(show.interfaces).find((row) => row.deviceId === device.id)?.mac ?? null;
  const own6 = typeOf(show, device)?.factory.linkLocal6 && mac ? linkLocalOf(mac) : undefined;
  const waitsFor = delivered.filter((other) => other.ip === planned && planned !== ip).map((other) => other.device);
  const step = { device, at: ip, becomes: planned, waitsFor };
  if (!canAnswer(ip, prefix))
    return own6 ? { ...step, how: 'by_ipv6', at: formatIpv6(own6) } : { ...step, how: 'own_menu' };
  return alike > 1 && own6 ? { ...step, how: 'by_ipv6', at: formatIpv6(own6) } : { ...step, how: 'alone' };
}

/** The name of a network, or the address of everybody, is nobody's. */
function canAnswer(ip: string, prefix: number): boolean {
  const { first, last } = hostRange(subnetOf(mustIp(ip), prefix));
  return mustIp(ip) >= first && mustIp(ip) <= last;
}
