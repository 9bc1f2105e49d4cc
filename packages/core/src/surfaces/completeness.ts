import { indexBy, rowsBy, typeOf, type Command, type Device, type ServiceType, type Show } from '../show/index.ts';
import { controlsOf, layersOf, surfacesOf, type SurfaceControl } from './controls.ts';
import { clashing, meaningsOf, type Offer } from './meanings.ts';

/** A command that something can do, that is on no control although it is needed, and why (C59). */
export interface Missing extends Offer {
  readonly because: 'essential' | 'counterpart';
  /** The command that is there and whose counterpart this is. */
  readonly of: Command | undefined;
}

/**
 * What the units that are driven from surfaces and cues lack: an essential command on no control, or one whose
 * counterpart is on one (need 8.2).
 */
export function missingOf(show: Show, target: Device): Missing[] {
  const used = usedOf(show, target.id);
  if (used.size === 0) return [];
  return (typeOf(show, target)?.services ?? []).flatMap((service) =>
    service.commands.flatMap((command) => missing(used, target, service, command)),
  );
}

function missing(used: ReadonlySet<string>, target: Device, service: ServiceType, command: Command): Missing[] {
  const isThere = ({ key }: Pick<Command, 'key'>) => used.has(`${service.key} ${key}`);
  if (isThere(command) || ![...used].some((key) => key.startsWith(`${service.key} `))) return [];
  const of = service.commands.find((other) => other.counterpart === command.key && isThere(other));
  const because = of ? 'counterpart' : 'essential';
  return of || command.essential ? [{ target, service, command, because, of }] : [];
}

/** Commands of a unit that are on a control of any surface or in a cue, as `service command`. */
function usedOf(show: Show, targetId: string): ReadonlySet<string> {
  const used = new Set<string>();
  for (const { serviceKey, command } of rowsBy(show, 'assignments', 'targetId').get(targetId) ?? [])
    used.add(`${serviceKey} ${command}`);
  for (const { serviceKey, command } of rowsBy(show, 'banks', 'targetId').get(targetId) ?? [])
    used.add(`${serviceKey} ${command}`);
  for (const { serviceKey, command } of messagesTo(show).get(targetId) ?? []) used.add(`${serviceKey} ${command}`);
  return used;
}

/** Messages of cues by the unit that they go to. */
export const messagesTo = indexBy('cues', ({ messages }) => messages.map((message) => [message.targetId, message]));

/** Controls with no meaning on any layer, and those with two on one. */
export interface Uses {
  readonly unused: readonly SurfaceControl[];
  readonly doubled: readonly { readonly control: SurfaceControl; readonly layer: number }[];
  readonly used: number;
}

export function usesOf(show: Show, device: Device): Uses {
  const controls = controlsOf(show, device);
  const layers = Array.from({ length: layersOf(show, device) }, (_, layer) => layer);
  const does = (control: SurfaceControl) => layers.some((layer) => meaningsOf(show, device, control, layer).length > 0);
  const unused = controls.filter((control) => !does(control));
  const doubled = controls.flatMap((control) =>
    layers
      .filter((layer) => clashing(meaningsOf(show, device, control, layer)).length > 0)
      .slice(0, 1)
      .map((layer) => ({ control, layer })),
  );
  return { unused, doubled, used: controls.length - unused.length };
}

/** Surfaces, controls and those that do something, over the whole show. */
export function countsOf(show: Show): { surfaces: number; controls: number; used: number } {
  const surfaces = surfacesOf(show);
  const uses = surfaces.map((device) => usesOf(show, device));
  return {
    surfaces: surfaces.length,
    used: uses.reduce((sum, { used }) => sum + used, 0),
    controls: uses.reduce((sum, { used, unused }) => sum + used + unused.length, 0),
  };
}
