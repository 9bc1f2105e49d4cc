import { surfaces, type contract, type show as core } from '@deep-patch/core';
import { useState } from 'react';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import { Mark } from '../parts/mark.tsx';
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

const outcomes = {
  done: ['pass', 'did it'],
  refused: ['risky', 'arrived, nothing done'],
  not_arrived: ['fail', 'did not arrive'],
  not_sent: ['fail', 'was not sent'],
} as const;

/** Sent, arrived, done: three different things (need 8.4). */
export function DeliveryWords({ delivery }: { readonly delivery: contract.Delivery }) {
  const [mark, words] = outcomes[delivery.outcome];
  const ms = delivery.doneMs ?? delivery.arrivedMs;
  return (
    <span className="text-xs text-mute" title={delivery.why}>
      <Mark state={mark} size={12} /> {words}
      {ms !== null && ` after ${Math.round(ms * 10) / 10} ms`}
    </span>
  );
}

function ReachWords({
  control,
  transfer,
  argument,
}: {
  readonly control: surfaces.SurfaceControl;
  readonly transfer: core.Transfer | null;
  readonly argument: core.Command['args'][number];
}) {
  const { least, middle, greatest, share } = surfaces.reached(transfer, control, argument);
  const unit = argument.unit ? ` ${argument.unit}` : '';
  const shown = (value: number) => `${Math.round(value * 100) / 100}${unit}`;
  return (
    <table className="w-full text-[13px]">
      <thead className="text-left text-xs text-mute">
        <tr>
          <th className="font-normal">control</th>
          <th className="font-normal">{control.least}</th>
          <th className="font-normal">middle</th>
          <th className="font-normal">{control.greatest}</th>
        </tr>
      </thead>
      <tbody className="key-num">
        <tr>
          <th className="text-left font-sans font-normal text-mute">{argument.name}</th>
          <td>{shown(least)}</td>
          <td>{shown(middle)}</td>
          <td>{shown(greatest)}</td>
        </tr>
      </tbody>
      {share !== null && (
        <caption className="caption-bottom pt-1 text-left text-xs text-mute">
          It reaches {Math.round(share * 100)} % of what {argument.name} could be.
        </caption>
      )}
    </table>
  );
}

interface TransferProps {
  readonly assignment: core.Assignment;
  readonly control: surfaces.SurfaceControl;
  readonly argument: core.Command['args'][number];
  readonly heard: Props['heard'];
  readonly onEdit: (patch: Partial<core.Content<'assignments'>>) => void;
}

function TransferForm({ assignment, control, argument, heard, onEdit }: TransferProps) {
  const show = useShow();
  const { save } = useWorkspace();
  const transfer = assignment.transfer ?? surfaces.endToEnd(control, argument);
  if (!transfer) return null;
  const set = (patch: Partial<core.Transfer>) => onEdit({ transfer: { ...transfer, ...patch } });
  return (
    <div className="grid gap-2">
      <TransferNumbers {...{ transfer, argument, set }} />
      {transfer.curve === 'table' && <TablePoints points={transfer.points} onEdit={(points) => set({ points })} />}
      <div className="flex flex-wrap gap-2">
        <button
          type="button"
          className="act-main"
          onClick={() => void save(surfaces.planScale(show, assignment, argument))}
        >
          Scale it end to end
        </button>
        <button type="button" className="act" onClick={() => set({ toMin: transfer.toMax, toMax: transfer.toMin })}>
          Turn it round
        </button>
        <button
          type="button"
          className="act"
          aria-pressed={transfer.curve === 'table'}
          onClick={() => set(transfer.curve === 'table' ? { curve: 'straight' } : { curve: 'table', points: gentle })}
        >
          {transfer.curve === 'table' ? 'Straight again' : 'Gentle at the start'}
        </button>
        <button
          type="button"
          className="act"
          aria-pressed={transfer.pickUp === 'when_passed'}
          onClick={() => set({ pickUp: transfer.pickUp === 'jump' ? 'when_passed' : 'jump' })}
        >
          {transfer.pickUp === 'jump' ? 'Jumps to the control' : 'Picked up when passed'}
        </button>
        {heard && heard.least !== heard.greatest && (
          <button type="button" className="act" onClick={() => set({ fromMin: heard.least, fromMax: heard.greatest })}>
            Use the heard range {heard.least} to {heard.greatest}
          </button>
        )}
      </div>
    </div>
  );
}

function TransferNumbers({
  transfer,
  argument,
  set,
}: {
  readonly transfer: core.Transfer;
  readonly argument: TransferProps['argument'];
  readonly set: (patch: Partial<core.Transfer>) => void;
}) {
  const ends = [
    ['fromMin', 'control from', transfer.fromMax],
    ['fromMax', 'to', transfer.fromMin],
    ['toMin', `${argument.name} from`, undefined],
    ['toMax', 'to', undefined],
  ] as const;
  return (
    <div className="grid grid-cols-4 gap-2">
      {ends.map(([key, label, other]) => (
        <NumberField
          key={key}
          label={label}
          value={transfer[key]}
          refuse={(value) => value === other}
          wrong="the range would have no width"
          onKeep={(value) => value !== null && set({ [key]: value })}
        />
      ))}
      <NumberField
        label="step"
        value={transfer.step}
        onKeep={(step) => set({ step: step === null || step <= 0 ? null : step })}
      />
      <NumberField
        label="dead, %"
        value={transfer.dead * 100}
        onKeep={(dead) => set({ dead: Math.min(45, Math.max(0, dead ?? 0)) / 100 })}
      />
      <NumberField label="not below" value={transfer.low} onKeep={(low) => set({ low })} />
      <NumberField label="not above" value={transfer.high} onKeep={(high) => set({ high })} />
    </div>
  );
}

