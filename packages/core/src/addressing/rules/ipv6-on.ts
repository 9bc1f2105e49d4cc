import { fixWith, groups, keyed, nameList, oneOr } from '../../findings/index.ts';
import { indexBy, rowsBy, typeOf, updateRow, type Device, type Show } from '../../show/index.ts';
import { addressingRule } from '../addressing-rule.ts';

/**
 * Units that still form an IPv6 address by themselves though they have one of IPv4 (need 2.16): useful until they are
 * signed in to, one more way in afterwards. One note for all of them.
 */
export const ipv6On = addressingRule<{ ipv6_on: { names: readonly string[] } }>(
  {
    ipv6_on: ({ names }) => [
      `${nameList(names)} still ${oneOr(names.length, 'forms', 'form')} an IPv6 address beside the planned one.`,
      'Good for a first contact; afterwards it is one more way in, and programs may list the unit twice.',
      'Plan it off, and switch it off in each menu after the first sign-in.',
    ],
  },
  groups(
    (show) => stillOn(show),
    (found, still, show) => {
      const change = { label: `Switch IPv6 off on ${still.length} units`, edits: switchingOff(show).get('all') ?? [] };
      const subjects = still.slice(0, 50).map((id) => ({ table: 'devices' as const, id }));
      const fix = fixWith('Plan it off on all of them', change);
      return [keyed(found('ipv6_on', 'note', subjects, { names: namesOn(show).get('all') ?? [] }, [fix]), 'all')];
    },
  ),
);

/** Units that form one: their ids, their names, and the edits that plan it off, as three lists. */
const stillBy = <Item>(itemOf: (device: Device) => Item) =>
  indexBy('devices', (device, show): [string, Item][] => (isOn(show, device) ? [['all', itemOf(device)]] : []));

const stillOn = stillBy(({ id }) => id);
const namesOn = stillBy(({ name }) => name);
const switchingOff = stillBy((device) => updateRow('devices', device, { ipv6: 'off' }));

const isOn = (show: Show, device: Device): boolean =>
  device.ipv6 !== 'off' && typeOf(show, device)?.factory.linkLocal6 === true && isServed(show, device.id);

function isServed(show: Show, deviceId: string): boolean {
  const addresses = rowsBy(show, 'addresses', 'interfaceId');
  return (rowsBy(show, 'interfaces', 'deviceId').get(deviceId) ?? []).some(({ id }) =>
    addresses.get(id)?.some(({ ip, networkId }) => ip !== null && networkId in show.networks),
  );
}
