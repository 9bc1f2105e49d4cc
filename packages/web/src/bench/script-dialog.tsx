import { contract, show as core } from '@deep-patch/core';
import { useState } from 'react';
import { useShow } from '../live/workspace.tsx';
import { Dialog } from '../parts/dialog.tsx';
import { Options } from '../parts/form-fields.tsx';
import { saveFile } from '../parts/save-file.ts';
import type { DoOnBench } from './use-bench.ts';

interface Props {
  readonly onClose: () => void;
  readonly act: DoOnBench;
}

type Step = contract.ScriptStep;
const largestFile = 200_000;

/** A rehearsal written down: which fault comes when, hidden or not. Kept as a file, and played on the bench. */
export function ScriptDialog({ onClose, act }: Props) {
  const { title, setTitle, steps, setSteps, faults, take, open } = useScript();
  const keep = () => {
    const script = take({ title, steps });
    if (script) saveFile('rehearsal.json', JSON.stringify(script, null, 2), 'application/json');
  };
  return (
    <Dialog title="Rehearse from a script" onClose={onClose} wide>
      <form
        className="grid gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          const script = take({ title, steps });
          if (!script) return;
          void act({ act: 'play_script', script });
          onClose();
        }}
      >
        <p className="max-w-prose text-mute">
          Faults come at their times, counted from the start. What is hidden is not told: whoever rehearses has to find
          it with soundings and the tap.
        </p>
        <label className="grid max-w-sm gap-1 text-xs text-mute">
          Title
          <input className="field" value={title} onChange={(event) => setTitle(event.target.value)} />
        </label>
        <Steps steps={steps} onChange={setSteps} />
        {faults.length > 0 && (
          <ul role="alert" className="text-error">
            {faults.map((fault) => (
              <li key={fault}>{fault}</li>
            ))}
          </ul>
        )}
        <div className="flex flex-wrap gap-2">
          <AddStep steps={steps} onChange={setSteps} />
          <label className="act">
            Open a file
            <input
              type="file"
              className="sr-only"
              accept=".json,application/json"
              onChange={(event) => void open(event.target.files?.[0])}
            />
          </label>
          <button type="button" className="act" onClick={keep}>
            Save as a file
          </button>
          <button type="submit" className="act-main ml-auto">
            Start it
          </button>
        </div>
      </form>
    </Dialog>
  );
}

/** The script as it is being written; `take` answers it once nothing is wrong with it. */
function useScript() {
  const show = useShow();
  const [title, setTitle] = useState('Dress rehearsal');
  const [steps, setSteps] = useState<readonly Step[]>(() => [firstStep(core.devicesByName(show))]);
  const [faults, setFaults] = useState<readonly string[]>([]);
  const take = (value: unknown): contract.RehearsalScript | undefined => {
    const read = contract.rehearsalScriptSchema.safeParse(value);
    const missing = read.success ? strangers(read.data, show) : [];
    const found = read.success ? missing : read.error.issues.map(({ path, message }) => `${where(path)}${message}`);
    setFaults(found);
    return read.success && found.length === 0 ? read.data : undefined;
  };
  const open = async (file: File | undefined) => {
    if (!file) return;
    const script = take(readJson(file.size > largestFile ? '' : await file.text()));
    if (!script) return;
    setTitle(script.title);
    setSteps(script.steps);
  };
  return { title, setTitle, steps, setSteps, faults, take, open };
}

interface StepsProps {
  readonly steps: readonly Step[];
  readonly onChange: (steps: readonly Step[]) => void;
}

function Steps({ steps, onChange }: StepsProps) {
  const devices = core.devicesByName(useShow());
  return (
    <table className="table table-sm">
      <thead>
        <tr>
          <th>At, s</th>
          <th>Until, s</th>
          <th>What goes wrong</th>
          <th>At which unit</th>
          <th>Hidden</th>
          <th />
        </tr>
      </thead>
      <tbody>
        {steps.map((step, at) => (
          <StepRow
            key={at}
            step={step}
            number={at + 1}
            devices={devices}
            change={(patch) => onChange(steps.map((one, n) => (n === at ? { ...one, ...patch } : one)))}
            remove={() => onChange(steps.filter((_, n) => n !== at))}
          />
        ))}
      </tbody>
    </table>
  );
}

