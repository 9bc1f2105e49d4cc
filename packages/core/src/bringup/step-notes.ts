import { lampShows } from '../links/index.ts';
import { counted, nameList } from '../findings/index.ts';
import { isCopyGood, versionsMatch } from '../rig/index.ts';
import { rowsBy, typeOf, type Device, type Show } from '../show/index.ts';
import type { BringUp, BringUpStep } from './bring-up.ts';
import { listedOn } from './endpoints.ts';
import { matchRule, partnersIn } from './first-sync.ts';

/** What somebody has to know before a step, a sentence each; `now` in milliseconds since 1970. */
export function stepNotes(show: Show, { units }: Pick<BringUp, 'units'>, step: BringUpStep, now: number): string[] {
  const device = show.devices[step.deviceId];
  if (!device) return [];
  if (step.kind === 'update') return updateNotes(show, device, units.get(device.id)?.update?.version ?? '', now);
  if (step.kind === 'join') return listNotes(show, device);
  return step.kind === 'register' ? lampNotes(show, device) : [];
}

/** Precautions, who does without it meanwhile, and whose version has to go with the new one. */
function updateNotes(show: Show, device: Device, version: string, now: number): string[] {
  const erases = typeOf(show, device)?.erases ?? [];
  const users = (rowsBy(show, 'links', 'targetId').get(device.id) ?? []).map(({ controllerId }) => controllerId);
  const targets = (rowsBy(show, 'links', 'controllerId').get(device.id) ?? []).map(({ targetId }) => targetId);
  const without = [...new Set([...users, ...targets])].flatMap((id) => show.devices[id]?.name ?? []);
  return [
    ...(erases.length > 0 && !isCopyGood(device.savedOn, now)
      ? [`There is no copy of its ${nameList([...erases])}: save one first, an update may empty it.`]
      : []),
    'Update nothing else beside it, and leave its power alone until it answers again.',
    ...(without.length > 0
      ? [`${nameList(without)} ${without.length === 1 ? 'does' : 'do'} without it meanwhile.`]
      : []),
    ...partnersIn(show).flatMap(({ one, other }) => {
      const partner = one.id === device.id ? other : other.id === device.id ? one : undefined;
      const rule = partner && matchRule(show, device, partner);
      if (!partner || !rule || partner.firmware === null || versionsMatch(version, partner.firmware, rule)) return [];
      return [`${partner.name} runs ${partner.firmware} and has to go with it: update that next.`];
    }),
  ];
}

/** Whoever is to be told by what is new in a list has to know the list. */
function listNotes(show: Show, device: Device): string[] {
  const on = listedOn(show, device);
  return on ? [`Note what ${on.name} lists under MIDI before you switch it on: what is new then is this one.`] : [];
}

/** What a controller’s own lamps will mean, so that nobody believes more of them. */
function lampNotes(show: Show, device: Device): string[] {
  const means = typeOf(show, device)?.lampMeans;
  const entries = rowsBy(show, 'links', 'controllerId').get(device.id)?.length ?? 0;
  if (means == null || entries === 0) return [];
  const lamps = counted(entries, 'lamp', 'lamps');
  return [`Of its ${lamps} a lit one only shows ${lampShows(means)}. Sound each link before you believe it.`];
}
