import { cabling, type links as linkRoom, type show as core } from '@deep-patch/core';
import { useMemo } from 'react';
import { Link } from 'react-router';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import { Empty, Loading } from '../parts/empty.tsx';

const mostNamed = 6;

interface Known {
  /** Undefined while they are worked out. */
  readonly losses: readonly linkRoom.Loss[] | undefined;
}

/** If this goes: what each run and each unit takes down, what most hangs on first. */
export function LossesView({ filter, losses }: Known & { readonly filter: string }) {
  const show = useShow();
  const shown = useMemo(() => {
    const words = filter.toLowerCase().split(/\s+/).filter(Boolean);
    return losses?.filter((loss) => words.every((word) => nameOf(show, loss).toLowerCase().includes(word)));
  }, [show, losses, filter]);
  if (!losses || !shown) return <Loading />;
  if (losses.length === 0)
    return (
      <div className="flex-1">
        <Empty text="No link reaches the bottom yet, so there is nothing that a loss could take down. Mend what stops the links first." />
      </div>
    );
  return (
    <div className="min-w-0 flex-1 overflow-auto" tabIndex={0} role="region" aria-label="If this goes">
      <table className="w-full text-[13px]">
        <thead>
          <tr className="border-b border-rule bg-base-200 text-left text-xs text-faint">
            <th scope="col" className="px-3 py-1.5">
              If this goes
            </th>
            <th scope="col" className="w-24 px-3">
              links stop
            </th>
            <th scope="col" className="px-3">
              which
            </th>
          </tr>
        </thead>
        <tbody>
          {shown.map((loss) => (
            <LossRow key={`${loss.kind} ${loss.id}`} loss={loss} />
          ))}
        </tbody>
      </table>
      {shown.length === 0 && <p className="px-3 py-2 text-mute">Nothing by that name takes a link down.</p>}
    </div>
  );
}

function LossRow({ loss }: { readonly loss: linkRoom.Loss }) {
  const show = useShow();
  const { showId } = useWorkspace();
  const { kind, id, stops } = loss;
  return (
    <tr className="border-b border-rule align-baseline">
      <th scope="row" className="px-3 py-1.5 text-left font-medium">
        <Link
          className="hover:underline"
          to={kind === 'run' ? `/shows/${showId}/cabling/${id}?see=losses` : `/shows/${showId}/rig/${id}`}
        >
          {nameOf(show, loss)}
        </Link>
      </th>
      <td className="px-3 py-1.5 font-mono text-error">{stops.length}</td>
      <td className="px-3 py-1.5">
        {stops.slice(0, mostNamed).map((linkId, at) => (
          <span key={linkId}>
            {at > 0 && ', '}
            <Link className="hover:underline" to={`/shows/${showId}/links/${linkId}`}>
              {linkName(show, linkId)}
            </Link>
          </span>
        ))}
        {stops.length > mostNamed && <span className="text-mute"> and {stops.length - mostNamed} more</span>}
      </td>
    </tr>
  );
}

/** Without this run: the links that stop, or that none does. */
export function WithoutIt({ runId, losses }: Known & { readonly runId: string }) {
  const show = useShow();
  const { showId } = useWorkspace();
  if (!losses) return <p className="text-[13px] text-mute">Working out what stops without it</p>;
  const stops = losses.find(({ kind, id }) => kind === 'run' && id === runId)?.stops ?? [];
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

function nameOf(show: core.Show, { kind, id }: linkRoom.Loss): string {
  if (kind === 'unit') return show.devices[id]?.name ?? '';
  const cable = show.cables[id];
  return cable ? `run ${cabling.runWords(show, cable)}` : '';
}

function linkName(show: core.Show, linkId: string): string {
  const link = show.links[linkId];
  const nameAt = (id: string | undefined) => show.devices[id ?? '']?.name ?? '';
  return `${nameAt(link?.controllerId)} → ${nameAt(link?.targetId)}`;
}
