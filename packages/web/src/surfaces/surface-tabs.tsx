import { surfaces, type show as core } from '@deep-patch/core';
import { useShow, useWorkspace } from '../live/workspace.tsx';

interface Props {
  readonly all: readonly core.Device[];
  readonly chosen: string;
  readonly onChoose: (id: string) => void;
}

/** The surfaces of the show; how many findings stop something stands beside each. */
export function SurfaceTabs({ all, chosen, onChoose }: Props) {
  const show = useShow();
  const { analysis } = useWorkspace();
  const wrong = (id: string): number =>
    (analysis?.findings ?? []).filter(
      ({ room, grade, subjects }) =>
        room === 'surfaces' &&
        grade !== 'note' &&
        subjects.some((subject) => subject.table === 'assignments' && show.assignments[subject.id]?.deviceId === id),
    ).length;
  return (
    <div role="group" aria-label="Surface" className="flex max-w-full gap-1 overflow-x-auto px-4">
      {all.map((device) => {
        const { id, name } = device;
        const count = wrong(id);
        return (
          <button
            key={id}
            type="button"
            aria-pressed={id === chosen}
            className={`shrink-0 border-b-2 px-3 py-2 ${id === chosen ? 'border-primary font-semibold' : 'border-transparent text-mute'}`}
            onClick={() => onChoose(id)}
          >
            {name} <span className="text-xs text-faint">{surfaces.usesOf(show, device).used || ''}</span>
            {count > 0 && <span className="ml-1 text-xs text-warning">▲ {count}</span>}
          </button>
        );
      })}
    </div>
  );
}
