import type { AddressingFacts } from '../addressing/index.ts';
import { contentWith, rowsBy, serviceTypeOf, typeOf, type Device, type Service, type Show } from '../show/index.ts';
import { serviceSettings, setting, type Setting } from './planned-settings.ts';
import { delivered } from './unit-now.ts';

/** What stands in a unit as it comes out of its case, as far as the plan has anything to say of it. */
export function deliveredSettings(show: Show, { byDevice }: AddressingFacts, device: Device): Setting[] {
  const type = typeOf(show, device);
  if (!type) return [];
  const [first] = type.adapters;
  const own = (byDevice.get(device.id) ?? []).filter(({ interface: its }) => its.adapter === first?.key);
  const standing = delivered(type);
  const addresses = own.flatMap(({ address, network }): Setting[] => {
    const name = `${first?.label ?? ''} on ${network.name}`;
    if (standing === 'asks') return [setting('address', address.id, name, 'by DHCP')];
    return standing === 'self' ? [setting('address', address.id, name, 'self-assigned')] : [];
  });
  const services = (rowsBy(show, 'services', 'deviceId').get(device.id) ?? []).flatMap((row) => {
    const own = serviceTypeOf(show, device, row.key);
    if (!own) return [];
    const { key, onByDefault, receivePort, sendPort, logins } = own;
    const open = { id: row.id, deviceId: device.id, key, sendTo: null, secretId: null, login: logins[0] ?? null };
    const account = type.factory.login === 'preset' ? type.factory.account : null;
    const as = contentWith('services', { ...open, enabled: onByDefault, receivePort, sendPort, account });
    return serviceSettings(show, device, { ...as, rev: 0 } satisfies Service);
  });
  return [...addresses, ...services];
}
