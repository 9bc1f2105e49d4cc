import { rowsOf, typeOf, type Show } from '../show/index.ts';
import { formatIp, mustIp, overlaps, subnetOf, type Subnet } from './ipv4.ts';

/**
 * A range for one more network of our own (need 2.2): the next /24 beside the networks that are ours, so that all of
 * them are said alike, else the first of an easily said private range; never one that overlaps a network of the show or
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
  const ours = networks
    .filter(({ owner, prefix }) => owner === 'ours' && prefix >= 16)
    .map(({ network }) => mustIp(network));
  const start = ours.length > 0 ? Math.max(...ours) : mustIp('10.61.10.0');
  // tens apart within the same 10.x, then anywhere in it
  const near = Array.from(
    { length: 25 },
    (_, at) => subnetOf(start, 16).network + ((((start >>> 8) & 255) + at * 10) % 256) * 256,
  );
  const all = Array.from({ length: 256 }, (_, at) => subnetOf(start, 16).network + at * 256);
  const free = [...near, ...all]
    .map((network) => subnetOf(network, 24))
    .find((range) => !taken.some((other) => overlaps(range, other)));
  return free && `${formatIp(free.network)}/24`;
}
