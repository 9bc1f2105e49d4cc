import {
  rowsBy,
  serviceTypeOf,
  type Assignment,
  type Bank,
  type Command,
  type Device,
  type ServiceType,
  type Show,
  type Transfer,
} from '../show/index.ts';
import { rulerWith } from './banks.ts';
import type { SurfaceControl } from './controls.ts';
import { endToEnd } from './transfer.ts';

type Value = Assignment['args'][number];

/** A command of a service of a unit, found in its type. */
export interface Offer {
  readonly target: Device;
  readonly service: ServiceType;
  readonly command: Command;
}

/** One thing that a control does on a layer, said by a row or worked out from the bank that its strip is in. */
export interface Meaning {
  readonly assignment: Assignment | undefined;
  readonly bank: Bank | undefined;
  readonly part: Assignment['part'];
  readonly does: Assignment['does'];
  /** What it sends to, where it sends anything and that is there. */
  readonly offer: Offer | undefined;
  readonly args: readonly Value[];
  /** The argument that gets the control's value. */
  readonly drives: Command['args'][number] | undefined;
  readonly transfer: Transfer | null;
}

export function offerOf(
  show: Show,
  { targetId, serviceKey, command }: Pick<Assignment, 'targetId' | 'serviceKey' | 'command'>,
): Offer | undefined {
  const target = show.devices[targetId ?? ''];
  const service = target && serviceTypeOf(show, target, serviceKey ?? '');
  const own = service?.commands.find(({ key }) => key === command);
  return target && service && own ? { target, service, command: own } : undefined;
}

/** Everything that a control does on a layer, in the order in which it is done. */
export function meaningsOf(show: Show, device: Device, control: SurfaceControl, layer: number): Meaning[] {
  const own = assignmentsOn(show, device.id, control.key).filter((row) => row.layer === null || row.layer === layer);
  return [...own.map((row) => meaningOf(show, row)), ...bankMeanings(show, device, control, layer)];
}

export const assignmentsOn = (show: Show, deviceId: string, control: string): readonly Assignment[] =>
  (rowsBy(show, 'assignments', 'deviceId').get(deviceId) ?? [])
    .filter((row) => row.control === control)
    .sort((a, b) => (a.id < b.id ? -1 : 1));

export function meaningOf(show: Show, row: Assignment): Meaning {
  const offer = row.does === 'command' ? offerOf(show, row) : undefined;
  return {
    ...{ assignment: row, bank: undefined, part: row.part, does: row.does, offer, args: row.args },
    drives: offer?.command.args.find(({ name }) => name === row.drives),
    transfer: row.transfer,
  };
}

/** A fader of a strip moves its channel's level; the odd one its own, where it is one more channel. */
function bankMeanings(show: Show, device: Device, control: SurfaceControl, layer: number): Meaning[] {
  if (control.kind !== 'fader' || (control.strip === null && !control.odd)) return [];
  return (rowsBy(show, 'banks', 'deviceId').get(device.id) ?? []).flatMap((bank): Meaning[] => {
    const span = rulerWith(show, bank, layer)?.spans.find((own) => own.bank.id === bank.id);
    const channel = control.odd ? span?.odd : control.strip && span ? span.first + control.strip - 1 : null;
    const offer = offerOf(show, bank);
    const drives = offer?.command.args.find(({ name }) => name === bank.level);
    if (channel == null || !offer || !drives) return [];
    const args = offer.command.args.map(({ name, example }) => (name === bank.channel ? channel : example));
    return [
      {
        ...{ assignment: undefined, bank, part: 'whole', does: 'command', offer, args, drives },
        transfer: endToEnd(control, drives) ?? null,
      },
    ];
  });
}

/**
 * Two meanings of one movement: two things for one service of one unit. One movement for several units, or several
 * services, is meant so (need 8.25).
 */
export function clashing(meanings: readonly Meaning[]): Meaning[][] {
  const byAim = new Map<string, Meaning[]>();
  for (const meaning of meanings) {
    const { assignment, bank, does, offer } = meaning;
    const of = assignment?.targetId ?? bank?.targetId;
    const aim = does === 'command' ? `${of} ${offer?.service.key} ${meaning.part}` : `${does} ${meaning.part}`;
    byAim.set(aim, [...(byAim.get(aim) ?? []), meaning]);
  }
  return [...byAim.values()].filter((list) => list.length > 1);
}
