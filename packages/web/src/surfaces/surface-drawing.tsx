import { useDroppable } from '@dnd-kit/core';
import { surfaces, type contract, type show as core } from '@deep-patch/core';
import type { ReactNode } from 'react';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import { ControlShape } from './control-shape.tsx';
import { RegionScreen } from './region-screen.tsx';

interface Props {
  readonly device: core.Device;
  readonly layer: number;
  readonly panel: contract.PanelState | undefined;
  readonly playing: boolean;
  readonly selected: string | undefined;
  readonly onMove: (control: string, part: contract.ControlState['part'], value: number) => void;
  readonly onSelect: (control: string) => void;
}

/** A surface as its type lays it out: rows, columns, and what each control does on the layer that is shown. */
export function SurfaceDrawing({ device, layer, panel, playing, selected, onMove, onSelect }: Props) {
  const show = useShow();
  const { analysis } = useWorkspace();
  const all = surfaces.controlsOf(show, device);
  const controls = all.filter(({ region }) => region === null);
  const wordsOf = (control: surfaces.SurfaceControl) =>
    surfaces
      .meaningsOf(show, device, control, layer)
      .map((meaning) => surfaces.meaningWords(show, meaning))
      .join(' · ');
  const grid = surfaces.gridOf(controls);
  const troubled = new Set(
    (analysis?.findings ?? []).flatMap(({ room, grade, subjects }) =>
      room === 'surfaces' && grade !== 'note'
        ? subjects.flatMap(({ table, id }) => (table === 'assignments' ? (show.assignments[id]?.control ?? []) : []))
        : [],
    ),
  );
  return (
    <>
      {controls.length > 0 && (
        <div
          className={`grid gap-x-2 gap-y-3 rounded-box border-2 p-4 ${playing ? 'border-success bg-base-200' : 'border-line bg-base-200'}`}
          style={{
            gridTemplateColumns: `repeat(${grid.columns}, minmax(3.75rem, 1fr))`,
            gridAutoRows: 'minmax(3.5rem, auto)',
          }}
        >
          {controls.map((control) => {
            const words = wordsOf(control);
            const states = (panel?.controls ?? []).filter((state) => state.control === control.key);
            return (
              <Place key={control.key} control={control}>
                <ControlShape
                  {...{ control, words, playing }}
                  states={states}
                  selected={control.key === selected}
                  trouble={troubled.has(control.key)}
                  onMove={(part, value) => onMove(control.key, part, value)}
                  onSelect={() => onSelect(control.key)}
                />
              </Place>
            );
          })}
        </div>
      )}
      <RegionScreen
        controls={all}
        {...{ playing, selected, wordsOf, onSelect }}
        onMove={(key, value) => onMove(key, 'whole', value)}
      />
    </>
  );
}

/** Where a control stands; what a target offers is dropped on it. */
function Place({ control, children }: { readonly control: surfaces.SurfaceControl; readonly children: ReactNode }) {
  const { setNodeRef, isOver } = useDroppable({ id: control.key, data: { label: control.label } });
  return (
    <div
      ref={setNodeRef}
      className={`grid min-w-0 ${isOver ? 'rounded-sm outline-2 outline-accent' : ''}`}
      style={{
        gridColumn: control.column + 1,
        gridRow: `${control.row + 1} / span ${control.rows}`,
      }}
    >
      {children}
    </div>
  );
}
