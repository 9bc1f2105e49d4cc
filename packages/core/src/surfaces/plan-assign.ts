import {
  changeOf,
  contentWith,
  insertRow,
  planRemove,
  rowsBy,
  updateRow,
  type Assignment,
  type Bank,
  type Change,
  type Command,
  type Content,
  type Control,
  type Device,
  type Edit,
  type Show,
} from '../show/index.ts';
import { assignmentsOn, type Offer } from './meanings.ts';
import { controlsOf, type SurfaceControl } from './controls.ts';
import { fitOf } from './fits.ts';
import { endToEnd } from './transfer.ts';

/** Values to try a command with: its own examples. */
const examples = ({ args }: Command): Content<'assignments'>['args'] => args.map(({ example }) => example);

/** The argument that a control of that kind drives best: the last number that it can, as a channel stands before its level. */
export function drivenBy(control: SurfaceControl, part: Assignment['part'], command: Command): string | null {
  if (control.kind === 'key' || control.kind === 'region') return null;
  const fitting = command.args.filter((argument) => fitOf({ kind: control.kind, part }, argument) === 'whole');
  return (fitting.findLast(({ type }) => type === 'f') ?? fitting.at(-1))?.name ?? null;
}

export interface AssignIntent {
  readonly id: string;
  readonly control: SurfaceControl;
  readonly layer: number | null;
  readonly part: Assignment['part'];
  readonly offer: Offer;
  /** Values of its arguments as somebody chose them; without them those of its example. */
  readonly args?: Assignment['args'] | undefined;
  /** What stands there goes. */
  readonly instead: boolean;
}

/** A control does a command from now on; what it drives is scaled end to end. */
export function planAssign(show: Show, surface: Device, intent: AssignIntent): Change | undefined {
  const { control, layer, part, offer } = intent;
  const label = `${control.label} of ${surface.name}: ${offer.command.label}`;
  const gone = intent.instead ? assignmentsOn(show, surface.id, control.key).filter(isAt(layer, part)) : [];
  const edits = [
    ...gone.map((row): Edit => ({
      table: 'assignments',
      id: row.id,
      base: row.rev,
      before: contentOf(row),
      after: null,
    })),
    insertRow('assignments', { ...assignmentFor(surface, intent), ...groupOf(show, surface, offer.target.id) }),
  ];
  return changeOf(label.slice(0, 200), edits);
}

/** A unit that the panel chooses among others gets its orders only while it is chosen (need 8.20). */
function groupOf(show: Show, surface: Device, targetId: string): Partial<Pick<Assignment, 'targetId' | 'among'>> {
  const chooser = (rowsBy(show, 'assignments', 'deviceId').get(surface.id) ?? []).find(
    (row) => row.does === 'choose_target' && [row.targetId, ...row.among].includes(targetId),
  );
  return chooser ? { targetId: chooser.targetId, among: chooser.among } : {};
}

const contentOf = ({ rev: _, ...content }: Assignment): Content<'assignments'> => content;
const isAt =
  (layer: number | null, part: Assignment['part']) =>
  (row: Assignment): boolean =>
    row.layer === layer && row.part === part;

/** The values of a command's example, with a name of one of the target's lists in place of its own. */
export const argsWithName = (command: Command, name: string): Assignment['args'] =>
  examples(command).map((value, at) => (command.args[at]?.list === undefined ? value : name));

export function assignmentFor(surface: Device, intent: Omit<AssignIntent, 'instead'>): Content<'assignments'> {
  const { id, control, layer, part, offer } = intent;
  const { command, service, target } = offer;
  const drives = drivenBy(control, part, command);
  const argument = command.args.find(({ name }) => name === drives);
  return contentWith('assignments', {
    ...{ id, deviceId: surface.id, control: control.key, layer, part, drives },
    ...{ targetId: target.id, serviceKey: service.key, command: command.key, args: intent.args ?? examples(command) },
    transfer: argument && control.kind !== 'switch' ? (endToEnd(control, argument) ?? null) : null,
    feedback:
      service.feedback?.find(({ parameter }) => command.sets.some((set) => set.parameter === parameter))?.key ?? null,
  });
}

