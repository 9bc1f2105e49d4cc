import { rowsOf, typeOf, type Network, type Show } from '../show/index.ts';
import { ipKind } from './ip-kind.ts';
import { formatIp, mustIp, overlaps, subnetOf, type Subnet } from './ipv4.ts';

/**
 * A range for one more network of our own (need 2.2): the next /24 beside the networks that are ours, so that all of
 * them are said alike, else the first free one of any private range; never one that overlaps a network of the show or
 * a range in which its gear leaves the factory.
 */
export function suggestRange(show: Show): string | undefined {
  const networks = rowsOf(show, 'networks');
  const taken = [
    ...networks.map(({ network, prefix }) => subnetOf(mustIp(network), prefix)),
    ...rowsOf(show, 'devices').flatMap((device): Subnet[] => {
      const factory = typeOf(show, device)?.factory;
      return factory?.ip ? [subnetOf(mustIp(factory.ip), factory.prefix ?? 24)] : [];
    }),
  ];
  const isFree = (range: Subnet): boolean => !taken.some((other) => overlaps(range, other));
  for (const range of candidates(networks)) if (isFree(range)) return `${formatIp(range.network)}/24`;
  return undefined;
}

/**
 * Tens apart within the /16 of ours, then anywhere in it, then in every private range (RFC 1918), the easily said ones
 * first.
 */
function* candidates(networks: readonly Network[]): Generator<Subnet> {
  const ours = networks
    .filter(({ owner, prefix, network }) => owner === 'ours' && prefix >= 16 && ipKind(mustIp(network)) === 'private')
    .map(({ network }) => mustIp(network));
  const start = ours.length > 0 ? Math.max(...ours) : mustIp('10.61.10.0');
  const { network: home } = subnetOf(start, 16);
  for (let at = 0; at < 25; at += 1) yield subnetOf(home + ((((start >>> 8) & 255) + at * 10) % 256) * 256, 24);
  for (const [from, prefix] of [[home, 16], ...privateRanges] as const)
    for (let at = 0; at < 2 ** (24 - prefix); at += 1) yield subnetOf(from + at * 256, 24);
}

const privateRanges = [
  [mustIp('10.61.0.0'), 16],
  [mustIp('10.0.0.0'), 8],
  [mustIp('172.16.0.0'), 12],
  [mustIp('192.168.0.0'), 16],
] as const;
