import { bringup, rig, show as core, type Show } from '@deep-patch/core';
import { useState } from 'react';
import { api, asProblem } from '../live/api.ts';
import { takeBench } from '../live/bench-store.ts';
import { useNotices } from '../live/notices.tsx';
import { useWorkspace } from '../live/workspace.tsx';
import type { contract } from '@deep-patch/core';
import { ownName } from './own-name.ts';

type Accepted = NonNullable<core.Progress['accepted']>;

interface Props {
  readonly show: Show;
  readonly plan: bringup.BringUp;
}

/** The end: everything off, on again in the power order, every link sounded, and the result kept with its date. */
export function Acceptance({ show, plan }: Props) {
  const { showId, save } = useWorkspace();
  const { tell } = useNotices();
  const [doing, setDoing] = useState<string>();
  const computerId = plan.computer?.id ?? '';
  const accepted = show.progress[computerId]?.accepted ?? undefined;
  const run = async () => {
    try {
      const links = await coldStart(show, showId, setDoing);
      await save(bringup.planAccept(show, computerId, links, { by: ownName() || 'crew', at: Date.now() }));
    } catch (error) {
      tell({ problem: asProblem(error) });
    } finally {
      setDoing(undefined);
    }
  };
  return (
    <section className="mt-5 max-w-3xl" aria-label="Acceptance">
      <button type="button" className="act-main" disabled={doing !== undefined} onClick={() => void run()}>
        Cold start on the bench, and sound every link
      </button>
      {doing !== undefined && (
        <p role="status" className="mt-2 text-[13px] text-mute">
          {doing}
        </p>
      )}
      {accepted && <Record show={show} accepted={accepted} />}
    </section>
  );
}

async function coldStart(show: Show, showId: string, tell: (doing: string) => void): Promise<Accepted['links']> {
  const power = async (deviceIds: readonly string[], on: boolean) =>
    takeBench(await api.post<contract.BenchState>(`/bench/${showId}/power`, { deviceIds, on }));
  tell('Everything off …');
  await power(Object.keys(show.devices), false);
  for (const { devices } of rig.powerOrder(show)) {
    tell(
      `On: ${devices
        .map(({ name }) => name)
        .join(', ')
        .slice(0, 120)}`,
    );
    await power(
      devices.map(({ id }) => id),
      true,
    );
  }
  const links = core.rowsOf(show, 'links');
  const result: Accepted['links'] = [];
  for (const [at, { id }] of links.entries()) {
    tell(`Sounding ${at + 1} of ${links.length} …`);
    const { layers } = await api.post<core.MeasuredSounding>(`/bench/${showId}/sound`, { linkId: id });
    result.push({ linkId: id, stop: layers.find(({ state }) => state === 'fail')?.layer ?? null });
  }
  return result;
}

const day = new Intl.DateTimeFormat('en-GB', { dateStyle: 'medium', timeStyle: 'short' });

/** The record, by link; what was changed since is old. */
function Record({ show, accepted }: { readonly show: Show; readonly accepted: Accepted }) {
  const { analysis } = useWorkspace();
  const name = (id: string) => show.devices[id]?.name ?? 'a unit';
  const good = accepted.links.filter(({ stop }) => stop === null).length;
  return (
    <div className="mt-4">
      <h3 className="font-semibold">
        Accepted {day.format(accepted.at)} by {accepted.by}: {good} of {accepted.links.length} links reached bottom
      </h3>
      <ul className="mt-1 grid gap-0.5 text-[13px]">
        {accepted.links.map(({ linkId, stop }) => {
          const link = show.links[linkId];
          const isOld = !link || analysis?.depths.get(linkId)?.measured === false;
          return (
            <li key={linkId} className={isOld ? 'text-mute' : stop === null ? '' : 'text-error'}>
              <span aria-hidden>{stop === null ? '✓' : '✕'}</span>{' '}
              {link ? `${name(link.controllerId)} → ${name(link.targetId)}` : 'a link that is gone'}
              {stop !== null && `: stopped at ${stop}`}
              {isOld && ' · something was changed since: sound it again'}
            </li>
          );
        })}
      </ul>
    </div>
  );
}
