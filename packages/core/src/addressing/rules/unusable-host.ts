import { each } from '../../findings/index.ts';
import { addressingRule } from '../addressing-rule.ts';
import type { NetworkFacts, Planned } from '../facts.ts';
import { ipKind, unusableKinds } from '../ip-kind.ts';
import { contains, formatIp } from '../ipv4.ts';
import { likelySlip } from '../likely-slip.ts';
import { moveFix, moveWords } from '../move-fix.ts';

type Host = { ip: string; name: string; network: string; on: string; slip: string };
type Finds = { network_address: Host; broadcast_address: Host; outside_subnet: Host; unusable_kind: Host };

/** Addresses that cannot be given to a host of their network (C4, C5). One address has one of these faults at most. */
export const unusableHost = addressingRule<Finds>(
  {
    network_address: (f, fixable) => [
      `${f.name} has ${f.ip}, the name of the network ${f.network} itself.`,
      'No unit may own it: the unit stays silent.',
      moveWords(fixable),
    ],
    broadcast_address: (f, fixable) => [
      `${f.name} has ${f.ip}, the address that means everybody on ${f.network}.`,
      'What is sent there goes to all units and none answers.',
      moveWords(fixable),
    ],
    outside_subnet: (f, fixable) => [
      `${f.name} has ${f.ip}, outside ${f.on} (${f.network}).`,
      'Nothing on that network can reach it, and it is not discovered.',
      f.slip ? `Probably meant ${f.slip}: one figure slipped.` : moveWords(fixable),
    ],
    unusable_kind: (f, fixable) => [
      `${f.name} has ${f.ip}, which no unit can use.`,
      'The range is kept for loopback, multicast or other purposes.',
      moveWords(fixable),
    ],
  },
  each(
    (_show, { byId }) => byId,
    (found, item, show, facts) => {
      const on = facts.byNetwork.get(item.network.id);
      const code = on && faultOf(on, item);
      if (!code || item.ip === null) return [];
      const { network, prefix, name } = item.network;
      const slip = code === 'outside_subnet' ? slipOf(on, item.ip) : '';
      const details = {
        ip: formatIp(item.ip),
        name: item.device.name,
        network: `${network}/${prefix}`,
        on: name,
        slip,
      };
      const subjects = [{ table: 'addresses' as const, id: item.address.id }];
      return [found(code, 'stops', subjects, details, [moveFix(show, facts, item)])];
    },
  ),
);

function faultOf(on: NetworkFacts, { ip }: Planned): keyof Finds | undefined {
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
