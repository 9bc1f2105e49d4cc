import type { Surroundings } from '../../units/surroundings.ts';

/**
 * The first synchronisation of a control surface and what it controls: everything of one side is overwritten by the
 * other. Whoever chooses the wrong direction loses a mix; nothing asks twice.
 */
export function synchronise(site: Surroundings, linkId: string, direction: 'to_target' | 'from_target'): void {
  const link = site.plan.show.links[linkId];
  const [controller, target] = [site.standins.get(link?.controllerId ?? ''), site.standins.get(link?.targetId ?? '')];
  if (!controller || !target) throw new Error('there is no such link on the bench');
  const [from, to] = direction === 'to_target' ? [controller, target] : [target, controller];
  for (const { parameter, start } of target.type.face)
    to.memory.face.set(parameter, from.memory.face.get(parameter) ?? start);
}
