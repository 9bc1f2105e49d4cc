import type { links } from '@deep-patch/core';
import { useState } from 'react';
import { Link } from 'react-router';
import { useShow, useWorkspace } from '../../live/workspace.tsx';
import { linkName, lossKey, lossName, lossOfKey, mustHoldOf } from './loss-words.ts';
import { useLossAnswer } from './use-losses.ts';

interface Props {
  readonly losses: readonly links.Loss[];
  readonly chosen: links.Lost | undefined;
}

const mostNamed = 8;

/** What stops with the loss that was chosen, and with a second one at the same time. */
export function LossAnswer({ losses, chosen }: Props) {
  const show = useShow();
  const [also, setAlso] = useState('');
  const second = lossOfKey(also);
  const isTwo = chosen !== undefined && second !== undefined && lossKey(second) !== lossKey(chosen);
  const both = useLossAnswer<'together'>(show, isTwo ? { ask: 'together', lost: [chosen, second] } : undefined);
  if (!chosen)
    return <p className="text-[13px] text-mute">Choose what goes, here or in the picture: what would stop fades.</p>;
  const own = losses.find((loss) => lossKey(loss) === lossKey(chosen))?.stops ?? [];
  const stops = isTwo ? both : own;
  return (
    <div className="grid gap-2 text-[13px]">
      <h2 className="text-[15px]">
        <b>
          Without {lossName(show, chosen)}
          {isTwo && second && ` and ${lossName(show, second)}`}, {stops ? countWords(stops.length) : 'working it out'}.
        </b>{' '}
        {stops && stops.length > 0 && (
          <span className="text-mute">
            {mustHoldOf(show, stops) > 0
              ? `${mustHoldOf(show, stops)} of them must hold.`
              : 'None of them has to hold.'}
          </span>
        )}
      </h2>
      {stops && <Stops stops={stops} />}
      <label className="flex flex-wrap items-center gap-2 text-mute">
        and at the same time
        <select
          aria-label="And at the same time"
          className="field-select h-7 max-w-72"
          value={also}
          onChange={(event) => setAlso(event.target.value)}
        >
          <option value="">nothing else</option>
          {losses
            .filter((loss) => lossKey(loss) !== lossKey(chosen))
            .map((loss) => (
              <option key={lossKey(loss)} value={lossKey(loss)}>
                {lossName(show, loss)}
              </option>
            ))}
        </select>
      </label>
    </div>
  );
}

const countWords = (count: number): string =>
  count === 0 ? 'no link stops' : count === 1 ? 'one link stops' : `${count} links stop`;

/** Those that must hold first, then the others. */
function Stops({ stops }: { readonly stops: readonly string[] }) {
  const show = useShow();
  const must = stops.filter((id) => show.links[id]?.mustHold);
  const others = stops.filter((id) => !show.links[id]?.mustHold);
  return (
    <div className="grid gap-x-6 gap-y-1 sm:grid-cols-2">
      {must.length > 0 && <Named title="must hold" links={must} />}
      {others.length > 0 && <Named title={must.length > 0 ? 'the others' : ''} links={others} />}
    </div>
  );
}

function Named({ title, links }: { readonly title: string; readonly links: readonly string[] }) {
  const show = useShow();
  const { showId } = useWorkspace();
  const [isWhole, setIsWhole] = useState(false);
  const named = isWhole ? links : links.slice(0, mostNamed);
  return (
    <div>
      {title && <h3 className="text-xs text-mute">{title}</h3>}
      <ul>
        {named.map((linkId) => (
          <li key={linkId} className="truncate" title={linkName(show, linkId)}>
            <Link className="hover:underline" to={`/shows/${showId}/links/${linkId}`}>
              {linkName(show, linkId)}
            </Link>
          </li>
        ))}
        {named.length < links.length && (
          <li>
            <button type="button" className="link text-mute" onClick={() => setIsWhole(true)}>
              and {links.length - named.length} more
            </button>
          </li>
        )}
      </ul>
    </div>
  );
}
