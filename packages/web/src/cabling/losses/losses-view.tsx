import type { links } from '@deep-patch/core';
import { useMemo } from 'react';
import { Link, useSearchParams } from 'react-router';
import { useBenchPart } from '../../live/bench-store.ts';
import { useShow, useWorkspace } from '../../live/workspace.tsx';
import { hasWords } from '../../parts/has-words.ts';
import { Empty, Loading } from '../../parts/empty.tsx';
import { PictureView } from '../picture/picture-view.tsx';
import { LossAnswer } from './loss-answer.tsx';
import { LossList } from './loss-list.tsx';
import type { LossAnswers } from './losses.worker.ts';
import { linkName, lossKey, lossName, lossOfKey } from './loss-words.ts';
import { Prevent } from './prevent.tsx';
import { PullEach } from './pull-each.tsx';

interface Known {
  /** Undefined while they are worked out. */
  readonly known: LossAnswers['each'] | undefined;
}

/** If this goes: the picture with what stands still, what each loss takes down, and what would prevent it. */
export function LossesView({ filter, known }: Known & { readonly filter: string }) {
  const show = useShow();
  const [query, setQuery] = useSearchParams();
  const chosen = lossOfKey(query.get('lost'));
  const pulled = useBenchPart((bench) => bench?.pulling?.results);
  const shown = useMemo(() => {
    const isMeant = hasWords(filter);
    return known?.losses.filter((loss) => isMeant(lossName(show, loss)));
  }, [show, known, filter]);
  if (!known || !shown) return <Loading />;
  if (known.losses.length === 0)
    return (
      <div className="flex-1">
        <Empty text="No link reaches the bottom yet, so there is nothing that a loss could take down. Mend what stops the links first." />
      </div>
    );
  const choose = (lost: links.Lost | undefined) => setQuery({ see: 'losses', ...(lost && { lost: lossKey(lost) }) });
  return (
    <div className="flex min-w-0 flex-1 flex-col overflow-y-auto">
      <div className="flex h-96 shrink-0 lg:h-auto lg:min-h-72 lg:flex-1">
        <PictureView
          filter=""
          lost={{ ways: known.ways, losses: known.losses, chosen, onRun: (id) => choose({ kind: 'run', id }) }}
        />
      </div>
      <div className="grid shrink-0 border-t border-line lg:max-h-[46%] lg:min-h-52 lg:grid-cols-[minmax(22rem,5fr)_6fr]">
        <LossList losses={shown} pulled={pulled} chosen={chosen} onChoose={choose} />
        <section aria-label="What stops" className="grid content-start gap-3 overflow-y-auto p-4">
          <LossAnswer losses={known.losses} chosen={chosen} />
          <Prevent />
          <PullEach losses={known.losses} />
        </section>
      </div>
    </div>
  );
}

/** Without this run: the links that stop, or that none does. */
export function WithoutIt({ runId, known }: Known & { readonly runId: string }) {
  const show = useShow();
  const { showId } = useWorkspace();
  if (!known) return <p className="text-[13px] text-mute">Working out what stops without it</p>;
  const stops = known.losses.find(({ kind, id }) => kind === 'run' && id === runId)?.stops ?? [];
  if (stops.length === 0)
    return <p className="text-[13px] text-mute">Without it no link stops that reaches the bottom now.</p>;
  return (
    <div className="text-[13px]">
      <b>Without it {stops.length === 1 ? 'one link stops' : `${stops.length} links stop`}.</b>
      <ul>
        {stops.slice(0, 12).map((linkId) => (
          <li key={linkId}>
            <Link className="hover:underline" to={`/shows/${showId}/links/${linkId}`}>
              {linkName(show, linkId)}
            </Link>
          </li>
        ))}
        {stops.length > 12 && <li className="text-mute">and {stops.length - 12} more</li>}
      </ul>
    </div>
  );
}
