import { typeOf, type Device, type Show } from '../show/index.ts';
import type { AddressingFacts, NetworkFacts } from './facts.ts';
import { obstacleAt } from './free-hosts.ts';
import { contains, formatIp, hostRange, mustIp, overlaps, parseIp, prefixOf, subnetOf, type Subnet } from './ipv4.ts';
import { formatIpv6, linkLocalOf } from './ipv6.ts';

/** What to set on a computer's adapter to be in a subnet beside somebody (C11). */
export interface AdapterSetting {
  readonly ip: string;
  readonly prefix: number;
  /** Where the gateway field may stay empty; on a closed network it should. */
  readonly gateway: string | null;
}

/**
 * A free address for a computer beside `target`: high in the subnet, where gear is rare, off the target, the gateway
 * and all that is planned or comes from the factory there.
 */
export function adapterBeside(facts: AddressingFacts, target: number, prefix: number): AdapterSetting | undefined {
  const subnet = subnetOf(target, prefix);
  const { first, last } = hostRange(subnet);
  const near = facts.networks.filter((network) => overlaps(network.subnet, subnet));
  const on = near.find((network) => network.subnet.network === subnet.network && network.subnet.prefix === prefix);
  const isTaken = (ip: number): boolean => ip === target || facts.gateways.has(ip) || !isOurs(facts, near, ip);
  // 250 of a /24 is easily said and far from what crews number by unit
  const start = Math.max(first, Math.min(last, subnet.network + 250));
  for (let step = 0; step <= last - first; step += 1) {
    const ip = start - step >= first ? start - step : last - (step - (start - first) - 1);
    if (!isTaken(ip)) return { ip: formatIp(ip), prefix, gateway: on?.network.gateway ?? null };
  }
  return undefined;
}

/** May somebody be put there without being in anybody's way: on whichever networks of the plan it lies? */
function isOurs(facts: AddressingFacts, near: readonly NetworkFacts[], ip: number): boolean {
  if (facts.byIp.has(ip) || facts.factory.has(ip)) return false;
  // beside the plan's own networks lies no name and no address of everybody
  const obstacles = near.filter(({ subnet }) => contains(subnet, ip)).map((on) => obstacleAt(facts, on, ip));
  return obstacles.every((obstacle) => obstacle === undefined);
}

export interface ReachWay {
  /** Why it may be there. */
  readonly why: 'planned' | 'keyed_in' | 'factory' | 'leased' | 'self_assigned' | 'link_local_6';
  readonly range: string;
  /** Where it would answer, if that is known. */
  readonly at: string | null;
  readonly setting: AdapterSetting | undefined;
}

const selfAssigned: Subnet = { network: mustIp('169.254.0.0'), prefix: 16 };

/**
 * Where a unit may be found that does not answer, the likeliest first, with the adapter setting that would find it
 * (C18): where the plan has it, where somebody keyed it in before, where the factory puts it, what a server may have given it, what it may have given
 * itself (RFC 3927), and its IPv6 link-local address, which needs no setting at all.
 */
export function reachWays(show: Show, facts: AddressingFacts, device: Device): ReachWay[] {
  const type = typeOf(show, device);
  const own = facts.byDevice.get(device.id) ?? [];
  const planned = own.flatMap(({ ip, prefix, network }): ReachWay[] => {
    if (ip === null) return [];
    const range = `${network.network}/${network.prefix}`;
    return [{ why: 'planned', range, at: formatIp(ip), setting: adapterBeside(facts, ip, prefix) }];
  });
  const keyed = keyedIn(show, device).map(({ ip, prefix }): ReachWay => ({
    why: 'keyed_in',
    range: `${formatIp(subnetOf(ip, prefix).network)}/${prefix}`,
    at: formatIp(ip),
    setting: adapterBeside(facts, ip, prefix),
  }));
  const factoryIp = type?.factory.ip ?? null;
  const prefix = type?.factory.prefix ?? 24;
  const factory: ReachWay[] =
    factoryIp === null
      ? []
      : [
          {
            why: 'factory',
            range: `${formatIp(subnetOf(mustIp(factoryIp), prefix).network)}/${prefix}`,
            at: factoryIp,
            setting: adapterBeside(facts, mustIp(factoryIp), prefix),
          },
        ];
  const asks = type?.factory.mode === 'dhcp' || own.some(({ address }) => address.method === 'dhcp');
  const pools = facts.networks.filter(({ pool }) => asks && pool !== null);
  const leased = pools.map(({ network, pool }): ReachWay => ({
    why: 'leased',
    range: `${network.poolFrom} to ${network.poolTo}`,
    at: null,
    setting: pool ? adapterBeside(facts, pool.from, network.prefix) : undefined,
  }));
  const selves = asks || type?.factory.mode === 'self' ? [selfWay(facts)] : [];
  return unique([...planned, ...keyed, ...factory, ...leased, ...selves, ...linkLocals(show, device)]);
}

/** Addresses that somebody ticked as keyed in, as they were then: the plan may have moved on since. */
const keyedIn = (show: Show, { id }: Device): { ip: number; prefix: number }[] =>
  (show.keyedIn[id]?.values ?? []).flatMap(({ of, value }) => {
    const [, ip, mask] = /^([\d.]+), mask ([\d.]+)/.exec(value) ?? [];
    const [known, prefix] = [parseIp(ip ?? ''), prefixOf(parseIp(mask ?? '') ?? 0)];
    return of === 'address' && known !== undefined && prefix !== undefined ? [{ ip: known, prefix }] : [];
  });

const selfWay = (facts: AddressingFacts): ReachWay => ({
  why: 'self_assigned',
  range: '169.254.0.0/16',
  at: null,
  setting: adapterBeside(facts, selfAssigned.network + 0x0a00, 16),
});

function linkLocals(show: Show, device: Device): ReachWay[] {
  if (!typeOf(show, device)?.factory.linkLocal6) return [];
  // planned off is not yet off: only what was keyed in closes this way
  if (show.keyedIn[device.id]?.values.some(({ key, value }) => key === 'ipv6' && value === 'off')) return [];
  return Object.values(show.interfaces).flatMap((row): ReachWay[] => {
    const ip = row.deviceId === device.id && row.mac ? linkLocalOf(row.mac) : undefined;
    return ip ? [{ why: 'link_local_6', range: 'fe80::/10', at: formatIpv6(ip), setting: undefined }] : [];
  });
}

const unique = (ways: readonly ReachWay[]): ReachWay[] =>
  ways.filter((way, at) => ways.findIndex(({ range, at: place }) => range === way.range && place === way.at) === at);

/** A gateway for a menu that refuses an empty field where none is needed: an unused address of the network (C10). */
export function harmlessGateway(facts: AddressingFacts, networkId: string): string | undefined {
  const on = facts.byNetwork.get(networkId);
  if (!on) return undefined;
  if (on.network.gateway !== null) return on.network.gateway;
  // not in the pool nor in somebody else's range: what is unused today is theirs tomorrow
  for (let ip = on.last; ip >= on.first; ip -= 1)
    if (obstacleAt(facts, on, ip) === undefined && !facts.gateways.has(ip)) return formatIp(ip);
  return undefined;
}
