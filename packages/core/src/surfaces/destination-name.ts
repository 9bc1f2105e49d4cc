import { limits, rowsBy, serviceTypeOf, typeOf, type Link, type Show } from '../show/index.ts';
import { rulersOf } from './banks.ts';

/** What stands in a controller's list for a link. */
export const destinationOf = (show: Show, { label, targetId }: Link): string =>
  label.trim() || (show.devices[targetId]?.name ?? '');

/** Equal but for case and blanks reads as one name. */
export const plainName = (text: string): string => text.toLowerCase().replace(/\s+/g, '');

/**
 * A name by which a stranger can tell which machine is meant, and for what (need 5.2): the machine first, the computer
 * that a program runs on, the model where several form a group, the function where it offers more than one, and the
 * channels that a surface has there. Names of others in the same list are left alone: what would be one of them says
 * its port too.
 */
export function destinationName(show: Show, link: Link): string {
  const target = show.devices[link.targetId];
  const type = typeOf(show, target);
  if (!target || !type) return '';
  const computer = show.devices[target.runsOn ?? ''];
  const parts = [
    computer && !target.name.includes(computer.name) ? `${target.name} on ${computer.name}` : target.name,
    target.peers === '' ? '' : `${type.name} in ${target.peers}`,
    type.services.length > 1 ? (serviceTypeOf(show, target, link.serviceKey)?.label ?? '') : '',
    channelsOf(show, link),
  ];
  const name = parts.filter(Boolean).join(', ').slice(0, limits.name);
  const own = rowsBy(show, 'links', 'controllerId').get(link.controllerId) ?? [];
  const isTaken = own.some(
    (other) => other.id !== link.id && plainName(destinationOf(show, other)) === plainName(name),
  );
  const port = `, port ${link.port}`;
  return isTaken ? `${name.slice(0, limits.name - port.length)}${port}` : name;
}

function channelsOf(show: Show, { controllerId, targetId }: Link): string {
  const spans = rulersOf(show).flatMap(({ target, spans: all }) => (target.id === targetId ? all : []));
  const own = spans.find(({ surface }) => surface.id === controllerId);
  return own ? `channels ${own.first} to ${own.last}` : '';
}
