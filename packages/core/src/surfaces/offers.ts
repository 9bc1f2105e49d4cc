import { rowsBy, serviceTypeOf, typeOf, type Device, type Show } from '../show/index.ts';
import type { Offer } from './meanings.ts';

/**
 * What the units that a surface may drive offer, ordered by unit and function: every command of each service in a
 * protocol that it speaks. Those it has a link to come first.
 */
export function offersFor(show: Show, surface: Device): (Offer & { readonly linked: boolean })[] {
  const drives: readonly string[] = typeOf(show, surface)?.drives ?? [];
  const linked = new Set(
    (rowsBy(show, 'links', 'controllerId').get(surface.id) ?? []).map(
      ({ targetId, serviceKey }) => `${targetId} ${serviceKey}`,
    ),
  );
  const offers = [...Object.values(show.services)].flatMap((row) => {
    const target = show.devices[row.deviceId];
    const service = target && serviceTypeOf(show, target, row.key);
    if (!target || !service || target.id === surface.id || !drives.includes(service.protocol)) return [];
    const isLinked = linked.has(`${target.id} ${service.key}`);
    // what only asks for a state does nothing that a hand could want
    const asks = new Set(service.feedback?.map(({ ask }) => ask));
    return service.commands.flatMap((command) =>
      asks.has(command.key) ? [] : [{ target, service, command, linked: isLinked }],
    );
  });
  const name = ({ target, command }: Offer) => `${target.name} ${command.label}`;
  return offers.sort(
    (a, b) => Number(b.linked) - Number(a.linked) || name(a).localeCompare(name(b), 'en', { numeric: true }),
  );
}

/** The commands that a client does not send although something needs them (C61): empty where it sends everything. */
export function beyondClient(show: Show, surface: Device, commands: readonly string[]): string[] {
  const only = typeOf(show, surface)?.sendsOnly ?? [];
  return only.length === 0 ? [] : commands.filter((key) => !only.includes(key));
}
