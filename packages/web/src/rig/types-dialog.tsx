import { rig, show as core, type show } from '@deep-patch/core';
import { ArrowDown, ArrowUp } from 'lucide-react';
import { useState } from 'react';
import { useSteadyIds } from '../live/steady-ids.ts';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import { Dialog } from '../parts/dialog.tsx';
import { saveFile } from '../parts/save-file.ts';
import { TypeEditor } from './type-editor.tsx';
import { keyFrom } from './type-form/form-part.ts';

/** All definitions by library, in the order in which libraries are asked; the chosen one beside them. */
export function TypesDialog({
  first,
  making,
  onClose,
}: {
  readonly first: string | null;
  /** What a new type is called that something waits for: saved, the dialogue closes. */
  readonly making?: string;
  readonly onClose: () => void;
}) {
  const show = useShow();
  const { save } = useWorkspace();
  const steady = useSteadyIds();
  const [chosen, setChosen] = useState<string | undefined>(first ?? undefined);
  const [draft, setDraft] = useState<show.Content<'types'> | undefined>(() =>
    making === undefined ? undefined : blank(making),
  );
  const [dirty, setDirty] = useState(false);
  const type = chosen === undefined ? undefined : show.types[chosen];
  // in the order of the schema, not of the database
  const content = draft ?? (type && core.filledRow('types', core.contentOf(type)));
  const write = async (edited: show.Content<'types'>) => {
    const change = rig.planSaveType(show, edited, steady.begin());
    const made = change?.edits.find(({ table, after }) => table === 'types' && after !== null)?.id;
    if (!(await save(change))) return;
    steady.renew();
    if (making !== undefined) {
      onClose();
      return;
    }
    setDraft(undefined);
    if (made) setChosen(made);
  };
  return (
    <Dialog title="Device types" onClose={onClose} wide="full" unsaved={dirty}>
      <div className="grid gap-4 md:grid-cols-[17rem_minmax(0,1fr)]">
        <Libraries
          chosen={draft ? undefined : chosen}
          onNew={() => setDraft(blank())}
          onChoose={(id) => {
            setDraft(undefined);
            setChosen(id);
          }}
        />
        {content ? (
          <div className="grid min-w-0 content-start gap-3">
            {draft && <StartAs name={draft.name} onStart={setDraft} />}
            <TypeEditor
              key={draft ? `draft ${draft.id}` : `${content.id} ${type?.rev ?? 0}`}
              {...{ content, type: draft ? undefined : type, onSave: write, onDirty: setDirty }}
              onRemoved={() => setChosen(undefined)}
            />
          </div>
        ) : (
          <NoneChosen />
        )}
      </div>
    </Dialog>
  );
}

function Libraries({
  chosen,
  onNew,
  onChoose,
}: {
  readonly chosen: string | undefined;
  readonly onNew: () => void;
  readonly onChoose: (id: string) => void;
}) {
  const show = useShow();
  const { save } = useWorkspace();
  const steady = useSteadyIds();
  const [faults, setFaults] = useState<readonly rig.TypeFileFault[]>([]);
  const libraries = rig.librariesInOrder(show);
  const readFile = async (file: File | undefined) => {
    if (!file) return;
    const read = rig.readTypeFile(file.size > mostBytes ? '' : await file.text());
    setFaults(read.ok ? [] : read.faults);
    if (read.ok && (await save(rig.planTakeInTypes(show, read.file, steady.begin())))) steady.renew();
  };
  return (
    <div className="grid min-w-0 grid-cols-[minmax(0,1fr)] content-start gap-3">
      <div className="flex flex-wrap gap-2">
        <button type="button" className="act" onClick={onNew}>
          New type
        </button>
        <label className="act cursor-pointer">
          Read a file
          <input
            type="file"
            accept=".json,application/json"
            className="sr-only"
            onChange={(event) => void readFile(event.target.files?.[0])}
          />
        </label>
      </div>
      {faults.length > 0 && <FileFaults faults={faults} />}
      {libraries.map((library, at) => (
        <LibraryList
          key={library.id}
          library={library}
          isFirst={at === 0}
          isLast={at === libraries.length - 1}
          chosen={chosen}
          onChoose={onChoose}
        />
      ))}
    </div>
  );
}

const mostBytes = 5_000_000;

const NoneChosen = () => (
  <p className="text-mute">
    Choose a type to see what Deep Patch knows of it. The first library that has a model defines it; a change to a
    shipped type is kept as a copy in our own library, which is asked first.
  </p>
);

