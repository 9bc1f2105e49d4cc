import { finding, fixWith, type Finding } from '../../findings/index.ts';
import { changeOf, updateRow, type Show } from '../../show/index.ts';
import type { AddressingFacts } from '../facts.ts';

/**
 * Units that still form an IPv6 address by themselves though they have one of IPv4 (need 2.16): useful until they are
 * signed in to, one more way in afterwards. One note for all of them.
 */
export function ipv6On(_show: Show, facts: AddressingFacts): Finding[] {
  const still = [...facts.byDevice.values()].flatMap((own) => {
    const [first] = own;
    const isServed = own.some(({ ip }) => ip !== null);
    return first && isServed && first.type.factory.linkLocal6 && first.device.ipv6 !== 'off' ? [first.device] : [];
  });
  if (still.length === 0) return [];
  const change = changeOf(
    `Switch IPv6 off on ${still.length} units`,
    still.map((device) => updateRow('devices', device, { ipv6: 'off' })),
  );
  const subjects = still.map(({ id }) => ({ table: 'devices' as const, id }));
  return [
    finding('addressing', 'ipv6_on', 'note', subjects, { names: still.map(({ name }) => name) }, [
      fixWith('Plan it off on all of them', change),
    ]),
  ];
}
