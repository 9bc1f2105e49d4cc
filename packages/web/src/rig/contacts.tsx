import { show as core } from '@deep-patch/core';
import { Plus, X } from 'lucide-react';
import { useState, type SyntheticEvent } from 'react';
import { useSteadyIds } from '../live/steady-ids.ts';
import { useShow, useWorkspace } from '../live/workspace.tsx';

const empty = { name: '', knows: '', reach: '' };

/** People to ask, with what they know and how they are reached; the contacts of networks stand with them. */
export function Contacts() {
  const show = useShow();
  const { save } = useWorkspace();
  const people = core.rowsOf(show, 'contacts').sort(core.byName);
  const hosts = core.rowsOf(show, 'networks').filter(({ contact }) => contact !== '');
  return (
    <section className="mt-5">
      <h3 className="mb-1 text-xs font-semibold text-mute">People to ask · {people.length + hosts.length}</h3>
      <ul>
        {hosts.map(({ id, name, contact }) => (
          <li key={id} className="border-b border-rule py-1">
            {contact} <span className="text-mute">{name}</span>
          </li>
        ))}
        {people.map(({ id, name, knows, reach }) => (
          <li key={id} className="flex items-center gap-2 border-b border-rule py-1">
            <span className="min-w-0 flex-1 truncate">
              {name} <span className="text-mute">{[knows, reach].filter(Boolean).join(' · ')}</span>
            </span>
            <button
              type="button"
              className="btn btn-ghost btn-xs btn-square"
              aria-label={`Take out ${name}`}
              onClick={() => void save(core.planRemove(show, 'contacts', [id], `Take out ${name}`))}
            >
              <X size={12} aria-hidden />
            </button>
          </li>
        ))}
      </ul>
      <AddContact />
    </section>
  );
}

function AddContact() {
  const { save } = useWorkspace();
  const [draft, setDraft] = useState(empty);
  const steady = useSteadyIds();
  const add = (event: SyntheticEvent) => {
    event.preventDefault();
    const row = { id: steady.begin()(), name: draft.name.trim(), knows: draft.knows.trim(), reach: draft.reach.trim() };
    void save(core.changeOf(`Add ${row.name}`, [core.insertRow('contacts', row)])).then((isIn) => {
      if (!isIn) return;
      steady.renew();
      setDraft(empty);
    });
  };
  const field = (key: keyof typeof empty, label: string) => (
    <input
      aria-label={label}
      placeholder={label.toLowerCase()}
      className="field"
      maxLength={key === 'name' ? core.limits.name : core.limits.text}
      value={draft[key]}
      onChange={(event) => setDraft({ ...draft, [key]: event.target.value })}
    />
  );
  return (
    <form onSubmit={add} className="mt-2 grid grid-cols-[1fr_1fr_1fr_auto] gap-1.5">
      {field('name', 'Name')}
      {field('knows', 'What they know')}
      {field('reach', 'How to reach them')}
      <button type="submit" className="act" disabled={draft.name.trim() === ''} aria-label="Add the person">
        <Plus size={14} aria-hidden />
      </button>
    </form>
  );
}
