import { formatIp, type AddressingFacts } from '../addressing/index.ts';
import {
  changeOf,
  contentOf,
  contentWith,
  insertRow,
  removeRow,
  rowsOf,
  updateRow,
  type Change,
  type Content,
  type Edit,
  type KeyedIn,
  type Progress,
  type Show,
} from '../show/index.ts';
import type { BringUp, BringUpStep } from './bring-up.ts';
import { isRestart } from './unit-plan.ts';
import { actsFor } from './pending.ts';
import { plannedSettings } from './planned-settings.ts';
import { isPlace, type Place, type Standing } from './unit-now.ts';

/** Who says so, and when: milliseconds since 1970. */
export interface Said {
  readonly by: string;
  readonly at: number;
}

type Patch = Partial<Content<'progress'>>;
const mostLog = 200;

const given = ({ ip, prefix }: Place) => ({ ip: formatIp(ip), prefix });
const heldAt = (standing: Standing) => (isPlace(standing) ? given(standing) : null);

/** The row of a unit with a patch, made where there is none yet. */
function put(show: Show, deviceId: string, patch: (row: Content<'progress'>) => Patch): Edit[] {
  const row = show.progress[deviceId];
  const fresh = contentWith('progress', { id: deviceId, deviceId });
  return row
    ? [updateRow('progress', row, patch(contentOf(row)))]
    : [insertRow('progress', { ...fresh, ...patch(fresh) })];
}

/** Somebody is on a step: nobody else takes it meanwhile. Undefined where somebody is already. */
export function planTakeStep(show: Show, { key, deviceId }: BringUpStep, { by, at }: Said): Change | undefined {
  const taken = show.progress[deviceId]?.taken;
  if (taken?.step === key && taken.by === by) return undefined;
  return changeOf(
    `${by} is on a step`,
    put(show, deviceId, () => ({ taken: { step: key, by, at } })),
  );
}

export function planLetGo(show: Show, { deviceId }: Pick<BringUpStep, 'deviceId'>): Change | undefined {
  return show.progress[deviceId]?.taken
    ? changeOf(
        'A step is free again',
        put(show, deviceId, () => ({ taken: null })),
      )
    : undefined;
}

/** A step is done: what is true of its unit from now on, what stands in it, and who did it when. */
export function planStepDone(
  show: Show,
  addressing: AddressingFacts,
  plan: Pick<BringUp, 'units'>,
  step: BringUpStep,
  said: Said,
): Change | undefined {
  const edits = [
    ...keyedEdits(show, addressing, step),
    ...put(show, step.deviceId, (row) => ({ ...effectOf(plan, step, row), ...logged(row, step, 'done', said) })),
    ...versionEdits(show, plan, step),
  ];
  return changeOf(doneLabel(show, step), edits);
}

const doneLabel = (show: Show, { deviceId, kind }: BringUpStep): string =>
  `${show.devices[deviceId]?.name ?? 'A unit'}: ${doneWords[kind]}`.slice(0, 200);

const doneWords: Readonly<Record<BringUpStep['kind'], string>> = {
  computer: 'moved',
  part: 'taken off',
  join: 'joined',
  sign_in: 'signed in',
  meantime: 'has an address for the meantime',
  meantime_restart: 'restarted',
  key_in: 'keyed in',
  restart: 'restarted',
  update: 'updated',
  register: 'entries registered',
  register_restart: 'restarted',
  sync: 'in step with its partner',
  name_endpoint: 'has a name where it is listed',
  confirm: 'confirmed',
  home: 'as it was',
};

function logged(
  row: Content<'progress'>,
  { key, hands, waits }: BringUpStep,
  what: Progress['log'][number]['what'],
  { by, at }: Said,
): Patch {
  const began = row.taken?.step === key ? row.taken.at : undefined;
  const tookS = began === undefined ? null : Math.min(86_400, Math.max(0, Math.round((at - began) / 1000)));
  const entry = { step: key, what, by, at, tookS, usualS: hands + waits };
  return { taken: null, left: row.left.filter(({ step }) => step !== key), log: [...row.log, entry].slice(-mostLog) };
}

