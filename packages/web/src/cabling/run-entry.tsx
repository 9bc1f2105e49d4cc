import { cabling, show as core } from '@deep-patch/core';
import { useId, useRef, useState, type KeyboardEvent, type SyntheticEvent } from 'react';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import { RunFaults } from './run-faults.tsx';

const empty: Readonly<Record<cabling.RunField, string>> = {
  from: '',
  fromSocket: '',
  to: '',
  toSocket: '',
  medium: '',
  length: '',
  stage: '',
};

const kinds = [...Object.values(cabling.mediumWords), ...Object.values(cabling.gradeWords)];

/** One run as on paper: part of a name, Enter, socket, Enter; what is left empty is filled in. */
export function RunEntry({ onClose }: { readonly onClose: () => void }) {
  const show = useShow();
  const { save } = useWorkspace();
  const form = useRef<HTMLFormElement>(null);
  const [run, setRun] = useState(empty);
  const [faults, setFaults] = useState<readonly cabling.RunFault[]>([]);
  const field = (key: cabling.RunField) => ({
    value: run[key],
    onType: (text: string) => setRun({ ...run, [key]: text }),
  });
  const focusOn = (at: number) => form.current?.querySelectorAll('input')[at]?.focus();
  const write = async () => {
    const plan = cabling.planRuns(show, [{ ...run, line: 1 }]);
    setFaults(plan.ok ? [] : plan.faults);
    if (!plan.ok) return focusOn(cabling.runFields.indexOf(plan.faults[0]?.field ?? 'from'));
    if (!(await save(plan.change))) return;
    // the next one often comes from the same unit
    setRun({ ...empty, from: run.from });
    focusOn(run.from === '' ? 0 : 1);
  };
  const submit = (event: SyntheticEvent) => {
    event.preventDefault();
    void write();
  };
  /** Enter goes on to the next field, as on paper; behind the last one it writes the run down. */
  const goOn = (event: KeyboardEvent) => {
    if (event.key === 'Escape') onClose();
    if (event.key !== 'Enter' || !(event.target instanceof HTMLInputElement)) return;
    const inputs = [...(form.current?.querySelectorAll('input') ?? [])];
    const at = inputs.indexOf(event.target);
    // when it is plugged in is seldom said: behind the length it is written down
    if (at < 0 || at >= cabling.runFields.indexOf('length')) return;
    event.preventDefault();
    inputs[at + 1]?.focus();
  };
  const names = core.devicesByName(show).map(({ name }) => name);
  return (
    <div className="grid gap-2 border-t border-rule bg-base-200 px-4.5 py-2">
      <form ref={form} onSubmit={submit} onKeyDown={goOn} className="flex flex-wrap items-end gap-2" aria-label="A run">
        <EntryField label="From" {...field('from')} choices={names} wide first />
        <EntryField label="Socket" {...field('fromSocket')} choices={socketsOf(show, run.from)} />
        <EntryField label="To" {...field('to')} choices={names} wide />
        <EntryField label="Its socket" {...field('toSocket')} choices={socketsOf(show, run.to)} />
        <EntryField label="Kind" {...field('medium')} choices={kinds} />
        <EntryField label="Length" {...field('length')} choices={[]} />
        <EntryField label="When" {...field('stage')} choices={Object.values(cabling.stageWords)} />
        <button type="submit" className="act-main">
          Add run
        </button>
        <button type="button" className="act-quiet" onClick={onClose}>
          Close
        </button>
        <p className="text-xs text-mute">Sockets and kind left empty are the first that fit.</p>
      </form>
      <RunFaults faults={faults} />
    </div>
  );
}

function socketsOf(show: core.Show, name: string): readonly string[] {
  const device = core.rowsOf(show, 'devices').find((one) => one.name.toLowerCase() === name.trim().toLowerCase());
  return device
    ? cabling
        .cablingFacts(show)
        .freeSockets(device.id)
        .map((key) => core.socketLabel(show, device.id, key))
    : [];
}

function EntryField({
  label,
  value,
  onType,
  choices,
  wide = false,
  first = false,
}: {
  readonly label: string;
  readonly value: string;
  readonly onType: (text: string) => void;
  readonly choices: readonly string[];
  readonly wide?: boolean;
  readonly first?: boolean;
}) {
  const list = useId();
  return (
    <label className="grid gap-0.5 text-xs text-mute">
      {label}
      <input
        className={`field text-sm text-base-content ${wide ? 'w-44' : 'w-24'}`}
        value={value}
        list={choices.length > 0 ? list : undefined}
        autoComplete="off"
        autoFocus={first}
        onChange={(event) => onType(event.target.value)}
      />
      {choices.length > 0 && (
        <datalist id={list}>
          {choices.map((choice) => (
            <option key={choice} value={choice} />
          ))}
        </datalist>
      )}
    </label>
  );
}
