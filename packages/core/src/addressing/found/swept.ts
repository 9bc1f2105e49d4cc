import type { FoundHost, SweptSubnet } from '../../show/index.ts';
import { contains, mustIp, parseIp, subnetOf } from '../ipv4.ts';

/** Would a sweep of these subnets have met every address of a host? One without any is met nowhere. */
export function areAllIn(swept: readonly SweptSubnet[], ips: FoundHost['ips']): boolean {
  const subnets = swept.map(({ ip, prefix }) => subnetOf(mustIp(ip), prefix));
  return ips.length > 0 && ips.every(({ ip }) => subnets.some((subnet) => contains(subnet, parseIp(ip) ?? -1)));
}
