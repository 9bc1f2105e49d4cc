import { type contract, show as core } from '@deep-patch/core';
import { Link } from 'react-router';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import { Mark } from '../parts/mark.tsx';
import { Elapsed, GuessForm, timeWords } from './guess-form.tsx';
import type { DoOnBench } from './use-bench.ts';

/** A rehearsal under way or over: where it shows, the guess, and what it was. */
export function RehearsalStrip({ rehearsal, act }: { rehearsal: contract.RehearsalState; act: DoOnBench }) {
  const show = useShow();
  const { showId } = useWorkspace();
  const link = show.links[rehearsal.linkId];
  const name = (id: string | null) => (id === null ? '' : (show.devices[id]?.name ?? 'a unit that is gone'));
  const { result } = rehearsal;
  return (
    <section aria-label="Rehearsal" className="border-b border-rule bg-base-200 px-4.5 py-2.5" aria-live="polite">
      {result ? (
        <p className="flex flex-wrap items-center gap-2">
          <Mark state={result.right ? 'pass' : 'fail'} />
          <span className="mr-auto">
            {result.right ? 'Right' : result.guessedKind === null ? 'Given up' : 'Not that'}: it was{' '}
            <b>
              {core.faults[result.kind].is} at {name(result.deviceId)}
            </b>
            {result.guessedKind !== null &&
              !result.right &&
              `, not ${core.faults[result.guessedKind].is} at ${name(result.guessedDeviceId)}`}
            . {timeWords(result.tookMs)} from start to answer. It is mended.
          </span>
          <button type="button" className="act" onClick={() => void act({ act: 'rehearse' })}>
            Another one
          </button>
          <button type="button" className="act-quiet" onClick={() => void act({ act: 'end_rehearsal' })}>
            Done
          </button>
        </p>
      ) : (
        <div className="flex flex-wrap items-end gap-3">
          <p className="mr-auto max-w-md">
            Something is broken: <b>{name(link?.controllerId ?? null)}</b> no longer drives{' '}
            <b>{name(link?.targetId ?? null)}</b>.{' '}
            <Link className="link" to={`/shows/${showId}/links/${rehearsal.linkId}`}>
              Sound it
            </Link>
            , watch the tap, look at the units. <Elapsed since={rehearsal.startedAt} />
          </p>
          <GuessForm
            act="guess"
            onAct={act}
            deviceId={link?.targetId}
            giveUp={() => void act({ act: 'give_up' })}
            giveUpLabel="Tell me"
          />
        </div>
      )}
    </section>
  );
}
