import { fixWith, nameList, oneOr } from '../../findings/index.ts';
import { changeOf, updateRow } from '../../show/index.ts';
import { addressingRule } from '../addressing-rule.ts';

/**
 * Units that still form an IPv6 address by themselves though they have one of IPv4 (need 2.16): useful until they are
 * signed in to, one more way in afterwards. One note for all of them.
 */
export const ipv6On = addressingRule<{ ipv6_on: { names: string[] } }>(
  {
    ipv6_on: ({ names }) => [
      `${nameList(names)} still ${oneOr(names.length, 'forms', 'form')} an IPv6 address beside the planned one.`,
      'Good for a first contact; afterwards it is one more way in, and programs may list the unit twice.',
      'Plan it off, and switch it off in each menu after the first sign-in.',
    ],
  },
  (found, _show, facts) => {
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
      found('ipv6_on', 'note', subjects, { names: still.map(({ name }) => name) }, [
        fixWith('Plan it off on all of them', change),
      ]),
    ];
  },
);