export const planEditAssignment = (
  show: Show,
  row: Assignment,
  patch: Partial<Content<'assignments'>>,
  what = 'Change what it does',
): Change | undefined =>
  changeOf(`${what}: ${show.devices[row.deviceId]?.name ?? 'a surface'}`, [updateRow('assignments', row, patch)]);

export const planClear = (show: Show, rows: readonly Assignment[]): Change =>
  planRemove(
    show,
    'assignments',
    rows.map(({ id }) => id),
    rows.length === 1 ? 'Clear a control' : `Clear ${rows.length} controls`,
  );

/** Scales what a control drives so that both its end stops are both ends of the parameter. */
export function planScale(show: Show, row: Assignment, argument: Command['args'][number]): Change | undefined {
  const surface = show.devices[row.deviceId];
  const control = surface && controlsOf(show, surface).find(({ key }) => key === row.control);
  const whole = control && endToEnd(control, argument);
  if (!whole) return undefined;
  const kept = row.transfer && { dead: row.transfer.dead, step: row.transfer.step, pickUp: row.transfer.pickUp };
  return planEditAssignment(show, row, { transfer: { ...whole, ...kept } }, 'Scale end to end');
}

export interface SeveralIntent {
  readonly controls: readonly SurfaceControl[];
  readonly layer: number | null;
  readonly offer: Offer;
  /** The argument that counts up from one control to the next, and its value at the first. */
  readonly counts: string;
  readonly from: number;
  readonly by: number;
  /** On each layer the next one of these units instead of one on all: keys 1 to 8, positions of the camera of the layer. */
  readonly each: readonly Device[];
}

/**
 * The same command on several controls in the order of their places, one argument counting up: keys 1 to 8 recall
 * positions 1 to 8. Values beyond the argument's end are left out, and told by how many controls stay free.
 */
export function planAssignSeveral(
  show: Show,
  surface: Device,
  intent: SeveralIntent,
  newId: () => string,
): { readonly change: Change | undefined; readonly left: number } {
  const { controls, layer, offer, counts, from, by, each } = intent;
  const places =
    each.length > 0 ? each.map((target, at) => ({ layer: at, target })) : [{ layer, target: offer.target }];
  const argument = offer.command.args.find(({ name }) => name === counts);
  const at = offer.command.args.findIndex(({ name }) => name === counts);
  const rows = controls.flatMap((control, n) => {
    const value = from + n * by;
    if (!argument || value > (argument.max ?? Infinity) || value < (argument.min ?? -Infinity)) return [];
    return places.map((place) => {
      const aim = { ...offer, target: place.target };
      const row = assignmentFor(surface, { id: newId(), control, layer: place.layer, part: 'whole', offer: aim });
      return { ...row, args: row.args.map((old, n) => (n === at ? value : old)) };
    });
  });
  const meant = controls.slice(0, rows.length / places.length);
  const gone = meant.flatMap((control) =>
    assignmentsOn(show, surface.id, control.key).filter((row) =>
      places.some((place) => isAt(place.layer, 'whole')(row)),
    ),
  );
  const edits = [
    ...gone.map((row): Edit => ({
      table: 'assignments',
      id: row.id,
      base: row.rev,
      before: contentOf(row),
      after: null,
    })),
    ...rows.map((row) => insertRow('assignments', row)),
  ];
  const label = `${meant.length} controls of ${surface.name}: ${offer.command.label}`;
  return { change: changeOf(label.slice(0, 200), edits), left: controls.length - meant.length };
}

const usualMost = ({ address, greatest }: { readonly address: string; readonly greatest: number }): number =>
  address.startsWith('/') ? Math.max(1, greatest) : 127;

/** The last two parts of an OSC address; of a MIDI message its words. */
const labelFrom = (address: string): string =>
  address.startsWith('/')
    ? address.split('/').filter(Boolean).slice(-2).join(' ') || address
    : address.replaceAll('-', ' ');

