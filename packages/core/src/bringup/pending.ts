import type { AddressingFacts } from '../addressing/index.ts';
import {
  changeOf,
  commitActs,
  insertRow,
  typeOf,
  updateRow,
  type Change,
  type Device,
  type DeviceType,
  type Show,
} from '../show/index.ts';
import { plannedSettings, type Setting } from './planned-settings.ts';

export type CommitStep = DeviceType['commits'][number]['acts'][number];

/** One setting that stands otherwise in the unit than in the plan; null is "nothing there". */
export interface PendingLine {
  readonly of: Setting['of'];
  readonly key: string;
  readonly label: string;
  readonly was: string | null;
  readonly now: string | null;
}

export interface Pending {
  /** Nobody has said yet that anything was keyed in. */
  readonly neverSet: boolean;
  readonly lines: readonly PendingLine[];
  /** What makes the lines count, in the order in which it is done (C29). */
  readonly acts: readonly CommitStep[];
}

/** What is to be keyed into a unit, against what was keyed in last, and the acts and restarts that follow (C29). */
export function pendingOf(show: Show, addressing: AddressingFacts, device: Device): Pending {
  const known = show.keyedIn[device.id];
  const lines = differences(known?.values ?? [], plannedSettings(show, addressing, device));
  return { neverSet: known === undefined, lines, acts: actsFor(typeOf(show, device), lines) };
}

export function differences(before: readonly Setting[], after: readonly Setting[]): PendingLine[] {
  const placeOf = ({ of, key }: Setting): string => `${of} ${key}`;
  const [was, now] = [new Map(before.map((s) => [placeOf(s), s])), new Map(after.map((s) => [placeOf(s), s]))];
  const gone = before.filter((setting) => !now.has(placeOf(setting)));
  return [
    ...after.map((setting) => ({
      ...place(setting),
      was: was.get(placeOf(setting))?.value ?? null,
      now: setting.value,
    })),
    ...gone.map((setting) => ({ ...place(setting), was: setting.value, now: null })),
  ].filter((line) => line.was !== line.now);
}

const place = ({ of, key, label }: Setting) => ({ of, key, label });

/** A restart of the larger thing restarts the smaller one too. */
const covers: Partial<Record<CommitStep['act'], readonly CommitStep['act'][]>> = {
  restart_device: ['restart_service', 'restart_program'],
  restart_computer: ['restart_service', 'restart_program'],
};

/**
 * The acts of every kind of setting among the lines, each once, in the order of `commitActs`: confirm, store, leave,
 * then the smallest restart that is enough. Times are the longest of those named.
 */
export function actsFor(type: DeviceType | undefined, lines: readonly Pick<PendingLine, 'of'>[]): CommitStep[] {
  const kinds = new Set(lines.map(({ of }) => of));
  const due = new Map<CommitStep['act'], number | null>();
  for (const { of, acts } of type?.commits ?? [])
    if (kinds.has(of))
      for (const { act, seconds } of acts) due.set(act, Math.max(seconds ?? 0, due.get(act) ?? 0) || null);
  const covered = new Set([...due.keys()].flatMap((act) => covers[act] ?? []));
  return commitActs.flatMap((act) =>
    due.has(act) && !covered.has(act) ? [{ act, seconds: due.get(act) ?? null }] : [],
  );
}

/** Says that the units now have what the plan wants, or only the one line of it named by `only`. */
export function planKeyedIn(
  show: Show,
  addressing: AddressingFacts,
  devices: readonly Device[],
  only?: Pick<PendingLine, 'of' | 'key'>,
): Change | undefined {
  const label = devices.length === 1 ? `${devices[0]?.name} is set` : `${devices.length} units are set`;
  const edits = devices.map((device) => {
    const known = show.keyedIn[device.id];
    const values = merged(known?.values ?? [], plannedSettings(show, addressing, device), only);
    return known
      ? updateRow('keyedIn', known, { values })
      : insertRow('keyedIn', { id: device.id, deviceId: device.id, values });
  });
  return changeOf(label, edits);
}

function merged(before: readonly Setting[], now: Setting[], only?: Pick<PendingLine, 'of' | 'key'>): Setting[] {
  if (!only) return now;
  const isIt = ({ of, key }: Setting): boolean => of === only.of && key === only.key;
  return [...before.filter((setting) => !isIt(setting)), ...now.filter(isIt)];
}
