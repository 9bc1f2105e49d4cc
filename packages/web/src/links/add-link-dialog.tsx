import { links as linkRoom, show as core } from '@deep-patch/core';
import { useState, type SyntheticEvent } from 'react';
import { useSteadyIds } from '../live/steady-ids.ts';
import { hasWords } from '../parts/has-words.ts';
import { useSaveAndGo } from '../live/use-save-and-go.ts';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import { Dialog } from '../parts/dialog.tsx';
import { Options } from '../parts/form-fields.tsx';
import { ChosenField, Tick, TypedField } from '../parts/typed-fields.tsx';
import { NotListed } from './not-listed.tsx';

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
  const [chosen, setChosen] = useState<readonly string[]>([]);
  const [slot, setSlot] = useState<string>();
  const [account, setAccount] = useState('');
  const controller = show.devices[controllerId];
  const targets = controller ? linkRoom.drivable(show, controller).sort((a, b) => core.byName(a.target, b.target)) : [];
  const wanted = targets.filter(({ service }) => chosen.includes(service.id));
  const first = slot ?? nextSlotOf(show, controllerId);
  const number = /^\d{1,4}$/.test(first.trim()) ? Number(first) : null;
  const asks = wanted.some(({ type }) => core.asksForLogin(type));
  const submit = (event: SyntheticEvent) => {
    event.preventDefault();
    void add({
      controllerId,
      targets: wanted.map(({ target, service }) => ({ targetId: target.id, serviceKey: service.key })),
      firstSlot: number,
      account: account.trim() || null,
    });
  };
  return (
    <form onSubmit={submit} className="grid gap-1">
      <ChosenField
        label="Controller"
        value={controllerId}
        onChoose={(id) => {
          setControllerId(id);
          setChosen([]);
          setSlot(undefined);
        }}
      >
        <Options of={controllers.map(({ id, name }) => [id, name] as const)} />
      </ChosenField>
      <Targets targets={targets} chosen={chosen} onChoose={setChosen} />
      {controller && <NotListed controller={controller} />}
      <SlotField controllerId={controllerId} first={first} count={wanted.length} number={number} onType={setSlot} />
      {asks && (
        <TypedField
          label="Account that it logs in with"
          hint="passwords come with the settings of each link"
          value={account}
          onType={setAccount}
          secret="account"
          look="key"
        />
      )}
      <div className="mt-2 flex justify-end gap-2">
        <button type="button" className="act" onClick={onClose}>
          Cancel
        </button>
        <button type="submit" className="act-main" disabled={wanted.length === 0}>
          {wanted.length > 1 ? `Add ${wanted.length} links` : 'Add link'}
        </button>
      </div>
    </form>
  );
}

/** A controller that numbers its targets goes on with the next free slot. */
const nextSlotOf = (show: core.Show, controllerId: string): string =>
  linkRoom.slotsOf(show, controllerId).size > 0 ? String(linkRoom.nextSlot(show, controllerId)) : '';

type Target = ReturnType<typeof linkRoom.drivable>[number];

/** Everything that the controller can drive; a list that is long gets a filter. */
function Targets({
  targets,
  chosen,
  onChoose,
}: {
  readonly targets: readonly Target[];
  readonly chosen: readonly string[];
  readonly onChoose: (ids: readonly string[]) => void;
}) {
  const [filter, setFilter] = useState('');
  const isMeant = hasWords(filter);
  const shown = targets.filter(({ target, label }) => isMeant(`${target.name} ${label}`));
  if (targets.length === 0)
    return <p className="pb-2 text-mute">Nothing in the rig speaks what this controller speaks.</p>;
  return (
    <fieldset className="grid gap-1 pb-2">
      <legend className="text-xs font-semibold text-mute">Controls</legend>
      {targets.length > 8 && (
        <input
          type="search"
          className="field"
          aria-label="Filter targets"
          placeholder="Filter"
          value={filter}
          onChange={(event) => setFilter(event.target.value)}
        />
      )}
      <div className="grid max-h-64 gap-0.5 overflow-auto rounded-field border border-line bg-base-100 p-2">
        {shown.map(({ target, service, label }) => (
          <Tick
            key={service.id}
            size="xs"
            checked={chosen.includes(service.id)}
            onTick={(on) => onChoose(on ? [...chosen, service.id] : chosen.filter((id) => id !== service.id))}
          >
            {target.name} <span className="text-mute">{label}</span>
          </Tick>
        ))}
        {shown.length === 0 && <p className="text-mute">No target by that name.</p>}
      </div>
    </fieldset>
  );
}

/** The first slot; the others take the next free ones, and one that is taken is told. */
function SlotField({
  controllerId,
  first,
  count,
  number,
  onType,
}: {
  readonly controllerId: string;
  readonly first: string;
  readonly count: number;
  readonly number: number | null;
  readonly onType: (text: string) => void;
}) {
  const show = useShow();
  const holder = number === null ? undefined : linkRoom.slotsOf(show, controllerId).get(number);
  const next = linkRoom.nextSlot(show, controllerId);
  const free = `if it numbers its targets; next is ${next}`;
  return (
    <TypedField
      label={count > 1 ? 'First slot in the controller' : 'Slot in the controller'}
      hint={holder === undefined ? free : `slot ${number} has ${holder}; the next free one is taken`}
      value={first}
      onType={onType}
      look="number"
    />
  );
}

function useAdding() {
  const show = useShow();
  const { showId } = useWorkspace();
  const saveAndGo = useSaveAndGo();
  const steady = useSteadyIds();
  return async (wanted: linkRoom.SeveralLinks) => {
    const change = linkRoom.planAddLinks(show, wanted, steady.begin());
    const made = change?.edits.find(({ table }) => table === 'links')?.id;
    await saveAndGo(change, `/shows/${showId}/links/${made ?? ''}`);
  };
}