function AddStep({ steps, onChange }: StepsProps) {
  const devices = core.devicesByName(useShow());
  const next = { ...firstStep(devices), atSeconds: (steps.at(-1)?.atSeconds ?? 0) + 60 };
  return (
    <button type="button" className="act" onClick={() => onChange([...steps, next])}>
      Add a fault
    </button>
  );
}

interface RowProps {
  readonly step: Step;
  readonly number: number;
  readonly devices: readonly core.Device[];
  readonly change: (patch: Partial<Step>) => void;
  readonly remove: () => void;
}

function StepRow({ step, number, devices, change, remove }: RowProps) {
  return (
    <tr>
      <Seconds
        label={`Fault ${number} comes at, in seconds`}
        value={step.atSeconds}
        onType={(seconds) => change({ atSeconds: seconds ?? 0 })}
      />
      <Seconds
        label={`Fault ${number} mends itself at, in seconds; empty: it stays`}
        value={step.untilSeconds}
        onType={(untilSeconds) => change({ untilSeconds })}
      />
      <Choice
        label={`What goes wrong in fault ${number}`}
        value={step.kind}
        of={core.faultKinds.map((kind) => [kind, core.faults[kind].is] as const)}
        onChoose={(kind) => change({ kind: kind as core.FaultKind })}
      />
      <Choice
        label={`Unit of fault ${number}`}
        value={step.deviceId}
        of={devices.map(({ id, name }) => [id, name] as const)}
        onChoose={(deviceId) => change({ deviceId })}
      />
      <td>
        <input
          type="checkbox"
          className="checkbox checkbox-sm"
          aria-label={`Fault ${number} is hidden`}
          checked={step.hidden}
          onChange={(event) => change({ hidden: event.target.checked })}
        />
      </td>
      <td>
        <button type="button" className="act-quiet btn-xs" aria-label={`Take out fault ${number}`} onClick={remove}>
          Take out
        </button>
      </td>
    </tr>
  );
}

function Seconds({
  label,
  value,
  onType,
}: {
  readonly label: string;
  readonly value: number | null;
  readonly onType: (seconds: number | null) => void;
}) {
  return (
    <td>
      <input
        className="field key-num w-20"
        aria-label={label}
        inputMode="numeric"
        placeholder="stays"
        value={value ?? ''}
        onChange={(event) => onType(numberIn(event.target.value))}
      />
    </td>
  );
}

function Choice({
  label,
  value,
  of,
  onChoose,
}: {
  readonly label: string;
  readonly value: string;
  readonly of: Iterable<readonly [string, string]>;
  readonly onChoose: (key: string) => void;
}) {
  return (
    <td>
      <select
        className="field-select"
        aria-label={label}
        value={value}
        onChange={(event) => onChoose(event.target.value)}
      >
        <Options of={of} />
      </select>
    </td>
  );
}

const firstStep = (devices: readonly core.Device[]): Step => ({
  atSeconds: 0,
  untilSeconds: null,
  kind: 'cable_out',
  deviceId: devices[0]?.id ?? '',
  hidden: true,
});

const numberIn = (text: string): number | null => (/^\d{1,6}$/.test(text.trim()) ? Number(text) : null);

const strangers = ({ steps }: contract.RehearsalScript, { devices }: core.Show): string[] =>
  steps.flatMap(({ deviceId }, at) =>
    devices[deviceId] ? [] : [`Fault ${at + 1}: the unit “${deviceId}” is not in this show.`],
  );

const where = (path: readonly PropertyKey[]): string =>
  path[0] === 'steps' && typeof path[1] === 'number' ? `Fault ${path[1] + 1}: ` : '';

function readJson(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return undefined;
  }
}
