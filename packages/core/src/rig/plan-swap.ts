import { changeOf, interfacesOf, removeRow, updateRow, type Change, type Device, type Show } from '../show/index.ts';

/** What is known of the spare; what is left out is not known yet, and no longer what the old one had. */
export interface Spare {
  readonly mac: string | null;
  readonly serial: string;
  readonly firmware: string | null;
}

/**
 * A spare takes the place of a unit: its name, address, cables and links stay, everything that was true of the old box
 * goes. What was keyed in, ticked and copied counts for nothing, and what was measured is of another unit.
 */
export function planSwap(show: Show, device: Device, { mac, serial, firmware }: Spare): Change | undefined {
  const keyed = show.keyedIn[device.id];
  const progress = show.progress[device.id];
  const interfaces = interfacesOf(show, device.id);
  return changeOf(`Swap ${device.name} for a spare`, [
    updateRow('devices', device, {
      serial,
      firmware,
      savedOn: null,
      hostName: '',
      swaps: device.swaps + 1,
      // what is packed and installed on its computer is still there
      done: device.done.filter((key) => !/^(update|save|power):/.test(key)),
      accounts: device.accounts.filter(({ use }) => use !== 'administrator'),
    }),
    ...interfaces.map((row, at) => updateRow('interfaces', row, { mac: at === 0 ? mac : null })),
    ...(keyed ? [removeRow('keyedIn', keyed)] : []),
    ...(progress ? [removeRow('progress', progress)] : []),
  ]);
}
