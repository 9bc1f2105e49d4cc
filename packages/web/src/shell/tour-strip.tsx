import { X } from 'lucide-react';
import { useNavigate } from 'react-router';
import { useWorkspace } from '../live/workspace.tsx';
import { goToStop, moveToStop, stops, useStop } from './tour.ts';

/** One stop of the tour, above the screen that it is about; it can be left at any time and covers nothing. */
export function TourStrip() {
  const { showId } = useWorkspace();
  const navigate = useNavigate();
  const at = useStop(showId);
  const stop = at === undefined ? undefined : stops[at];
  if (at === undefined || !stop) return null;
  // only once its screen is there: who reloads meanwhile would be told of a stop and see the one before
  const go = async (next: number) => {
    await navigate(`/shows/${showId}/${stops[next]?.path ?? ''}`);
    moveToStop({ showId, at: next });
  };
  const isLast = at === stops.length - 1;
  return (
    <section
      aria-label="Tour"
      className="flex flex-wrap items-center gap-x-3 gap-y-1.5 border-b border-primary bg-base-300 px-4 py-2 text-[13px]"
    >
      <p className="min-w-64 flex-1" aria-live="polite">
        <b>
          {at + 1} of {stops.length} · {stop.title}.
        </b>{' '}
        {stop.text}
      </p>
      {at > 0 && (
        <button type="button" className="act-quiet" onClick={() => void go(at - 1)}>
          Back
        </button>
      )}
      {isLast ? (
        <button type="button" className="act-main" onClick={() => goToStop(undefined)}>
          End the tour
        </button>
      ) : (
        <button type="button" className="act-main" onClick={() => void go(at + 1)}>
          Next: {stops[at + 1]?.title}
        </button>
      )}
      <button
        type="button"
        className="btn btn-ghost btn-xs btn-square"
        aria-label="Leave the tour"
        onClick={() => goToStop(undefined)}
      >
        <X size={13} aria-hidden />
      </button>
    </section>
  );
}
