import { findings, links as room, show as core } from '@deep-patch/core';
import { useMemo } from 'react';
import { Link } from 'react-router';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import { Empty, Loading } from '../parts/empty.tsx';
import { Mark } from '../parts/mark.tsx';
import { useSound } from './use-sound.ts';

/** Links one behind the other, hop by hop, and the first that is not proven yet. */
export function ChainsView() {
  const show = useShow();
  const { analysis } = useWorkspace();
  const chains = useMemo(() => room.hopChains(show), [show]);
  const { sounding, soundAll, stop } = useSound();
  if (!analysis) return <Loading />;
  if (chains.length === 0)
    return (
      <div className="flex-1">
        <Empty text="No link leads on to another yet. A chain begins where the target of one link is the controller of the next, or where a link says which one it follows." />
      </div>
    );
  return (
    <div
      className="grid min-w-0 flex-1 auto-rows-max grid-cols-[minmax(0,1fr)] content-start gap-3 overflow-auto p-4.5"
      tabIndex={0}
      role="region"
      aria-label="Chains"
    >
      {sounding && (
        <p className="flex items-center gap-3 text-[13px]" aria-live="polite">
          Sounding hop {sounding.done + 1} of {sounding.total}
          <button type="button" className="act btn-xs" onClick={stop}>
            Stop
          </button>
        </p>
      )}
      {chains.map((chain) => (
        <Chain
          key={chain.id}
          chain={chain}
          depths={analysis.depths}
          onSound={() => void soundAll(chain.hops.map(({ id }) => id))}
        />
      ))}
    </div>
  );
}

const marks = {
  proven: ['pass', 'proven', 'text-success'],
  stops: ['fail', 'stops', 'text-error'],
  open: ['waits', 'not sounded', 'text-mute'],
} as const;

function Chain({
  chain,
  depths,
  onSound,
}: {
  readonly chain: room.HopChain;
  readonly depths: ReadonlyMap<string, room.Depth>;
  readonly onSound: () => void;
}) {
  const show = useShow();
  const { showId } = useWorkspace();
  const states = room.hopStates(chain, depths);
  const next = room.firstUnproven(states);
  const nameOf = (id: string) => show.devices[id]?.name ?? '';
  const words = [chain.hops[0]?.controllerId ?? '', ...chain.hops.map(({ targetId }) => targetId)].map(nameOf);
  return (
    <section aria-label={words.join(', ')} className="grid gap-2 rounded-box border border-rule p-3 text-[13px]">
      <ol className="flex flex-wrap items-center gap-x-2 gap-y-1">
        <li className="font-medium">{words[0]}</li>
        {states.map(({ link, state }) => {
          const [mark, word, tone] = marks[state];
          return (
            <li key={link.id} className="flex items-center gap-2">
              <Link className={`${tone} hover:underline`} to={`/shows/${showId}/links/${link.id}`}>
                <Mark state={mark} size={11} /> {word}
                <span aria-hidden> →</span>
              </Link>
              <span className="font-medium">{nameOf(link.targetId)}</span>
            </li>
          );
        })}
      </ol>
      <p className="flex flex-wrap items-center gap-3 text-mute">
        {next
          ? `Next to test: ${nameOf(next.link.controllerId)} to ${nameOf(next.link.targetId)}.`
          : `All ${findings.counted(states.length, 'hop')} are proven, each by itself: now try the whole.`}
        <button type="button" className="act btn-xs" onClick={onSound}>
          Sound hop by hop
        </button>
      </p>
    </section>
  );
}

/** Which link sets this one off, where that is not plain from who controls whom. */
export function afterOptions(show: core.Show, link: core.Link): (readonly [string, string])[] {
  return core
    .rowsOf(show, 'links')
    .filter(({ id }) => id !== link.id)
    .map(({ id, controllerId, targetId }): readonly [string, string] => [
      id,
      `${show.devices[controllerId]?.name ?? ''} → ${show.devices[targetId]?.name ?? ''}`,
    ])
    .sort(([, a], [, b]) => a.localeCompare(b));
}
