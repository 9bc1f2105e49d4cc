import { addressing, show as core, type show } from '@deep-patch/core';
import { useState, type SyntheticEvent } from 'react';
import { useSteadyIds } from '../live/steady-ids.ts';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import { Field } from '../parts/field.tsx';

interface Draft {
  readonly label: string;
  readonly first: string;
  readonly last: string;
  readonly use: show.Block['use'];
  readonly kinds: readonly show.DeviceKind[];
}

/** The blocks of a network: for which kinds, from where to where, or kept free for somebody. */
export function BlockEditor({ on }: { on: addressing.NetworkFacts }) {
  const show = useShow();
  const { save } = useWorkspace();
  const steady = useSteadyIds();
  const [editing, setEditing] = useState<string>();
  const block = editing === undefined ? undefined : show.blocks[editing];
  const propose = () =>
    void save(
      core.changeOf(
        `Lay out blocks on ${on.network.name}`,
        addressing
          .proposeBlocks(show, on.network.id, on.subnet, steady.begin())
          .map((row) => core.insertRow('blocks', row)),
      ),
    );
  return (
    <section className="grid gap-1">
      <div className="flex items-center gap-2">
        <h3 className="mr-auto text-xs font-semibold text-mute">Blocks</h3>
        {on.blocks.length === 0 && (
          <button type="button" className="btn btn-ghost btn-xs" onClick={propose}>
            Lay them out
          </button>
        )}
        <button type="button" className="btn btn-ghost btn-xs" onClick={() => setEditing('new')}>
          Add a block
        </button>
      </div>
      {on.blocks.length === 0 && editing === undefined && (
        <p className="text-mute">No blocks. Units are placed from the lowest free address up.</p>
      )}
      <ul>
        {on.blocks.map(({ block: row }) => (
          <li key={row.id} className="border-b border-rule">
            <button
              type="button"
              aria-expanded={editing === row.id}
              className="flex w-full justify-between gap-2 py-1 text-left hover:bg-base-300"
              onClick={() => setEditing(editing === row.id ? undefined : row.id)}
            >
              <span className={row.use === 'keep_free' ? 'text-mute italic' : ''}>{row.label}</span>
              <code className="text-mute">
                {row.first} – {row.last}
              </code>
            </button>
            {editing === row.id && block && (
              <BlockForm key={`${row.id} ${row.rev}`} on={on} block={row} onDone={() => setEditing(undefined)} />
            )}
          </li>
        ))}
      </ul>
      {editing === 'new' && <BlockForm on={on} block={undefined} onDone={() => setEditing(undefined)} />}
    </section>
  );
}

interface FormProps {
  readonly on: addressing.NetworkFacts;
  readonly block: show.Block | undefined;
  readonly onDone: () => void;
}

function BlockForm({ on, block, onDone }: FormProps) {
  const show = useShow();
  const { save } = useWorkspace();
  const steady = useSteadyIds();
  const [draft, setDraft] = useState<Draft>(() => draftOf(on, block));
  const [faults, setFaults] = useState<Partial<Record<'label' | 'first' | 'last', string>>>({});
  const put = (patch: Partial<Draft>) => setDraft((before) => ({ ...before, ...patch }));
  const submit = (event: SyntheticEvent) => {
    event.preventDefault();
    const [first, last] = [draft.first, draft.last].map((text) => addressing.readIpEntry(text, on.subnet));
    const found = {
      ...(draft.label.trim() ? {} : { label: 'Give it a name' }),
      ...(first?.ok ? {} : { first: first ? addressing.entryWords(first) : '' }),
      ...(last?.ok ? {} : { last: last ? addressing.entryWords(last) : '' }),
      ...(first?.ok && last?.ok && first.ip > last.ip ? { last: 'The end comes before the start.' } : {}),
    };
    setFaults(found);
    if (Object.keys(found).length > 0 || !first?.ok || !last?.ok) return;
    const patch = {
      label: draft.label.trim(),
      use: draft.use,
      kinds: draft.use === 'keep_free' ? [] : [...draft.kinds],
      first: addressing.formatIp(first.ip),
      last: addressing.formatIp(last.ip),
    };
    const edit = block
      ? core.updateRow('blocks', block, patch)
      : core.insertRow('blocks', { id: steady.begin()(), networkId: on.network.id, ...patch });
    void save(core.changeOf(`${block ? 'Change' : 'Add'} block ${patch.label}`, [edit])).then(
      (done) => done && onDone(),
    );
  };
  const remove = () =>
    block &&
    void save(core.planRemove(show, 'blocks', [block.id], `Remove block ${block.label}`)).then(
      (done) => done && onDone(),
    );
  return (
    <form onSubmit={submit} className="grid gap-x-3 rounded-field border border-line p-2.5">
      <div className="grid grid-cols-2 gap-x-3">
        <Field label="Name" error={faults.label}>
          {(ids) => (
            <input
              {...ids}
              className="field"
              maxLength={80}
              value={draft.label}
              onChange={(event) => put({ label: event.target.value })}
            />
          )}
        </Field>
        <Field label="For">
          {(ids) => (
            <select
              {...ids}
              className="field-select"
              value={draft.use}
              onChange={(event) => put({ use: event.target.value as Draft['use'] })}
            >
              <option value="place">placing units</option>
              <option value="keep_free">keeping free</option>
            </select>
          )}
        </Field>
        <Field label="From" error={faults.first}>
          {(ids) => (
            <input
              {...ids}
              className="field key-num"
              value={draft.first}
              onChange={(event) => put({ first: event.target.value })}
            />
          )}
        </Field>
        <Field label="To" error={faults.last}>
          {(ids) => (
            <input
              {...ids}
              className="field key-num"
              value={draft.last}
              onChange={(event) => put({ last: event.target.value })}
            />
          )}
        </Field>
      </div>
      {draft.use === 'place' && (
        <fieldset className="mb-2 grid max-h-36 grid-cols-2 gap-x-3 overflow-auto text-xs">
          <legend className="pb-1 font-semibold text-mute">Kinds of gear</legend>
          {core.deviceKinds.map((kind) => (
            <label key={kind} className="flex items-center gap-1.5 py-0.5">
              <input
                type="checkbox"
                className="checkbox checkbox-xs"
                checked={draft.kinds.includes(kind)}
                onChange={(event) =>
                  put({
                    kinds: event.target.checked
                      ? [...draft.kinds, kind]
                      : draft.kinds.filter((other) => other !== kind),
                  })
                }
              />
              {kind.replace('-', ' ')}
            </label>
          ))}
        </fieldset>
      )}
      <div className="flex gap-2">
        <button type="submit" className="act">
          {block ? 'Save block' : 'Add block'}
        </button>
        {block && (
          <button type="button" className="act-quiet text-error" onClick={remove}>
            Remove
          </button>
        )}
      </div>
    </form>
  );
}

const draftOf = (on: addressing.NetworkFacts, block: show.Block | undefined): Draft =>
  block ?? { label: '', first: addressing.formatIp(on.first), last: '', use: 'place', kinds: [] };
