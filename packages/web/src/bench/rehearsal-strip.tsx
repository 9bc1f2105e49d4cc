import { show as core } from '@deep-patch/core';
import { useEffect, useState } from 'react';
import { Link } from 'react-router';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import { Mark } from '../parts/mark.tsx';
import { faultKinds, faultWords } from './fault-words.ts';
import type { Act } from './use-bench.ts';

/** A rehearsal under way or over: where it shows, the guess, and what it was. */
export function RehearsalStrip({ rehearsal, act }: { rehearsal: core.RehearsalState; act: Act }) {
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
              {faultWords[result.kind][1]} at {name(result.deviceId)}
            </b>
            {result.guessedKind !== null &&
              !result.right &&
              `, not ${faultWords[result.guessedKind][1]} at ${name(result.guessedDeviceId)}`}
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
          <Guess act={act} deviceIds={link ? [link.targetId, link.controllerId] : []} />
        </div>
      )}
    </section>
  );
}

function Guess({ act, deviceIds }: { act: Act; deviceIds: readonly string[] }) {
  const show = useShow();
  const [kind, setKind] = useState<string>('');
  const [deviceId, setDeviceId] = useState(deviceIds[0] ?? '');
  return (
    <form
      className="flex flex-wrap items-end gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        void act({ act: 'guess', kind, deviceId });
      }}
    >
      <label className="grid gap-1 text-xs text-mute">
        What is wrong
        <select className="field-select h-8 w-48" value={kind} onChange={(event) => setKind(event.target.value)}>
          <option value="">choose</option>
          {faultKinds.map((each) => (
            <option key={each} value={each}>
              {faultWords[each][1]}
            </option>
          ))}
        </select>
      </label>
      <label className="grid gap-1 text-xs text-mute">
        At which unit
        <select
          className="field-select h-8 w-44"
          value={deviceId}
          onChange={(event) => setDeviceId(event.target.value)}
        >
          {core.devicesByName(show).map(({ id, name }) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </select>
      </label>
      <button type="submit" className="act-main" disabled={kind === '' || deviceId === ''}>
        That is it
      </button>
      <button type="button" className="act-quiet" onClick={() => void act({ act: 'give_up' })}>
        Tell me
      </button>
    </form>
  );
}

function Elapsed({ since }: { since: number }) {
  const [now, setNow] = useState(() => Date.now());
  useEffect(() => {
    const timer = setInterval(() => setNow(Date.now()), 1000);
    return () => clearInterval(timer);
  }, []);
  return <span className="text-mute">{timeWords(Math.max(0, now - since))} so far.</span>;
}

function timeWords(ms: number): string {
  const seconds = Math.round(ms / 1000);
  return seconds < 60 ? `${seconds} s` : `${Math.floor(seconds / 60)} min ${seconds % 60} s`;
}
