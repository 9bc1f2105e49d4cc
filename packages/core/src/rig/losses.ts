import { isCopyGood } from './copy-age.ts';
import { typeOf, type Device, type DeviceType, type Show } from '../show/index.ts';

/** Something that can destroy work: a reset to factory state, or a synchronisation that overwrites one end. */
export type RiskyAct =
  | { readonly kind: 'reset'; readonly deviceId: string }
  | { readonly kind: 'sync'; readonly fromId: string; readonly toId: string };

export interface Loss {
  readonly device: Device;
  readonly what: string;
  readonly savedOn: string | null;
}

export interface LossReport {
  readonly losses: readonly Loss[];
  /** `no_go`: something would be lost of which there is no copy; `with_copy`: it can be loaded again. */
  readonly verdict: 'nothing_lost' | 'with_copy' | 'no_go';
}

/** What a reset erases or a direction of synchronisation overwrites, and whether a copy exists (C82). */
export function lossesOf(show: Show, act: RiskyAct, now = 0): LossReport {
  const device = show.devices[act.kind === 'reset' ? act.deviceId : act.toId];
  const type = typeOf(show, device);
  // a reset also empties the list of sets that the unit keeps; a synchronisation leaves it alone
  const sets = act.kind === 'reset' && (type?.sets ?? 0) > 0 ? ['its stored sets'] : [];
  const what = [...(type?.erases ?? []), ...sets];
  const losses = device ? what.map((each): Loss => ({ device, what: each, savedOn: device.savedOn })) : [];
  // one day of a copy stands for everything that the unit holds
  const verdict =
    losses.length === 0 ? 'nothing_lost' : isCopyGood(device?.savedOn ?? null, now) ? 'with_copy' : 'no_go';
  return { losses, verdict };
}

/** Has one unit anything that another could be given: the same model, or a partner that keeps step with it? */
export function canSynchronise(show: Show, from: Device, to: Device): boolean {
  const [one, two] = [typeOf(show, from), typeOf(show, to)];
  if (!one || !two || from.id === to.id || two.erases.length === 0) return false;
  return one.model === two.model || keepStep(one, two);
}

/** Do two types hold the same thing, so that one of them says which versions of the other go with it? */
export const keepStep = (one: DeviceType, two: DeviceType): boolean =>
  [one, two].some((type) => type.matches.some(({ model }) => model === (type === one ? two : one).model));
