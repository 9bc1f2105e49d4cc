import { finding } from '../../findings/index.ts';
import type { Show } from '../../show/index.ts';
import type { AddressingFacts, NetworkFacts, Planned } from '../facts.ts';
import { ipKind, unusableKinds } from '../ip-kind.ts';
import { contains, formatIp } from '../ipv4.ts';
import { likelySlip } from '../likely-slip.ts';
import { moveFix } from '../move-fix.ts';

type Code = 'network_address' | 'broadcast_address' | 'outside_subnet' | 'unusable_kind';

/** Addresses that cannot be given to a host of their network (C4, C5). One address has one of these faults at most. */
export const unusableHost = (show: Show, facts: AddressingFacts) =>
  facts.planned.flatMap((item) => {
    const on = facts.byNetwork.get(item.network.id);
    const code = on && faultOf(on, item);
    if (!code || item.ip === null) return [];
    const { network, prefix } = item.network;
    const details = {
      ip: formatIp(item.ip),
      name: item.device.name,
      network: `${network}/${prefix}`,
      on: item.network.name,
    };
    const slip = code === 'outside_subnet' ? slipOf(on, item.ip) : '';
    const subjects = [{ table: 'addresses' as const, id: item.address.id }];
    return [finding('addressing', code, 'stops', subjects, { ...details, slip }, [moveFix(show, facts, item)])];
  });

function faultOf(on: NetworkFacts, { ip }: Planned): Code | undefined {
  if (ip === null) return undefined;
  if (unusableKinds.has(ipKind(ip))) return 'unusable_kind';
  if (!contains(on.subnet, ip)) return 'outside_subnet';
  if (ip < on.first) return 'network_address';
  return ip > on.last ? 'broadcast_address' : undefined;
}

/** The network part that was probably meant, when one slip separates it from what stands there (C22). */
function slipOf(on: NetworkFacts, ip: number): string {
  if (on.subnet.prefix !== 24) return '';
  const [meant, typed] = [formatIp(on.subnet.network), formatIp(ip)].map((text) => text.replace(/\.\d+$/, ''));
  const slip = likelySlip(typed ?? '', meant ?? '');
  return slip ? `${meant}.${ip % 256}` : '';
}
