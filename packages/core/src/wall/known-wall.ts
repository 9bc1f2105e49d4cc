import { definitionsOf, rowsOf, type DeviceType, type Show, type Wall } from '../show/index.ts';
import type { Capacity } from './share.ts';
import type { Panel } from './size.ts';

/** A wall with what the libraries know of its panels, and of whoever drives it. */
export interface KnownWall {
  readonly wall: Wall;
  readonly type: DeviceType;
  readonly panel: Panel;
  readonly capacity: Capacity | undefined;
}

/** Undefined where no library has its panels. */
export function knownWall(show: Show, wall: Wall): KnownWall | undefined {
  const type = definitionsOf(show).get(wall.panel);
  if (!type?.panel) return undefined;
  return { wall, type, panel: type.panel, capacity: capacityOf(show, wall) };
}

export function capacityOf(show: Show, { processorId }: Pick<Wall, 'processorId'>): Capacity | undefined {
  const processor = processorId === null ? undefined : show.devices[processorId];
  return (processor && show.types[processor.typeId]?.drivesWall) ?? undefined;
}

export const knownWalls = (show: Show): KnownWall[] =>
  rowsOf(show, 'walls').flatMap((wall) => knownWall(show, wall) ?? []);

/** Models of panels in the order of their names: the one in force of each, and those that it hides (need 10.13, C36). */
export function panelModels(show: Show): { readonly type: DeviceType; readonly hidden: readonly DeviceType[] }[] {
  const all = rowsOf(show, 'types').filter(({ panel }) => panel !== null);
  return [...new Set(all.map(({ model }) => model))]
    .flatMap((model) => {
      const type = definitionsOf(show).get(model);
      const hidden = all.filter((other) => other.model === model && other.id !== type?.id);
      return type?.panel ? [{ type, hidden }] : [];
    })
    .sort((a, b) => (a.type.name < b.type.name ? -1 : 1));
}