/** An address that was heard becomes a control of a unit, with the range that was heard of it (need 6.7, C62). */
export function controlFrom(
  show: Show,
  surface: Device,
  id: string,
  heard: { readonly address: string; readonly least: number; readonly greatest: number },
): Content<'controls'> {
  const beside = controlsOf(show, surface);
  const row = Math.max(0, ...beside.map((control) => control.row + control.rows));
  const own = (rowsBy(show, 'controls', 'deviceId').get(surface.id) ?? []).length;
  const isWide = heard.least !== heard.greatest;
  return contentWith('controls', {
    ...{
      id,
      deviceId: surface.id,
      label: labelFrom(heard.address),
    },
    ...{
      kind: 'fader',
      row: Math.min(63, own === 0 ? row : row - 1),
      column: Math.min(63, own),
      address: heard.address,
    },
    // what was heard only once tells no range: most programs send 0 to 1 by OSC, and MIDI has 0 to 127
    ...{ least: isWide ? heard.least : 0, greatest: isWide ? heard.greatest : usualMost(heard) },
  });
}

export const planControl = (surface: Device, content: Content<'controls'>): Change | undefined =>
  changeOf(`${content.label} of ${surface.name}`.slice(0, 200), [insertRow('controls', content)]);

export const planEditControl = (row: Control, patch: Partial<Content<'controls'>>): Change | undefined =>
  changeOf(`Change ${row.label}`.slice(0, 200), [updateRow('controls', row, patch)]);

/** A control of a unit's own goes, with what it does. */
export function planRemoveControl(show: Show, row: Control): Change {
  const gone = planRemove(show, 'controls', [row.id], `Remove ${row.label}`.slice(0, 200));
  const does = assignmentsOn(show, row.deviceId, row.id).map((own): Edit => ({
    table: 'assignments',
    id: own.id,
    base: own.rev,
    before: contentOf(own),
    after: null,
  }));
  return { ...gone, edits: [...does, ...gone.edits] };
}

/** Surfaces side by side over a mixer's channels, in this order, each behind the strips of those before it; `aim` is for those that are new. */
export function planBanks(
  show: Show,
  aim: Pick<Bank, 'targetId' | 'serviceKey' | 'command' | 'channel' | 'level'>,
  deviceIds: readonly string[],
  newId: () => string,
): Change | undefined {
  const known = rowsBy(show, 'banks', 'targetId').get(aim.targetId) ?? [];
  const edits = deviceIds.map((deviceId, place): Edit => {
    const bank = known.find((own) => own.deviceId === deviceId);
    return bank
      ? updateRow('banks', bank, { place, offset: null })
      : insertRow('banks', contentWith('banks', { id: newId(), deviceId, place, ...aim }));
  });
  const gone = known.filter(({ deviceId }) => !deviceIds.includes(deviceId));
  const removed = planRemove(
    show,
    'banks',
    gone.map(({ id }) => id),
    '',
  ).edits;
  const name = show.devices[aim.targetId]?.name ?? 'a mixer';
  return changeOf(`Surfaces over ${name}`, [...edits, ...removed]);
}

export const planEditBank = (show: Show, bank: Bank, patch: Partial<Content<'banks'>>): Change | undefined =>
  changeOf(`Change the channels of ${show.devices[bank.deviceId]?.name ?? 'a surface'}`, [
    updateRow('banks', bank, patch),
  ]);

/** A control does something that no target offers: it chooses, shows a layer, acts on a machine, or stops everything. */
export function planDeed(
  show: Show,
  surface: Device,
  { id, control, layer, does }: Pick<AssignIntent, 'id' | 'control' | 'layer'> & Pick<Assignment, 'does'>,
  patch: Partial<Content<'assignments'>>,
): Change | undefined {
  const gone = assignmentsOn(show, surface.id, control.key).filter(isAt(layer, 'whole'));
  const row = contentWith('assignments', { id, deviceId: surface.id, control: control.key, layer, does, ...patch });
  return changeOf(`${control.label} of ${surface.name}`.slice(0, 200), [
    ...gone.map((old): Edit => ({
      table: 'assignments',
      id: old.id,
      base: old.rev,
      before: contentOf(old),
      after: null,
    })),
    insertRow('assignments', row),
  ]);
}

/** A region of a unit's touch screen, one beside the other until there is no room. */
export const regionFor = (surface: Device, id: string, before: number): Content<'controls'> =>
  contentWith('controls', {
    ...{
      id,
      deviceId: surface.id,
      label: `Region ${before + 1}`,
      kind: 'region',
      row: 0,
      column: Math.min(63, before),
    },
    region: { screenWidth: 1920, screenHeight: 1080, x: (before % 6) * 320, y: 0, width: 300, height: 300 },
  });
