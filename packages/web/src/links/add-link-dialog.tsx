import { links as linkRoom, show as core } from '@deep-patch/core';
import { useState, type SyntheticEvent } from 'react';
import { useNavigate } from 'react-router';
import { useSteadyIds } from '../live/steady-ids.ts';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import { Dialog } from '../parts/dialog.tsx';
import { Field } from '../parts/field.tsx';

/** Who controls what: only controllers that can speak, only services that they can drive. */
export function AddLinkDialog({ onClose }: { onClose: () => void }) {
  const show = useShow();
  const { save, showId } = useWorkspace();
  const navigate = useNavigate();
  const steady = useSteadyIds();
  const controllers = core.devicesByName(show).filter((device) => (core.typeOf(show, device)?.drives.length ?? 0) > 0);
  const [controllerId, setControllerId] = useState(controllers[0]?.id ?? '');
  const [targetKey, setTargetKey] = useState('');
  const [slot, setSlot] = useState('');
  const controller = show.devices[controllerId];
  const targets = controller ? linkRoom.drivable(show, controller).sort((a, b) => core.byName(a.target, b.target)) : [];

  const add = async (event: SyntheticEvent) => {
    event.preventDefault();
    const found = targets.find(({ service }) => service.id === targetKey);
    if (!found) return;
    const id = steady.begin()();
    const wanted = /^\d{1,4}$/.test(slot.trim()) ? Number(slot) : null;
    const change = linkRoom.planAddLink(show, {
      id,
      controllerId,
      targetId: found.target.id,
      serviceKey: found.service.key,
      slot: wanted,
    });
    if (await save(change)) void navigate(`/shows/${showId}/links/${id}`);
  };
  return (
    <Dialog title="Add a link" onClose={onClose}>
      {controllers.length === 0 ? (
        <p>
          Nothing in the rig can control anything yet. Add a show host, a camera remote or another controller first.
        </p>
      ) : (
        <form onSubmit={(event) => void add(event)} className="grid gap-1">
          <Field label="Controller">
            {(ids) => (
              <select
                {...ids}
                className="field-select"
                value={controllerId}
                onChange={(event) => {
                  setControllerId(event.target.value);
                  setTargetKey('');
                }}
              >
                {controllers.map(({ id, name }) => (
                  <option key={id} value={id}>
                    {name}
                  </option>
                ))}
              </select>
            )}
          </Field>
          <Field
            label="Controls"
            hint={targets.length === 0 ? 'Nothing in the rig speaks what this controller speaks.' : undefined}
          >
            {(ids) => (
              <select
                {...ids}
                className="field-select"
                value={targetKey}
                onChange={(event) => setTargetKey(event.target.value)}
              >
                <option value="">Choose a target</option>
                {targets.map(({ target, service, label }) => (
                  <option key={service.id} value={service.id}>
                    {`${target.name}: ${label}`}
                  </option>
                ))}
              </select>
            )}
          </Field>
          <Field
            label="Slot in the controller"
            hint={
              controller ? `if it numbers its targets; next is ${linkRoom.nextSlot(show, controller.id)}` : undefined
            }
          >
            {(ids) => (
              <input
                {...ids}
                className="field key-num"
                value={slot}
                onChange={(event) => setSlot(event.target.value)}
                inputMode="numeric"
              />
            )}
          </Field>
          <div className="mt-2 flex justify-end gap-2">
            <button type="button" className="act" onClick={onClose}>
              Cancel
            </button>
            <button type="submit" className="act-main" disabled={targetKey === ''}>
              Add link
            </button>
          </div>
        </form>
      )}
    </Dialog>
  );
}