/** A similar type is the quickest start: its copy gets the name of the new one. */
function StartAs({
  name,
  onStart,
}: {
  readonly name: string;
  readonly onStart: (draft: show.Content<'types'>) => void;
}) {
  const show = useShow();
  const types = [...core.definitionsOf(show).values()].sort(core.byName);
  const start = (id: string) => {
    const type = show.types[id];
    if (!type) {
      onStart(blank(name));
      return;
    }
    const copy = core.filledRow('types', core.contentOf(type));
    onStart({
      ...copy,
      id: `draft-${id}`.slice(0, 40),
      libraryId: rig.ownLibraryId,
      name,
      model: keyFrom(name),
      version: '1.0',
    });
  };
  return (
    <label className="flex flex-wrap items-center gap-3">
      Start with
      <select className="field-select w-56" defaultValue="" onChange={(event) => start(event.target.value)}>
        <option value="">an empty sheet</option>
        {types.map((type) => (
          <option key={type.id} value={type.id}>
            a copy of {type.name}
          </option>
        ))}
      </select>
    </label>
  );
}

const blank = (name = 'New type'): show.Content<'types'> =>
  core.filledRow('types', {
    id: 'draft',
    libraryId: rig.ownLibraryId,
    model: keyFrom(name),
    version: '1.0',
    name: name.slice(0, core.limits.name),
    kind: 'computer',
    factory: { mode: 'dhcp', ip: null, prefix: null },
    adapters: [{ key: 'lan', label: 'network' }],
    sockets: [{ key: 'port-1', label: 'port 1', adapter: 'lan' }],
    ways: [{ way: 'menu' }],
  });

function FileFaults({ faults }: { faults: readonly rig.TypeFileFault[] }) {
  return (
    <div role="alert" className="border-l-3 border-error bg-error/12 px-3 py-2 text-[13px] wrap-anywhere">
      <b>Nothing was taken in.</b>
      <ul>
        {faults.slice(0, 8).map(({ at, message }) => (
          <li key={`${at} ${message}`}>
            {at && <code>{at}</code>} {message}
          </li>
        ))}
        {faults.length > 8 && <li>and {faults.length - 8} more</li>}
      </ul>
    </div>
  );
}

interface ListProps {
  readonly library: show.Library;
  readonly isFirst: boolean;
  readonly isLast: boolean;
  readonly chosen: string | undefined;
  readonly onChoose: (id: string) => void;
}

function LibraryList({ library, isFirst, isLast, chosen, onChoose }: ListProps) {
  const show = useShow();
  const types = core
    .rowsOf(show, 'types')
    .filter(({ libraryId }) => libraryId === library.id)
    .sort(core.byName);
  return (
    <section className="grid gap-1">
      <div className="flex items-center gap-1">
        <h3 className="mr-auto text-xs font-semibold text-mute">{library.name}</h3>
        <MoveButton library={library} by={-1} isEnd={isFirst} />
        <MoveButton library={library} by={1} isEnd={isLast} />
      </div>
      <ul
        className="max-h-96 overflow-auto rounded-field border border-rule"
        tabIndex={0}
        aria-label={`Types of ${library.name}`}
      >
        {types.map((type) => (
          <li key={type.id}>
            <button
              type="button"
              aria-pressed={type.id === chosen}
              onClick={() => onChoose(type.id)}
              className={`flex w-full gap-2 px-2.5 py-1 text-left hover:bg-base-300 ${type.id === chosen ? 'bg-base-300 shadow-[inset_3px_0_0_var(--color-primary)]' : ''}`}
            >
              <span className="truncate">{type.name}</span>
              <span className="ml-auto text-xs whitespace-nowrap text-mute">
                {rig.isHidden(show, type) ? 'hidden · ' : ''}
                {type.version}
              </span>
            </button>
          </li>
        ))}
      </ul>
      <LibraryActs library={library} isEmpty={types.length === 0} />
    </section>
  );
}

function MoveButton({
  library: { id, name },
  by,
  isEnd,
}: {
  readonly library: show.Library;
  readonly by: -1 | 1;
  readonly isEnd: boolean;
}) {
  const show = useShow();
  const { save } = useWorkspace();
  const Arrow = by < 0 ? ArrowUp : ArrowDown;
  return (
    <button
      type="button"
      className="btn btn-ghost btn-xs btn-square"
      aria-label={`Ask ${name} ${by < 0 ? 'earlier' : 'later'}`}
      disabled={isEnd}
      onClick={() => void save(rig.planMoveLibrary(show, id, by))}
    >
      <Arrow size={13} aria-hidden />
    </button>
  );
}

function LibraryActs({ library, isEmpty }: { readonly library: show.Library; readonly isEmpty: boolean }) {
  const show = useShow();
  const { save } = useWorkspace();
  const removal = rig.planRemoveLibrary(show, library);
  const download = () => {
    const text = JSON.stringify(rig.writeTypeFile(show, library.id), null, 2);
    saveFile(`${library.name.toLowerCase().replace(/[^a-z0-9]+/g, '-')}.json`, text, 'application/json');
  };
  return (
    <div className="flex gap-2">
      <button type="button" className="act-quiet" disabled={isEmpty} onClick={download}>
        Save as a file
      </button>
      {library.id !== 'shipped' && (
        <button
          type="button"
          className="act-quiet text-error"
          disabled={!removal}
          title={removal ? undefined : 'Units of the show need its types'}
          onClick={() => void save(removal)}
        >
          Remove
        </button>
      )}
    </div>
  );
}
