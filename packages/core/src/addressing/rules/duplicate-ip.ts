import { finding, keyed } from '../../findings/index.ts';
import type { Show } from '../../show/index.ts';
import type { AddressingFacts, Planned } from '../facts.ts';
import { formatIp } from '../ipv4.ts';
import { apartFix, byRightToStay } from '../move-fix.ts';

/** Two owners of one address (C6): whichever answers first is obeyed. The held or first one keeps it. */
export const duplicateIp = (show: Show, facts: AddressingFacts) =>
  [...facts.byIp]
    // one machine that has an address twice has no other owner beside it
    .filter(([, items]) => items.some(({ device }) => device.id !== items[0]?.device.id))
    .map(([ip, items]) => clash(show, facts, ip, items));

function clash(show: Show, facts: AddressingFacts, ip: number, items: readonly Planned[]) {
  const subjects = items.map(({ address }) => ({ table: 'addresses' as const, id: address.id }));
  const names = [...new Set([...items].sort(byRightToStay).map(({ device }) => device.name))];
  const found = finding('addressing', 'duplicate_ip', 'stops', subjects, { ip: formatIp(ip), names }, [
    apartFix(show, facts, items),
  ]);
  return keyed(found, formatIp(ip));
}
