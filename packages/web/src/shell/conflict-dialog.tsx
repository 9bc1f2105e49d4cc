import { show as core, type Conflict } from '@deep-patch/core';
import { useState } from 'react';
import type { ConflictState } from '../live/use-saves.ts';
import { useWorkspace } from '../live/workspace.tsx';
import { Dialog } from '../parts/dialog.tsx';

type Chosen = Readonly<Record<string, ReadonlySet<string>>>;

/** Somebody was quicker: both values side by side, field by field. Nothing is lost until a person has chosen. */
export function ConflictDialog({ change, conflicts }: ConflictState) {
  const { save, closeConflict } = useWorkspace();
  const [mine, setMine] = useState<Chosen>(() =>
    Object.fromEntries(conflicts.map((conflict) => [keyOf(conflict), ownFields(conflict)])),
  );

  const saveChosen = async () => {
    const conflicted = new Set(conflicts.map(keyOf));
    const rest = change.edits.filter((edit) => !conflicted.has(keyOf(edit)));
    const settled = conflicts.flatMap((conflict) => core.settled(conflict, mine[keyOf(conflict)] ?? new Set()) ?? []);
    closeConflict();
    await save(core.changeOf(change.label, [...rest, ...settled]));
  };
  const toggle = (key: string, field: string, isMine: boolean) =>
    setMine((all) => {
      const fields = new Set(all[key]);
      if (isMine) fields.add(field);
      else fields.delete(field);
      return { ...all, [key]: fields };
    });

  return (
    <Dialog title="Changed meanwhile" onClose={closeConflict} wide>
      <p className="mb-4">
        While you were at “{change.label}”, somebody else saved the same thing. Choose what should stand; nothing was
        lost so far.
      </p>
      <div className="grid max-h-96 gap-4 overflow-auto">
        {conflicts.map((conflict) => (
          <Row
            key={keyOf(conflict)}
            conflict={conflict}
            mine={mine[keyOf(conflict)] ?? new Set()}
            onChoose={(field, isMine) => toggle(keyOf(conflict), field, isMine)}
          />
        ))}
      </div>
      <div className="mt-5 flex justify-end gap-2">
        <button type="button" className="act" onClick={closeConflict}>
          Keep theirs
        </button>
        <button type="button" className="act-main" onClick={() => void saveChosen()}>
          Save what I chose
        </button>
      </div>
    </Dialog>
  );
}

function Row({
  conflict,
  mine,
  onChoose,
}: {
  conflict: Conflict;
  mine: ReadonlySet<string>;
  onChoose: (field: string, isMine: boolean) => void;
}) {
  const choices = core.fieldChoices(conflict);
  const row = (conflict.theirs ?? conflict.yours ?? conflict.base) as { name?: string; id: string } | null;
  if (choices.length === 0)
    return (
      <p>
        <b>{row?.name ?? conflict.id}</b>{' '}
        {conflict.theirs ? 'was changed by somebody else; you wanted to remove it.' : 'was removed by somebody else.'}{' '}
        Saving does what you wanted.
      </p>
    );
  return (
    <table className="table-sm table">
      <caption className="text-left font-semibold">{row?.name ?? conflict.id}</caption>
      <thead>
        <tr>
          <th>Field</th>
          <th>Was</th>
          <th>Yours</th>
          <th>Theirs</th>
        </tr>
      </thead>
      <tbody>
        {choices.map(({ field, base, yours, theirs }) => (
          <tr key={field}>
            <td>{field}</td>
            <td className="text-mute">{shown(base)}</td>
            {([true, false] as const).map((isMine) => (
              <td key={String(isMine)}>
                <label className="flex cursor-pointer items-center gap-2">
                  <input
                    type="radio"
                    className="radio radio-xs radio-primary"
                    name={`${keyOf(conflict)} ${field}`}
                    checked={mine.has(field) === isMine}
                    onChange={() => onChoose(field, isMine)}
                  />
                  {shown(isMine ? yours : theirs)}
                </label>
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}

const keyOf = ({ table, id }: { table: string; id: string }): string => `${table}/${id}`;
function shown(value: unknown): string {
  if (value === null || value === undefined || value === '') return 'empty';
  return typeof value === 'string' || typeof value === 'number' ? String(value) : JSON.stringify(value);
}

/** Fields that only the author changed, and those that both did: these start as the author's. */
function ownFields(conflict: Conflict): ReadonlySet<string> {
  return new Set(
    core.fieldChoices(conflict).flatMap(({ field, base, yours }) => (core.isEqual(base, yours) ? [] : [field])),
  );
}
