import { wall as walls, type show as core } from '@deep-patch/core';
import { useWorkspace } from '../live/workspace.tsx';

export interface PartProps {
  readonly own: walls.KnownWall;
  readonly size: walls.WallSize;
}

/** Changes a wall; the label says what of it. */
export function useEdit({ wall }: Pick<walls.KnownWall, 'wall'>) {
  const { save } = useWorkspace();
  return (label: string, patch: Partial<core.Content<'walls'>>) => void save(walls.planWall(wall, label, patch));
}
