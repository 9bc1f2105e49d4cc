import { cues as cueRoom, type contract, type show as core } from '@deep-patch/core';
import type { DoOnBench } from '../bench/use-bench.ts';
import { useBenchCount } from '../live/bench-store.ts';
import { useBench } from '../bench/use-bench.ts';
import { useShow } from '../live/workspace.tsx';
import { DeliveryWords } from '../surfaces/delivery-words.tsx';

interface Props {
  readonly run: contract.CueRunState | null | undefined;
  readonly order: readonly core.Cue[];
  readonly act: DoOnBench;
}

/** What comes next, large enough to send it in the dark, and what became of the one before. */
export function RunPanel({ run, order, act }: Props) {
  const show = useShow();
  const count = useBenchCount();
  const { power } = useBench();
  const next = run ? show.cues[run.nextId ?? ''] : order.find(({ enabled }) => enabled);
  return (
    <section className="mb-4 grid gap-2 border-b border-rule pb-4">
      <p className="text-xs text-mute">{run ? 'next' : 'first'}</p>
      <h2 className="text-lg font-bold">{next ? `${next.number} ${next.name}` : 'The list is through'}</h2>
      {next && (
        <p className="text-mute">
          {next.starts.by === 'hand' ? 'by hand' : `${cueRoom.startWords(show, next)}, or by you`}
        </p>
      )}
      {count?.up === 0 && (
        <p className="text-[13px] text-mute">
          Nothing on the bench has power.{' '}
          <button type="button" className="link" onClick={() => void power(Object.keys(show.devices), true)}>
            Switch everything on
          </button>
        </p>
      )}
      <div className="flex flex-wrap gap-2">
        <button
          type="button"
          className="act-main h-11 px-6 text-base"
          disabled={!next}
          onClick={() => next && void act({ act: 'cue_go', cueId: next.id })}
        >
          Send {next?.number}
        </button>
        <button
          type="button"
          className="act h-11"
          disabled={!run || !next}
          onClick={() => void act({ act: 'cue_skip' })}
        >
          Skip
        </button>
        <button type="button" className="act h-11" disabled={!run} onClick={() => void act({ act: 'cue_back' })}>
          Back
        </button>
        <button type="button" className="act h-11" onClick={() => void act({ act: 'cues_from', cueId: null })}>
          From the top
        </button>
        <button
          type="button"
          className="act h-11 border-error text-error"
          onClick={() => void act({ act: 'stop_all', deviceId: null })}
        >
          Stop all
        </button>
      </div>
      <LastOne run={run} />
    </section>
  );
}

function LastOne({ run }: Pick<Props, 'run'>) {
  const show = useShow();
  const last = run?.done.at(-1);
  const before = last && show.cues[last.cueId];
  if (!last || !before) return null;
  return (
    <div className="grid gap-1">
      <p className="text-xs text-mute">the last one, {before.number}</p>
      {last.deliveries.map((delivery, at) => (
        <div key={at} className="grid gap-0.5 text-[13px]">
          <code className="truncate">{delivery.sent || 'nothing was sent'}</code>
          <span className="flex gap-2">
            {show.devices[delivery.targetId]?.name} <DeliveryWords delivery={delivery} />
          </span>
          {delivery.why && <span className="text-warning">{delivery.why}</span>}
        </div>
      ))}
    </div>
  );
}