/** The table of a curve in shares of both ranges; each point lies between its neighbours. */
function TablePoints({
  points,
  onEdit,
}: {
  readonly points: core.Transfer['points'];
  readonly onEdit: (points: core.Transfer['points']) => void;
}) {
  const put = (at: number, patch: Partial<core.Transfer['points'][number]>) =>
    onEdit(points.map((point, n) => (n === at ? { ...point, ...patch } : point)));
  const between = (at: number, value: number) =>
    value > (points[at - 1]?.at ?? -1) && value < (points[at + 1]?.at ?? 2) && value >= 0 && value <= 1;
  return (
    <ol className="grid gap-1.5" aria-label="Points of the curve">
      {points.map((point, at) => (
        <li key={at} className="flex items-end gap-2">
          <NumberField
            label={`point ${at + 1} at, %`}
            value={point.at * 100}
            refuse={(value) => !between(at, value / 100)}
            onKeep={(value) => value !== null && put(at, { at: value / 100 })}
          />
          <NumberField
            label="gives, %"
            value={point.to * 100}
            refuse={(value) => value < 0 || value > 100}
            onKeep={(value) => value !== null && put(at, { to: value / 100 })}
          />
          <button
            type="button"
            className="act-quiet"
            disabled={points.length < 3}
            onClick={() => onEdit(points.filter((_, n) => n !== at))}
          >
            Out
          </button>
        </li>
      ))}
      <button type="button" className="act-quiet justify-self-start" onClick={() => onEdit(withOneMore(points))}>
        One more point
      </button>
    </ol>
  );
}

/** A point more in the widest gap, on the line between its neighbours. */
function withOneMore(points: core.Transfer['points']): core.Transfer['points'] {
  const gaps = points.slice(1).map((point, n) => point.at - (points[n]?.at ?? 0));
  const at = gaps.indexOf(Math.max(...gaps));
  const [before, after] = [points[at], points[at + 1]];
  if (!before || !after || points.length >= 32) return points;
  const middle = { at: (before.at + after.at) / 2, to: (before.to + after.to) / 2 };
  return [...points.slice(0, at + 1), middle, ...points.slice(at + 1)];
}

/** A curve that is fine where it begins: a quarter of the effect at half of the way. */
const gentle = [
  { at: 0, to: 0 },
  { at: 0.25, to: 0.06 },
  { at: 0.5, to: 0.25 },
  { at: 0.75, to: 0.56 },
  { at: 1, to: 1 },
];

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

export function NumberField({
  label,
  value,
  refuse,
  wrong,
  onKeep,
}: {
  readonly label: string;
  /** What is wrong with a value that is refused. */
  readonly wrong?: string;
  readonly value: number | null;
  readonly refuse?: ((value: number) => boolean) | undefined;
  readonly onKeep: (value: number | null) => void;
}) {
  const [typed, setTyped] = useState<string>();
  const text = typed ?? (value === null ? '' : String(Math.round(value * 1e6) / 1e6));
  const number = text.trim() === '' ? null : Number(text.replace(',', '.'));
  const isWrong = number !== null && (Number.isNaN(number) || refuse?.(number) === true);
  const keep = () => {
    if (typed === undefined) return;
    setTyped(undefined);
    if (!isWrong) onKeep(number);
  };
  return (
    <label className="grid min-w-0 gap-0.5 text-xs text-mute">
      <span className="truncate">{label}</span>
      <input
        className={`field key-num h-7 ${isWrong ? 'border-error' : ''}`}
        inputMode="decimal"
        value={text}
        aria-invalid={isWrong}
        onChange={(event) => setTyped(event.target.value)}
        onBlur={keep}
        onKeyDown={(event) => event.key === 'Enter' && keep()}
      />
      {isWrong && <span className="text-error">{Number.isNaN(number) ? 'a number' : (wrong ?? 'not this value')}</span>}
    </label>
  );
}

function TextField({
  label,
  value,
  onKeep,
}: {
  readonly label: string;
  readonly value: string;
  readonly onKeep: (value: string) => void;
}) {
  const [typed, setTyped] = useState<string>();
  return (
    <label className="grid gap-0.5 text-xs text-mute">
      {label}
      <input
        className="field h-7"
        value={typed ?? value}
        maxLength={200}
        onChange={(event) => setTyped(event.target.value)}
        onBlur={() => {
          if (typed !== undefined) onKeep(typed);
          setTyped(undefined);
        }}
      />
    </label>
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
