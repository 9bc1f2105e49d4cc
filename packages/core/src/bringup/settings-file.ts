import type { AddressingFacts } from '../addressing/index.ts';
import { hostOf, typeOf, type Device, type Show } from '../show/index.ts';
import { plannedSettings, type Setting } from './planned-settings.ts';

/** The settings of one unit prepared away from it (need 1.15), to be carried to it or kept with the show's papers. */
export interface SettingsFile {
  readonly format: 'deep-patch/unit-settings';
  readonly version: 1;
  readonly unit: string;
  readonly model: string;
  readonly type: string;
  readonly firmware: string | null;
  readonly settings: readonly Setting[];
  readonly missing: readonly string[];
}

/** Passwords stay here: the file says which setting has one, and it is typed at the unit. */
export function settingsFile(show: Show, addressing: AddressingFacts, device: Device): SettingsFile | undefined {
  const type = typeOf(show, device);
  if (!type) return undefined;
  const settings = plannedSettings(show, addressing, device).map((item) =>
    item.key.endsWith(':password') ? { ...item, value: '' } : item,
  );
  return {
    format: 'deep-patch/unit-settings',
    version: 1,
    unit: device.name,
    model: type.model,
    type: type.name,
    firmware: device.firmware,
    settings,
    missing: missingFor(show, addressing, device),
  };
}

/** What still has to be decided before a unit can be prepared; empty when nothing is. */
export function missingFor(show: Show, addressing: AddressingFacts, device: Device): string[] {
  const type = typeOf(show, device);
  const own = addressing.byDevice.get(device.id) ?? [];
  const open = own.filter(({ ip, address }) => ip === null && address.method === 'static');
  const links = Object.values(show.links).filter(({ controllerId }) => controllerId === device.id);
  const targets = links.filter(({ targetId, host }) => {
    const target = show.devices[targetId];
    return host === null && target && !addressing.byDevice.get(hostOf(show, target).id)?.some(({ ip }) => ip !== null);
  });
  const wantsComputer = type?.form === 'program' && hostOf(show, device).id === device.id;
  return [
    ...open.map(({ network }) => `its address on ${network.name} is not placed`),
    ...(type && type.variants.length > 0 && device.variant === null ? ['its variant or mode is not chosen'] : []),
    ...(wantsComputer ? ['it runs on no computer yet'] : []),
    ...targets.map(({ targetId }) => `${show.devices[targetId]?.name} that it controls has no address`),
  ];
}
