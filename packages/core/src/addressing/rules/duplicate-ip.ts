import { finding } from '../../findings/index.ts';
import type { Show } from '../../show/index.ts';
import type { AddressingFacts, Planned } from '../facts.ts';
import { formatIp } from '../ipv4.ts';
import { moveFix } from '../move-fix.ts';

/** Two owners of one address (C6): whichever answers first is obeyed. The held or first one keeps it. */
export const duplicateIp = (show: Show, facts: AddressingFacts) =>
  [...facts.byIp].filter(([, items]) => items.length > 1).map(([ip, items]) => clash(show, facts, ip, items));

function clash(show: Show, facts: AddressingFacts, ip: number, items: readonly Planned[]) {
  const [keeper, ...others] = [...items].sort(byRightToStay);
  const subjects = items.map(({ address }) => ({ table: 'addresses' as const, id: address.id }));
  const names = [keeper, ...others].map((item) => item?.device.name ?? '');
  const fixes = others.map((item) => moveFix(show, facts, item));
  return finding('addressing', 'duplicate_ip', 'stops', subjects, { ip: formatIp(ip), names }, fixes);
}

const byRightToStay = (a: Planned, b: Planned): number =>
  Number(b.address.held) - Number(a.address.held) ||
  a.address.rev - b.address.rev ||
  (a.device.id < b.device.id ? -1 : 1);
