import { keyed, nameList, groups } from '../../findings/index.ts';
import { addressingRule } from '../addressing-rule.ts';
import { formatIp } from '../ipv4.ts';
import { apartFix, byRightToStay } from '../move-fix.ts';

/** Two owners of one address (C6): whichever answers first is obeyed. The held or first one keeps it. */
export const duplicateIp = addressingRule<{ duplicate_ip: { ip: string; names: string[] } }>(
  {
    duplicate_ip: (f, fixable) => [
      `${nameList(f.names)} share ${f.ip}.`,
      'Whichever answers first takes the controls, so a command may move the wrong unit.',
      fixable ? 'Let one keep it and move the other.' : 'Type a free address for one of them.',
    ],
  },
  groups(
    (_show, { byIp }) => byIp,
    (found, items, show, facts) => {
      const ip = items[0]?.ip ?? 0;
      // one machine that has an address twice has no other owner beside it
      if (items.every(({ device }) => device.id === items[0]?.device.id)) return [];
      const subjects = items.map(({ address }) => ({ table: 'addresses' as const, id: address.id }));
      const names = [...new Set([...items].sort(byRightToStay).map(({ device }) => device.name))];
      const details = { ip: formatIp(ip), names };
      return [keyed(found('duplicate_ip', 'stops', subjects, details, [apartFix(show, facts, items)]), formatIp(ip))];
    },
    2,
  ),
);
