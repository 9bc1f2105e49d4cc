import { surfaces, type show as core } from '@deep-patch/core';
import { useState } from 'react';
import { useShow } from '../live/workspace.tsx';
import { isPressed, useMoves } from './use-moves.ts';

export type Touch = (control: surfaces.SurfaceControl, part: core.Assignment['part'], value: number) => void;

interface Confirmed {
  readonly touch: Touch;
  /** What was touched and waits for a second touch, as a question; undefined where nothing does. */
  readonly question: string | undefined;
  readonly forget: () => void;
}

/** Moves controls of a surface; what acts on a machine itself asks once whether that is meant (need 8.23). */
export function useConfirmed(device: core.Device, layer: number): Confirmed {
  const show = useShow();
  const [asked, setAsked] = useState<{ readonly key: string; readonly text: string }>();
  const move = useMoves(device.id);
  const touch: Touch = (control, part, value) => {
    const machine = surfaces
      .assignmentsOn(show, device.id, control.key)
      .find((row) => row.does === 'machine' && (row.layer === null || row.layer === layer));
    if (machine?.machine && asked?.key !== control.key) {
      if (value !== control.greatest) return;
      const name = show.devices[machine.targetId ?? '']?.name ?? '';
      setAsked({ key: control.key, text: surfaces.machineQuestion(machine.machine, name) });
      return;
    }
    if (asked && value === control.greatest) setAsked(undefined);
    move({ control: control.key, part, value }, isPressed(control, part));
  };
  return { touch, question: asked?.text, forget: () => setAsked(undefined) };
}

export function Question({ question, forget }: Pick<Confirmed, 'question' | 'forget'>) {
  if (question === undefined) return null;
  return (
    <p role="alert" className="flex flex-wrap items-center gap-3 bg-base-300 px-4 py-3 text-base">
      {question} Touch it once more.
      <button type="button" className="act" onClick={forget}>
        No
      </button>
    </p>
  );
}
