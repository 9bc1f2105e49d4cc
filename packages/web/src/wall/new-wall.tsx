import { show as core, wall as walls } from '@deep-patch/core';
import { useState } from 'react';
import { newId } from '../live/identity.ts';
import { useSaveAndGo } from '../live/use-save-and-go.ts';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import { Dialog } from '../parts/dialog.tsx';
import { ChosenField, TypedField } from '../parts/typed-fields.tsx';

const most = { across: 500, down: 200 };

/** A wall from how many panels it has across and down, and of which kind. */
export function NewWall({ onClose }: { readonly onClose: () => void }) {
  const show = useShow();
  const { showId } = useWorkspace();
  const saveAndGo = useSaveAndGo();
  const models = walls.panelModels(show);
  const processors = core.rowsOf(show, 'devices').filter((device) => core.typeOf(show, device)?.drivesWall);
  const [values, setValues] = useState({
    name: '',
    across: '',
    down: '',
    panel: models[0]?.type.model ?? '',
    processorId: processors[0]?.id ?? '',
  });
  const patch = (change: Partial<typeof values>) => setValues({ ...values, ...change });
  const [across, down] = [Number(values.across), Number(values.down)];
  const isWhole = (count: number, limit: number) => Number.isInteger(count) && count >= 1 && count <= limit;
  const isSound =
    values.name.trim() !== '' && values.panel !== '' && isWhole(across, most.across) && isWhole(down, most.down);
  const make = () => {
    const id = newId();
    const given = { id, name: values.name.trim(), panel: values.panel, processorId: values.processorId || null };
    void saveAndGo(walls.planNewWall(given, { across, down }), `/shows/${showId}/wall/${id}`);
  };
  return (
    <Dialog title="A new wall" onClose={onClose} unsaved={values.name !== '' || values.across !== ''}>
      <form
        className="grid gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          if (isSound) make();
        }}
      >
        <TypedField label="Name" value={values.name} onType={(name) => patch({ name })} />
        <div className="grid grid-cols-2 gap-3">
          <TypedField
            label="Panels across"
            value={values.across}
            onType={(text) => patch({ across: text })}
            error={values.across !== '' && !isWhole(across, most.across) ? `1 to ${most.across}` : undefined}
          />
          <TypedField
            label="Panels down"
            value={values.down}
            onType={(text) => patch({ down: text })}
            error={values.down !== '' && !isWhole(down, most.down) ? `1 to ${most.down}` : undefined}
          />
        </div>
        <Kinds {...{ models, processors, values }} onPatch={patch} />
        <button type="submit" className="act-main justify-self-start" disabled={!isSound}>
          Make the wall
        </button>
      </form>
    </Dialog>
  );
}

type Values = Readonly<Record<'name' | 'across' | 'down' | 'panel' | 'processorId', string>>;

/** Which panels, and who drives them. */
function Kinds({
  models,
  processors,
  values,
  onPatch: patch,
}: {
  readonly models: ReturnType<typeof walls.panelModels>;
  readonly processors: readonly core.Device[];
  readonly values: Values;
  readonly onPatch: (change: Partial<Values>) => void;
}) {
  return (
    <>
      <ChosenField label="Kind of panel" value={values.panel} onChoose={(panel) => patch({ panel })}>
        {models.map(({ type, hidden }) => (
          <option key={type.model} value={type.model}>
            {type.name}, {type.panel?.width} x {type.panel?.height} px
            {hiddenWords(type.version, hidden)}
          </option>
        ))}
      </ChosenField>
      <ChosenField label="Driven by" value={values.processorId} onChoose={(processorId) => patch({ processorId })}>
        <option value="">nobody has said</option>
        {processors.map(({ id, name }) => (
          <option key={id} value={id}>
            {name}
          </option>
        ))}
      </ChosenField>
    </>
  );
}

const hiddenWords = (version: string, hidden: readonly core.DeviceType[]): string =>
  hidden.length === 0 ? '' : `, version ${version} in force, ${hidden.map((other) => other.version).join(', ')} hidden`;