function effectOf({ units }: Pick<BringUp, 'units'>, step: BringUpStep, row: Content<'progress'>): Patch {
  const unit = units.get(step.deviceId);
  const restarts = unit
    ? actsFor(unit.type, linesFor(step))
        .filter(isRestart)
        .map(({ act }) => act)
    : [];
  const held = heldAt(step.before);
  switch (step.kind) {
    case 'computer':
      return { holds: row.holds ?? 1, adapters: movedAdapters(row, step) };
    case 'part':
      return { joined: false };
    case 'join':
      return { joined: true };
    case 'sign_in':
      return { signedIn: true };
    case 'meantime':
      return {
        meantime: step.place ? given(step.place) : null,
        shows: null,
        due: restarts,
        held: restarts.length > 0 ? held : null,
      };
    case 'key_in':
      return { meantime: null, shows: null, due: restarts, held: restarts.length > 0 ? held : null };
    case 'register':
      return { due: restarts, held: restarts.length > 0 ? held : null };
    case 'restart':
    case 'meantime_restart':
    case 'register_restart':
      return { due: [], held: null };
    case 'confirm':
    case 'sync':
    case 'name_endpoint':
      return step.basis === undefined ? {} : { confirmed: proved(row, step, step.basis) };
    default:
      return {};
  }
}

const linesFor = ({ kind, lines }: BringUpStep) => (kind === 'meantime' ? [{ of: 'address' as const }] : lines);

/** So many proofs of one unit are kept: addresses that answered, partners that are in step. */
const mostProofs = 32;

function proved(row: Content<'progress'>, { key }: BringUpStep, basis: string): Content<'progress'>['confirmed'] {
  return [...row.confirmed.filter(({ step }) => step !== key), { step: key, basis }].slice(-mostProofs);
}

function movedAdapters(row: Content<'progress'>, { computer }: BringUpStep): Content<'progress'>['adapters'] {
  if (!computer) return row.adapters;
  const { cable, held, adapter: moved } = computer;
  return held.map(({ adapter, places }) => {
    const before = row.adapters.find((one) => one.adapter === adapter)?.at ?? null;
    const to = cable === 'as_planned' ? null : cable && { ...cable };
    return { adapter, places: places.map(given), at: adapter === moved && to !== undefined ? to : before };
  });
}

/** What stands in the unit now is what the lines of the step say. */
function keyedEdits(show: Show, addressing: AddressingFacts, { kind, deviceId, lines }: BringUpStep): Edit[] {
  const device = show.devices[deviceId];
  if (!device || (kind !== 'key_in' && kind !== 'register')) return [];
  const isList = kind === 'register';
  const known = show.keyedIn[deviceId];
  const wanted = plannedSettings(show, addressing, device).filter(({ of }) => (of === 'entry') === isList);
  const others = (known?.values ?? []).filter(({ of }) => (of === 'entry') !== isList);
  const values: KeyedIn['values'] = [...others, ...wanted];
  if (lines.length === 0 && known === undefined) return [];
  return known ? [updateRow('keyedIn', known, { values })] : [insertRow('keyedIn', { id: deviceId, deviceId, values })];
}

function versionEdits(show: Show, { units }: Pick<BringUp, 'units'>, { kind, deviceId }: BringUpStep): Edit[] {
  const device = show.devices[deviceId];
  const firmware = units.get(deviceId)?.update?.version;
  return kind === 'update' && device && firmware !== undefined ? [updateRow('devices', device, { firmware })] : [];
}

/** A step is left out: the rest is planned anew without it. */
export function planLeaveStep(
  show: Show,
  step: BringUpStep,
  why: 'skipped' | 'failed',
  note: string,
  said: Said,
): Change | undefined {
  const label = `${show.devices[step.deviceId]?.name ?? 'A unit'}: ${why === 'skipped' ? 'a step is left out' : 'a step failed'}`;
  return changeOf(
    label.slice(0, 200),
    put(show, step.deviceId, (row) => {
      const { log, taken, left = [] } = logged(row, step, why, said);
      return { log, taken, left: [...left, { step: step.key, why, note: note.slice(0, 200) }].slice(-64) } as Patch;
    }),
  );
}

