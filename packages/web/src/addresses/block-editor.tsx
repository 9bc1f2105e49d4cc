import { addressing, show as core, type Change, type show } from '@deep-patch/core';
import { useState, type SyntheticEvent } from 'react';
import { useSteadyIds } from '../live/steady-ids.ts';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import { ChosenField, Tick, TypedField } from '../parts/typed-fields.tsx';

interface Draft {
  readonly label: string;
  readonly first: string;
  readonly last: string;
  readonly use: show.Block['use'];
  readonly kinds: readonly show.DeviceKind[];
}

const membersOf = (on: addressing.NetworkFacts) => [...new Set(on.planned.map(({ device }) => device.id))];

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
          .proposeBlocks(
            show,
            { networkId: on.network.id, subnet: on.subnet, members: membersOf(on), pool: on.pool },
            steady.begin(),
          )
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
  const [faults, setFaults] = useState<Faults>({});
  const saveAndLeave = (change: Change | undefined) => void save(change).then((done) => done && onDone());
  const submit = (event: SyntheticEvent) => {
    event.preventDefault();
    const read = readDraft(draft, on.subnet);
    setFaults(read.ok ? {} : read.faults);
    if (!read.ok) return;
    const edit = block
      ? core.updateRow('blocks', block, read.patch)
      : core.insertRow('blocks', { id: steady.begin()(), networkId: on.network.id, ...read.patch });
    saveAndLeave(core.changeOf(`${block ? 'Change' : 'Add'} block ${read.patch.label}`, [edit]));
  };
  return (
    <form onSubmit={submit} className="grid gap-x-3 rounded-field border border-line p-2.5">
      <BlockFields
        draft={draft}
        faults={faults}
        onChange={(patch) => setDraft((before) => ({ ...before, ...patch }))}
      />
      <div className="flex gap-2">
        <button type="submit" className="act">
          {block ? 'Save block' : 'Add block'}
        </button>
        {block && (
          <button
            type="button"
            className="act-quiet text-error"
            onClick={() => saveAndLeave(core.planRemove(show, 'blocks', [block.id], `Remove block ${block.label}`))}
          >
            Remove
          </button>
        )}
      </div>
    </form>
  );
}

type Faults = Partial<Record<'label' | 'first' | 'last', string>>;

function readDraft(draft: Draft, subnet: addressing.Subnet) {
  const [first, last] = [draft.first, draft.last].map((text) => addressing.readIpEntry(text, subnet));
  const faults: Faults = {
    ...(draft.label.trim() ? {} : { label: 'Give it a name' }),
    ...(first?.ok ? {} : { first: first ? addressing.entryWords(first) : '' }),
    ...(last?.ok ? {} : { last: last ? addressing.entryWords(last) : '' }),
    ...(first?.ok && last?.ok && first.ip > last.ip ? { last: 'The end comes before the start.' } : {}),
  };
  if (Object.keys(faults).length > 0 || !first?.ok || !last?.ok) return { ok: false, faults } as const;
  const patch = {
    label: draft.label.trim(),
    use: draft.use,
    kinds: draft.use === 'keep_free' ? [] : [...draft.kinds],
    first: addressing.formatIp(first.ip),
    last: addressing.formatIp(last.ip),
  };
  return { ok: true, patch } as const;
}

function BlockFields({
  draft,
  faults,
  onChange,
}: {
  readonly draft: Draft;
  readonly faults: Faults;
  readonly onChange: (patch: Partial<Draft>) => void;
}) {
  const kinds = (kind: show.DeviceKind, isIn: boolean) =>
    isIn ? [...draft.kinds, kind] : draft.kinds.filter((other) => other !== kind);
  return (
    <>
      <div className="grid grid-cols-2 gap-x-3">
        <TypedField
          label="Name"
          error={faults.label}
          value={draft.label}
          onType={(label) => onChange({ label })}
          most={core.limits.name}
        />
        <ChosenField label="For" value={draft.use} onChoose={(use) => onChange({ use: use as Draft['use'] })}>
          <option value="place">placing units</option>
          <option value="keep_free">keeping free</option>
        </ChosenField>
        <TypedField
          label="From"
          error={faults.first}
          value={draft.first}
          onType={(first) => onChange({ first })}
          look="key"
        />
        <TypedField
          label="To"
          error={faults.last}
          value={draft.last}
          onType={(last) => onChange({ last })}
          look="key"
        />
      </div>
      {draft.use === 'place' && (
        <fieldset className="mb-2 grid max-h-36 grid-cols-2 gap-x-3 overflow-auto text-xs">
          <legend className="pb-1 font-semibold text-mute">Kinds of gear</legend>
          {core.deviceKinds.map((kind) => (
            <Tick
              key={kind}
              size="xs"
              checked={draft.kinds.includes(kind)}
              onTick={(isIn) => onChange({ kinds: kinds(kind, isIn) })}
            >
              {kind.replace('-', ' ')}
            </Tick>
          ))}
        </fieldset>
      )}
    </>
  );
}

const draftOf = (on: addressing.NetworkFacts, block: show.Block | undefined): Draft =>
  block ?? { label: '', first: addressing.formatIp(on.first), last: '', use: 'place', kinds: [] };
