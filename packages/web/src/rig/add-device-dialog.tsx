import { rig, show as core } from '@deep-patch/core';
import { useForm } from 'react-hook-form';
import { useSteadyIds } from '../live/steady-ids.ts';
import { useSaveAndGo } from '../live/use-save-and-go.ts';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import { Dialog } from '../parts/dialog.tsx';
import { Field } from '../parts/field.tsx';
import { DeviceFieldset } from './device-fields.tsx';
import { plain, type DeviceFields } from './device-form.ts';

export function AddDeviceDialog({ onClose }: { onClose: () => void }) {
  const show = useShow();
  const { showId } = useWorkspace();
  const saveAndGo = useSaveAndGo();
  const steady = useSteadyIds();
  const types = [...core.definitionsOf(show).values()].sort(core.byName);
  const { register, handleSubmit, formState } = useForm<DeviceFields & { typeId: string }>({
    defaultValues: { typeId: '', name: '', unit: '', place: '', firmware: '', mac: '', note: '' },
  });
  const { errors } = formState;
  const add = handleSubmit(async ({ typeId, ...fields }) => {
    const type = show.types[typeId];
    if (!type) return;
    const change = rig.planAddDevice(show, { type, ...plain(fields) }, steady.begin());
    const id = change.edits[0]?.id;
    await saveAndGo(change, `/shows/${showId}/rig/${id}`);
  });
  return (
    <Dialog title="Add a device" onClose={onClose} unsaved={formState.isDirty}>
      <form onSubmit={(event) => void add(event)} className="grid gap-2">
        <Field label="Type" error={errors.typeId?.message}>
          {(ids) => (
            <select {...ids} {...register('typeId', { required: 'Say what it is' })} className="field-select">
              <option value="">Choose a type</option>
              {types.map(({ id, name }) => (
                <option key={id} value={id}>
                  {name}
                </option>
              ))}
            </select>
          )}
        </Field>
        <DeviceFieldset register={register} errors={errors} />
        <div className="mt-2 flex justify-end gap-2">
          <button type="button" className="act" onClick={onClose}>
            Cancel
          </button>
          <button type="submit" className="act-main" disabled={formState.isSubmitting}>
            Add device
          </button>
        </div>
      </form>
    </Dialog>
  );
}