/** Steps of a unit that were left out come back. */
export function planTakeUp(show: Show, deviceId: string): Change | undefined {
  const row = show.progress[deviceId];
  return row && row.left.length > 0
    ? changeOf(`${show.devices[deviceId]?.name ?? 'A unit'} is taken up again`, [
        updateRow('progress', row, { left: [] }),
      ])
    : undefined;
}

/** The unit shows another address than it should have, or none: what was believed to be keyed in is not there. */
export function planShowsOther(
  show: Show,
  deviceId: string,
  place: Place | null,
  { by, at }: Said,
): Change | undefined {
  const known = show.keyedIn[deviceId];
  const entry = { step: `shown:${deviceId}`.slice(0, 130), what: 'shown' as const, by, at, tookS: null, usualS: null };
  return changeOf(`${show.devices[deviceId]?.name ?? 'A unit'} shows something else`, [
    ...put(show, deviceId, (row) => ({
      ...{ shows: place ? given(place) : { ip: null, prefix: 24 }, due: [], held: null, meantime: null, confirmed: [] },
      ...{ joined: true, left: [], taken: null, log: [...row.log, entry].slice(-mostLog) },
    })),
    ...(known ? [updateRow('keyedIn', known, { values: known.values.filter(({ of }) => of !== 'address') })] : []),
  ]);
}

/** A unit was reset to factory state: nothing that was keyed in is in it, and it is set from there again. */
export function planReset(show: Show, deviceId: string, { by, at }: Said): Change | undefined {
  const known = show.keyedIn[deviceId];
  const entry = { step: `reset:${deviceId}`, what: 'shown' as const, by, at, tookS: null, usualS: null };
  const fresh = contentWith('progress', { id: deviceId, deviceId });
  return changeOf(`${show.devices[deviceId]?.name ?? 'A unit'} is as delivered again`, [
    ...put(show, deviceId, ({ holds, adapters, accepted, joined, log }) => ({
      ...fresh,
      ...{ holds, adapters, accepted, joined, log: [...log, entry].slice(-mostLog) },
    })),
    ...(known ? [removeRow('keyedIn', known)] : []),
  ]);
}

/** Everything is set from this computer; an adapter of it may hold so many addresses. */
export function planComputer(show: Show, deviceId: string, holds: number): Change | undefined {
  const others = Object.values(show.progress).filter((row) => row.holds !== null && row.deviceId !== deviceId);
  return changeOf(`Everything is set from ${show.devices[deviceId]?.name ?? 'another computer'}`, [
    ...others.map((row) => updateRow('progress', row, { holds: null, adapters: [] })),
    ...put(show, deviceId, () => ({ holds })),
  ]);
}

/** The result of sounding every link after a cold start, dated: what happens to a link later makes its line old. */
export function planAccept(
  show: Show,
  computerId: string,
  links: NonNullable<Progress['accepted']>['links'],
  { by, at }: Said,
): Change | undefined {
  return changeOf(
    'Keep the acceptance',
    put(show, computerId, (row) => ({ holds: row.holds ?? 1, accepted: { at, by, links: [...links] } })),
  );
}

/** Everything is as delivered again: what was keyed in, found and done counts for nothing. */
export function planStartOver(show: Show): Change | undefined {
  return changeOf('Begin the bring-up anew', [
    ...rowsOf(show, 'progress').map((row) =>
      // which computer it is and how many addresses it holds stays
      row.holds === null
        ? removeRow('progress', row)
        : updateRow('progress', row, {
            ...contentWith('progress', { id: row.id, deviceId: row.deviceId }),
            holds: row.holds,
          }),
    ),
    ...rowsOf(show, 'keyedIn').map((row) => removeRow('keyedIn', row)),
  ]);
}
