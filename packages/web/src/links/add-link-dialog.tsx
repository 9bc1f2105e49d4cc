import { links as linkRoom, show as core } from '@deep-patch/core';
import { useState, type SyntheticEvent } from 'react';
import { useNavigate } from 'react-router';
import { useSteadyIds } from '../live/steady-ids.ts';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import { Dialog } from '../parts/dialog.tsx';
import { Options } from '../parts/form-fields.tsx';
import { ChosenField, TypedField } from '../parts/typed-fields.tsx';

/** Who controls what: only controllers that can speak, only services that they can drive. */
export function AddLinkDialog({ onClose }: { onClose: () => void }) {
  const show = useShow();
  const controllers = core.devicesByName(show).filter((device) => (core.typeOf(show, device)?.drives.length ?? 0) > 0);
  return (
    <Dialog title="Add a link" onClose={onClose}>
      {controllers.length === 0 ? (
        <p>
          Nothing in the rig can control anything yet. Add a show host, a camera remote or another controller first.
        </p>
      ) : (
        <LinkForm controllers={controllers} onClose={onClose} />
      )}
    </Dialog>
  );
}

interface FormProps {
  readonly controllers: readonly core.Device[];
  readonly onClose: () => void;
}

function LinkForm({ controllers, onClose }: FormProps) {
  const show = useShow();
  const add = useAdding();
  const [controllerId, setControllerId] = useState(controllers[0]?.id ?? '');
  const [targetKey, setTargetKey] = useState('');
  const [slot, setSlot] = useState('');
  const controller = show.devices[controllerId];
  const targets = controller ? linkRoom.drivable(show, controller).sort((a, b) => core.byName(a.target, b.target)) : [];
  const submit = (event: SyntheticEvent) => {
    event.preventDefault();
    const found = targets.find(({ service }) => service.id === targetKey);
    if (!found) return;
    const number = /^\d{1,4}$/.test(slot.trim()) ? Number(slot) : null;
    void add({ controllerId, targetId: found.target.id, serviceKey: found.service.key, slot: number });
  };
  return (
    <form onSubmit={submit} className="grid gap-1">
      <ChosenField
        label="Controller"
        value={controllerId}
        onChoose={(id) => {
          setControllerId(id);
          setTargetKey('');
        }}
      >
        <Options of={controllers.map(({ id, name }) => [id, name] as const)} />
      </ChosenField>
      <ChosenField
        label="Controls"
        hint={targets.length === 0 ? 'Nothing in the rig speaks what this controller speaks.' : undefined}
        value={targetKey}
        onChoose={setTargetKey}
      >
        <option value="">Choose a target</option>
        <Options of={targets.map(({ target, service, label }) => [service.id, `${target.name}: ${label}`] as const)} />
      </ChosenField>
      <TypedField
        label="Slot in the controller"
        hint={controller && `if it numbers its targets; next is ${linkRoom.nextSlot(show, controller.id)}`}
        value={slot}
        onType={setSlot}
        look="number"
      />
      <div className="mt-2 flex justify-end gap-2">
        <button type="button" className="act" onClick={onClose}>
          Cancel
        </button>
        <button type="submit" className="act-main" disabled={targetKey === ''}>
          Add link
        </button>
      </div>
    </form>
  );
}

function useAdding() {
  const show = useShow();
  const { save, showId } = useWorkspace();
  const navigate = useNavigate();
  const steady = useSteadyIds();
  return async (wanted: Omit<Parameters<typeof linkRoom.planAddLink>[1], 'id'>) => {
    const id = steady.begin()();
    if (await save(linkRoom.planAddLink(show, { id, ...wanted }))) void navigate(`/shows/${showId}/links/${id}`);
  };
}
