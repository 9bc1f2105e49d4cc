import { formatIp } from '../addressing/index.ts';
import { byName, groupBy, rowsOf, serviceTypeOf, type Device, type Link, type Show } from '../show/index.ts';
import type { LinkFacts } from './ends.ts';
import { entryOf } from './entry.ts';

/** One line of what is keyed into a controller: a target in its list (need 5.1). */
export interface RegisterLine {
  readonly link: Link;
  readonly target: Device;
  readonly slot: number | null;
  /** The group that its slot is in; where none was given, the place of the target, by which a crew would group it. */
  readonly group: string;
  /** What the controller calls it. */
  readonly name: string;
  /** Dotted quad; null while the plan has none. */
  readonly address: string | null;
  readonly port: number;
  readonly account: string | null;
  readonly protocol: string;
  /** Another line of this controller has the same slot. */
  readonly isDoubled: boolean;
}

export interface RegisterSheet {
  readonly controller: Device;
  readonly lines: readonly RegisterLine[];
}

/** What to key into each controller, by slot and name; a slot that stands there twice is marked. */
export function registerSheets(show: Show, facts: LinkFacts): RegisterSheet[] {
  const byController = groupBy(rowsOf(show, 'links'), ({ controllerId }) => controllerId);
  return rowsOf(show, 'devices')
    .sort(byName)
    .flatMap((controller): RegisterSheet[] => {
      const own = byController.get(controller.id) ?? [];
      const slots = groupBy(own, slotKey);
      const lines = own.flatMap((link): RegisterLine[] => {
        const target = show.devices[link.targetId];
        if (!target) return [];
        const { ip } = entryOf({ sides: facts.planned }, link);
        const type = serviceTypeOf(show, target, link.serviceKey);
        return [
          {
            ...{ link, target, slot: link.slot, group: groupOf(link, target), name: link.label || target.name },
            ...{ address: ip === undefined ? null : formatIp(ip), port: link.port, account: link.account },
            protocol: type ? `${type.protocol.toUpperCase()} over ${type.transport.toUpperCase()}` : '',
            isDoubled: link.slot !== null && (slots.get(slotKey(link))?.length ?? 0) > 1,
          },
        ];
      });
      return lines.length > 0 ? [{ controller, lines: lines.sort(inOrder) }] : [];
    });
}

/** Address and port of a target as they stand in its controller's list; undefined while the plan has no address. */
export function reachedAt({ planned }: LinkFacts, link: Link): string | undefined {
  const { ip } = entryOf({ sides: planned }, link);
  return ip === undefined ? undefined : `${formatIp(ip)}, port ${link.port}`;
}

const slotKey = ({ slotGroup, slot }: Link): string => `${slotGroup} ${slot}`;
const groupOf = ({ slotGroup }: Link, { place }: Device): string => (slotGroup === null ? place : String(slotGroup));

const inOrder = (a: RegisterLine, b: RegisterLine): number =>
  (a.link.slotGroup ?? 0) - (b.link.slotGroup ?? 0) || (a.slot ?? Infinity) - (b.slot ?? Infinity) || byName(a, b);
