import { surfaces, type contract, type show as core } from '@deep-patch/core';
import { useState } from 'react';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import { NumberField, TextField } from '../parts/kept-fields.tsx';
import { DeliveryWords } from './delivery-words.tsx';
import { ReachWords } from './reach-words.tsx';
import { TransferForm } from './transfer-form.tsx';
import { TransferPlot } from './transfer-plot.tsx';

interface Props {
  readonly control: surfaces.SurfaceControl;
  readonly meaning: surfaces.Meaning;
  readonly state: contract.ControlState | undefined;
  /** The range that was heard of this control, where it was. */
  readonly heard: { readonly least: number; readonly greatest: number } | undefined;
}

/** One thing that a control does: to whom, with what, how its value is carried over, and what became of it. */
export function MeaningCard({ control, meaning, state, heard }: Props) {
  const show = useShow();
  const { save } = useWorkspace();
  const { assignment, bank, offer, drives, transfer } = meaning;
  const edit = (patch: Partial<core.Content<'assignments'>>) =>
    assignment && void save(surfaces.planEditAssignment(show, assignment, patch));
  return (
    <article className="grid gap-2 border-b border-rule pb-3">
      <div className="flex items-center gap-2">
        <h3 className="min-w-0 flex-1 truncate font-semibold">{surfaces.meaningWords(show, meaning)}</h3>
        {state?.delivery && <DeliveryWords delivery={state.delivery} />}
      </div>
      {offer && (
        <p className="text-mute">
          of {offer.target.name} over {offer.service.label}
        </p>
      )}
      {bank && <p className="text-mute">by the channels that this surface covers</p>}
      {drives && drives.type !== 'T' && (
        <>
          <TransferPlot {...{ transfer, control }} argument={drives} value={state?.value ?? null} />
          <ReachWords {...{ control, transfer }} argument={drives} />
          {assignment && <TransferForm {...{ assignment, control, heard }} argument={drives} onEdit={edit} />}
        </>
      )}
      {assignment && offer && <FixedValues {...{ assignment, offer, drives }} onEdit={edit} />}
      {assignment && (
        <div className="flex flex-wrap items-center gap-2">
          <LabelField label={assignment.label} onKeep={(label) => edit({ label })} />
          {offer && (offer.service.feedback?.length ?? 0) > 0 && (
            <select
              className="field-select h-8 w-40"
              aria-label="What its lamp shows"
              value={assignment.feedback ?? ''}
              onChange={(event) => edit({ feedback: event.target.value || null })}
            >
              <option value="">lit while that is so</option>
              {offer.service.feedback?.map(({ key, label }) => (
                <option key={key} value={key}>
                  lamp: {label}
                </option>
              ))}
            </select>
          )}
          <button type="button" className="act-quiet" onClick={() => void save(surfaces.planClear(show, [assignment]))}>
            Clear
          </button>
        </div>
      )}
    </article>
  );
}

/** Values that are sent as they are, each typed exactly, with its neutral value at hand (need 8.19). */
function FixedValues({
  assignment,
  offer,
  drives,
  onEdit,
}: {
  readonly assignment: core.Assignment;
  readonly offer: surfaces.Offer;
  readonly drives: core.Command['args'][number] | undefined;
  readonly onEdit: (patch: Partial<core.Content<'assignments'>>) => void;
}) {
  const set = (at: number, value: core.Assignment['args'][number]) =>
    onEdit({ args: offer.command.args.map(({ example }, n) => (n === at ? value : (assignment.args[n] ?? example))) });
  return (
    <div className="grid gap-1.5">
      {offer.command.args.map((argument, at) => {
        if (argument.name === drives?.name) return null;
        const value = assignment.args[at] ?? argument.example;
        if (typeof value === 'number')
          return (
            <div key={argument.name} className="flex items-end gap-2">
              <NumberField
                label={`${argument.name}${argument.unit ? `, ${argument.unit}` : ''}`}
                value={value}
                onKeep={(next) => next !== null && set(at, next)}
              />
              {argument.neutral !== undefined && (
                <button type="button" className="act-quiet" onClick={() => set(at, argument.neutral ?? 0)}>
                  Neutral {argument.neutral}
                </button>
              )}
            </div>
          );
        if (typeof value === 'boolean')
          return (
            <label key={argument.name} className="flex items-center gap-2">
              <input
                type="checkbox"
                className="checkbox checkbox-sm"
                checked={value}
                onChange={(event) => set(at, event.target.checked)}
              />
              {argument.name}
            </label>
          );
        return <TextField key={argument.name} label={argument.name} value={value} onKeep={(text) => set(at, text)} />;
      })}
    </div>
  );
}

function LabelField({ label, onKeep }: { readonly label: string; readonly onKeep: (label: string) => void }) {
  const [typed, setTyped] = useState<string>();
  return (
    <input
      className="field h-8 w-36"
      aria-label="What stands on it"
      placeholder="what stands on it"
      maxLength={80}
      value={typed ?? label}
      onChange={(event) => setTyped(event.target.value)}
      onBlur={() => {
        if (typed !== undefined && typed !== label) onKeep(typed);
        setTyped(undefined);
      }}
    />
  );
}
