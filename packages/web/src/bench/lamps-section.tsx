import { type contract, links as linkRoom } from '@deep-patch/core';
import { Link } from 'react-router';
import { useNow } from '../parts/use-now.ts';
import { useShow, useWorkspace } from '../live/workspace.tsx';

const tones: Readonly<Record<linkRoom.LampReading['verdict'], string>> = {
  consistent: 'text-mute',
  misleading: 'text-warning',
  untested: 'text-mute',
};

/** A controller's own lamps, each beside what the last sounding of its link says of it. */
export function LampsSection({ lamps }: { lamps: contract.StandinState['lamps'] }) {
  const show = useShow();
  const { analysis, seen, showId } = useWorkspace();
  const now = useNow(10_000);
  if (lamps.length === 0) return null;
  return (
    <section className="grid gap-1.5">
      <h3 className="text-xs font-semibold text-mute">Its own lamps, and what they are worth</h3>
      {lamps.map((lamp) => {
        const { linkId, lit } = lamp;
        const reading = linkRoom.statusAgainstEffect(lamp, seen.soundings[linkId], {
          now,
          changedSince: analysis?.depths.get(linkId)?.stale ?? false,
        });
        return (
          <p key={linkId} className="grid grid-cols-[auto_1fr] items-baseline gap-x-2">
            <span
              aria-hidden
              className={`size-2.5 rounded-full ${lit ? 'bg-success' : lamp.shows === 'there' ? 'border-2 border-warning bg-warning/40' : 'border border-mute'} translate-y-px`}
            />
            <Link className="truncate hover:underline" to={`/shows/${showId}/links/${linkId}`}>
              {show.devices[show.links[linkId]?.targetId ?? '']?.name}
            </Link>
            <span className={`col-start-2 text-xs ${tones[reading.verdict]}`}>{linkRoom.lampWords(lamp, reading)}</span>
          </p>
        );
      })}
    </section>
  );
}
