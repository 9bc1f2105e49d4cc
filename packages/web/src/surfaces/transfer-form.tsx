import { surfaces, type show as core } from '@deep-patch/core';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import { NumberField } from '../parts/kept-fields.tsx';

interface TransferProps {
  readonly assignment: core.Assignment;
  readonly control: surfaces.SurfaceControl;
  readonly argument: core.Command['args'][number];
  /** The range that was heard of this control, where it was. */
  readonly heard: { readonly least: number; readonly greatest: number } | undefined;
  readonly onEdit: (patch: Partial<core.Content<'assignments'>>) => void;
}

/** How a control's value is carried over: both ranges, the curve, and whether it waits until it comes past. */
export function TransferForm({ assignment, control, argument, heard, onEdit }: TransferProps) {
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
