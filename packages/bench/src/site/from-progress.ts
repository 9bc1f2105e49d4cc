import { bringup, show as core, type Show } from '@deep-patch/core';
import { resetToFactory } from '../units/keying.ts';
import { hold } from '../units/pending.ts';
import { settingsOf, type Standin } from '../units/standin.ts';
import { staticSetting } from '../units/settings.ts';
import type { Site } from './site.ts';

/**
 * A bench that starts anew in the middle of a bring-up stands where the sheet is: who was joined has power, who was set has
 * what is planned, everybody else is as delivered, and the technician's computer is where it was led.
 */
export function standWhereTheSheetIs(site: Site): void {
  const { show } = site.plan;
  const rows = core.rowsOf(show, 'progress');
  if (rows.every(({ log }) => log.length === 0)) return;
  const computer = bringup.techniciansComputer(show);
  const own = computer && show.progress[computer.id];
  for (const standin of site.standins.values())
    if (standin.device.id === computer?.id) setComputer(standin, own);
    else takeUp(standin, show.progress[standin.device.id], show);
  for (const { adapter, at } of own?.adapters ?? []) {
    const socket = site.standins.get(computer?.id ?? '')?.type.sockets.find((each) => each.adapter === adapter)?.key;
    if (computer && at && socket !== undefined) site.lead(computer.id, socket, at);
  }
  const joined = rows.filter((row) => row.joined).map(({ deviceId }) => deviceId);
  site.power(computer ? [...joined, computer.id] : joined, true);
}

function setComputer(standin: Standin, row: core.Progress | undefined): void {
  const places = (row?.adapters ?? []).map(
    ({ adapter, places: own }) => [adapter, own.map(({ ip, prefix }) => staticSetting(ip, prefix, null))] as const,
  );
  hold(standin.memory, { ...settingsOf(standin), addresses: Object.fromEntries(places) });
}

function takeUp(standin: Standin, row: core.Progress | undefined, show: Show): void {
  const { device, memory } = standin;
  if (show.keyedIn[device.id]) return;
  resetToFactory(standin);
  memory.firstSignIn &&= !(row?.signedIn ?? false);
}
