import {
  changeOf,
  contentWith,
  insertRow,
  removeRow,
  updateRow,
  type Change,
  type Content,
  type Show,
  type Wall,
} from '../show/index.ts';

/** Other values for a wall. */
export const planWall = (wall: Wall, label: string, patch: Partial<Content<'walls'>>): Change | undefined =>
  changeOf(`${wall.name}: ${label}`, [updateRow('walls', wall, patch)]);

/** A wall of so many panels across and down, with nothing entered yet. */
export const planNewWall = (
  given: { readonly id: string; readonly name: string; readonly panel: string; readonly processorId: string | null },
  { across, down }: { readonly across: number; readonly down: number },
): Change | undefined =>
  changeOf(`Wall ${given.name}`, [
    insertRow(
      'walls',
      contentWith('walls', {
        ...given,
        columns: Array.from({ length: across }, () => ({ panels: down, drop: 0, gapMm: 0, angle: 0 })),
      }),
    ),
  ]);

export const planRemoveWall = (show: Show, wall: Wall): Change | undefined =>
  show.walls[wall.id] && changeOf(`Remove ${wall.name}`, [removeRow('walls', wall)]);
