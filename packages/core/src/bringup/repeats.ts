import { rowsOf, type Device, type Show } from '../show/index.ts';
import type { BringUpStep } from './bring-up.ts';
import { figuresOf, type Figure } from './step-words.ts';

/** A step at a unit like one that was set before: what to look at, and what is keyed in just as there (C83, need 4.12). */
export interface Repeat {
  readonly like: Device;
  readonly differs: readonly Figure[];
  readonly same: readonly Figure[];
}

/** Undefined where no unit of the same type was set before, or where nothing is as it was there. */
export function repeatOf(show: Show, step: BringUpStep): Repeat | undefined {
  const like = step.kind === 'key_in' ? lastAlike(show, step.deviceId) : undefined;
  if (!like) return undefined;
  const lines = (show.keyedIn[like.id]?.values ?? []).map(({ value, ...place }) => ({
    ...place,
    was: null,
    now: value,
  }));
  const there = new Map(figuresOf({ ...step, lines }).map(({ label, value }) => [label, value]));
  // passwords are not compared: nobody reads them here
  const isSame = ({ label, value }: Figure) => there.get(label) === value && !label.endsWith('password');
  const figures = figuresOf(step);
  const same = figures.filter(isSame);
  return same.length === 0 ? undefined : { like, same, differs: figures.filter((figure) => !isSame(figure)) };
}

/** The unit of the same type that was keyed in last. */
function lastAlike(show: Show, deviceId: string): Device | undefined {
  const own = show.devices[deviceId];
  let found: { device: Device; at: number } | undefined;
  for (const { deviceId: id, log } of rowsOf(show, 'progress')) {
    const device = show.devices[id];
    if (!device || id === deviceId || device.typeId !== own?.typeId || !show.keyedIn[id]) continue;
    const done = log.findLast(({ step, what }) => what === 'done' && step === `key_in:${id}`);
    if (done && done.at >= (found?.at ?? 0)) found = { device, at: done.at };
  }
  return found?.device;
}
