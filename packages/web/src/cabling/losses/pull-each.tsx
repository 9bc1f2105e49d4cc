import { findings, show as core, type links } from '@deep-patch/core';
import { useBench } from '../../bench/use-bench.ts';
import { useBenchPart } from '../../live/bench-store.ts';
import { useShow } from '../../live/workspace.tsx';

/** Pulls every run once on the bench, and says whether that did what the plan foretold. */
export function PullEach({ losses }: { readonly losses: readonly links.Loss[] }) {
  const show = useShow();
  const { act, problem } = useBench();
  const pulling = useBenchPart((bench) => bench?.pulling);
  const all = core.rowsOf(show, 'links');
  const must = all.filter(({ mustHold }) => mustHold);
  const linkIds = (must.length > 0 ? must : all).map(({ id }) => id);
  const begin = () => void act({ act: 'pull_each', cableIds: Object.keys(show.cables), linkIds });
  return (
    <section aria-label="On the bench" className="grid gap-1.5 border-t border-rule pt-3 text-[13px]">
      <div className="flex flex-wrap items-center gap-3">
        {pulling?.running ? (
          <>
            <progress
              className="progress w-40 progress-primary"
              value={pulling.done}
              max={Math.max(1, pulling.total)}
              aria-label="Runs pulled"
            />
            <span aria-live="polite">
              {pulling.done} of {pulling.total} pulled
            </span>
            <button type="button" className="act btn-xs" onClick={() => void act({ act: 'stop_pulling' })}>
              Stop
            </button>
          </>
        ) : (
          <button type="button" className="act btn-sm" disabled={linkIds.length === 0} onClick={begin}>
            Pull each in turn
          </button>
        )}
        <span className="text-mute">
          On the bench each run is pulled once, {findings.counted(linkIds.length, 'link')} sounded, and it is plugged in
          again.
        </span>
      </div>
      {problem && <p className="text-error">{problem.message}</p>}
      {pulling && <Outcome losses={losses} />}
    </section>
  );
}

function Outcome({ losses }: { readonly losses: readonly links.Loss[] }) {
  const show = useShow();
  const pulling = useBenchPart((bench) => bench?.pulling);
  if (!pulling || pulling.results.length === 0) return null;
  const foretold = new Map(losses.map(({ kind, id, stops }) => [`${kind} ${id}`, new Set(stops)]));
  const other = pulling.results.filter(({ cableId, stops }) =>
    stops.some((id) => !foretold.get(`run ${cableId}`)?.has(id)),
  );
  const stopping = pulling.results.filter(({ stops }) => stops.length > 0).length;
  const isOld = pulling.rev !== show.rev;
  return (
    <p>
      {stopping === 0
        ? `All held: ${findings.counted(pulling.results.length, 'run')} pulled, no link stopped.`
        : `${stopping} of ${findings.counted(pulling.results.length, 'run')} stopped a link.`}{' '}
      {other.length > 0 ? (
        <span className="text-error">
          {findings.counted(other.length, 'run')} stopped one that the plan does not foretell.
        </span>
      ) : (
        <span className="text-mute">Nothing stopped that is not foretold.</span>
      )}
      {pulling.stopped && <span className="text-mute"> Ended before all were pulled.</span>}
      {isOld && !pulling.running && <span className="text-warning"> The plan has changed since.</span>}
    </p>
  );
}
