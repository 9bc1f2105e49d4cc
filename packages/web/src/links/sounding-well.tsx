import { links as linkRoom, show as core, type show } from '@deep-patch/core';
import { useState } from 'react';
import { Link as RouterLink } from 'react-router';
import { useSaveAndGo } from '../live/use-save-and-go.ts';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import { CloseLink } from '../parts/close-link.tsx';
import { FixButtons } from '../parts/fix-buttons.tsx';
import { WriteDown } from '../parts/write-down.tsx';
import { SurpriseCard } from './surprise-card.tsx';
import { Mark, type MarkState } from '../parts/mark.tsx';
import { LinkEditor } from './link-editor.tsx';
import { SymptomSection } from './symptom-section.tsx';
import { useSound } from './use-sound.ts';

/** The sounding of one link: two ends compared layer by layer, the first failing one opened with reason and fix. */
export function SoundingWell({ link }: { link: show.Link }) {
  const show = useShow();
  const { analysis, seen, showId } = useWorkspace();
  const [editing, setEditing] = useState(false);
  const [controller, target] = [show.devices[link.controllerId], show.devices[link.targetId]];
  const sounding = analysis?.soundings.get(link.id);
  const depth = analysis?.depths.get(link.id);
  const measured = seen.soundings[link.id];
  if (!sounding || !depth) return <aside aria-busy="true" className="panel w-108 md:max-lg:w-96" />;
  const unasked = provedByWatch(depth, measured);
  const ends = [link.controllerId, link.targetId].flatMap((id) => {
    const device = show.devices[id];
    return device ? [core.hostOf(show, device).id] : [];
  });
  return (
    <aside aria-label={`Sounding of ${target?.name}`} className="panel w-108 px-4.5 py-3.5 md:max-lg:w-96">
      <div className="mb-1.5 grid grid-cols-[4.5rem_minmax(0,1fr)_2.1rem_minmax(0,1fr)] border-b border-rule pb-2 font-semibold">
        <div className="text-primary">
          <span className="text-xl font-bold">{unasked ?? depth.depth}</span>{' '}
          <span className="text-xs">{unasked === undefined ? 'of 8' : 'of 8 proved'}</span>
        </div>
        <End device={controller} side="text-right" />
        <span />
        <End device={target} side="" />
      </div>
      <div className="mb-1 flex items-start gap-2">
        <p className="text-xs text-mute" aria-live="polite">
          {basisWords(depth, measured)}
        </p>
        <CloseLink to={`/shows/${showId}/links`} name={`the link to ${target?.name ?? ''}`} />
      </div>
      <ol className="relative">
        {sounding.layers.map((forecast) => (
          <LayerRow
            key={forecast.layer}
            forecast={forecast}
            targetId={link.targetId}
            state={depth.marks.find(({ layer }) => layer === forecast.layer)?.state ?? forecast.state}
            unheard={depth.measured && (measured?.layers.some(({ state }) => state === 'unseen') ?? false)}
            measured={depth.measured ? measured?.layers.find(({ layer }) => layer === forecast.layer) : undefined}
          />
        ))}
      </ol>
      <WriteDown deviceIds={ends} />
      <KeepRunning link={link} />
      {depth.measured && measured?.back && <BackRow back={measured.back} />}
      <Acts
        link={link}
        sound={measured ? 'Sound again' : 'Sound'}
        urgent={sounding.stopsAt === undefined}
        editing={editing}
        onEdit={setEditing}
      />
      <SymptomSection link={link} measured={depth.measured ? measured : undefined} />
      {editing && <LinkEditor key={link.id} link={link} />}
    </aside>
  );
}

function Acts({
  link,
  sound,
  urgent,
  editing,
  onEdit,
}: {
  readonly link: show.Link;
  readonly sound: string;
  readonly urgent: boolean;
  readonly editing: boolean;
  readonly onEdit: (editing: boolean) => void;
}) {
  const show = useShow();
  const { showId } = useWorkspace();
  const saveAndGo = useSaveAndGo();
  const { sounding: busy, soundAll } = useSound();
  const remove = async () => {
    await saveAndGo(linkRoom.planRemoveLink(show, link), `/shows/${showId}/links`);
  };
  return (
    <div className="mt-2 flex flex-wrap gap-2 pt-2">
      <button
        type="button"
        className={urgent ? 'act-main' : 'act'}
        disabled={busy !== undefined}
        onClick={() => void soundAll([link.id])}
      >
        {busy ? 'Sounding' : sound}
      </button>
      <button type="button" className="act-quiet" aria-expanded={editing} onClick={() => onEdit(!editing)}>
        {editing ? 'Close settings' : 'Settings'}
      </button>
      <RouterLink className="act-quiet" to={`/shows/${showId}/bench/${link.targetId}`}>
        See it on the bench
      </RouterLink>
      <button type="button" className="act-quiet text-error" onClick={() => void remove()}>
        Remove
      </button>
    </div>
  );
}

/** What has to stay open at either end, or the link dies without a word. */
function KeepRunning({ link }: { link: show.Link }) {
  const processes = linkRoom.processesOf(useShow(), link);
  if (processes.length === 0) return null;
  return (
    <p className="mt-2 border-t border-rule pt-2 text-[13px] text-mute">
      Has to keep running: {processes.map(({ what, on }) => `${what} (${on.name})`).join(', ')}. Hide it, never quit it.
    </p>
  );
}

/** The other direction: done at the target itself, seen at the controller. */
function BackRow({ back }: { back: core.BackSounding }) {
  return (
    <p className="mt-2 flex items-baseline gap-1.5 border-t border-rule pt-2 text-[13px]">
      <Mark state={back.came ? 'pass' : 'fail'} size={11} />
      <span>
        From the other end: {back.did} at the target itself,{' '}
        {back.came ? (
          <>
            told to the controller in {linkRoom.milliseconds(back.ms)} as <code>{back.told}</code>.
          </>
        ) : (
          'and the controller was told nothing. Look at where the target sends.'
        )}
      </span>
    </p>
  );
}

function End({ device, side }: { device: show.Device | undefined; side: string }) {
  return (
    <div className={side}>
      {device?.name}
      <div className="text-xs font-normal text-mute">{device?.place}</div>
    </div>
  );
}

/** How many layers a watch proved before those that only a command would; undefined for a whole sounding. */
function provedByWatch(depth: linkRoom.Depth, measured: core.MeasuredSounding | undefined): number | undefined {
  const at = depth.measured ? (measured?.layers.findIndex(({ code }) => code === 'not_asked') ?? -1) : -1;
  return at < 0 ? undefined : at;
}

function basisWords(depth: linkRoom.Depth, measured: core.MeasuredSounding | undefined): string {
  if (!measured) return 'Forecast from the plan. Sound it to see what really happens.';
  const time = new Date(measured.at).toLocaleTimeString('en-GB');
  if (depth.stale)
    return measured.aged
      ? `Forecast from the plan. Sounded at ${time}; something happened to it on the bench since.`
      : `Forecast from the plan. Sounded at ${time}, but the plan was changed since.`;
  const unasked = measured.layers.findIndex(({ code }) => code === 'not_asked');
  const proved = measured.layers[unasked - 1]?.layer;
  if (proved)
    return `Watched on the bench at ${time}: proved down to ${proved}, and no command was sent. Sound it to prove the rest.`;
  if (depth.rttMs !== null) return `Sounded on the bench at ${time}: reply in ${linkRoom.milliseconds(depth.rttMs)}.`;
  return depth.stopsAt || depth.proven
    ? `Sounded on the bench at ${time}.`
    : `Sounded on the bench at ${time}. Nothing comes back by which to tell: look at the target itself.`;
}

function LayerRow({
  forecast,
  state: mark,
  unheard,
  measured,
  targetId,
}: {
  forecast: linkRoom.LayerResult;
  targetId: string;
  state: MarkState;
  /** Some layers of this sounding were told by nothing that went over the wire. */
  unheard: boolean;
  measured: core.MeasuredLayer | undefined;
}) {
  const { left, right, between } = linkRoom.layerWords(forecast);
  // what nobody saw is not ticked off, whatever the plan expects of it
  const state = measured?.state === 'unseen' && mark === 'pass' ? 'waits' : mark;
  const muted = state === 'waits' && measured?.state !== 'unseen';
  const tone = state === 'fail' ? 'font-semibold text-error' : muted ? 'text-faint' : '';
  const opened = forecast.state === 'fail' || (forecast.state === 'risky' && state !== 'waits');
  const surprise = measured?.state === 'fail' && forecast.state !== 'fail';
  return (
    <li
      className={`relative before:absolute before:inset-y-0 before:left-[calc(50%+2.25rem)] before:-translate-x-1/2 ${state === 'pass' || state === 'risky' ? 'before:w-0.5 before:bg-primary' : 'before:border-l-2 before:border-dashed before:border-line'}`}
    >
      <div className="relative grid grid-cols-[4.5rem_minmax(0,1fr)_2.1rem_minmax(0,1fr)] items-center pt-1.5">
        <b className={`text-xs font-semibold ${state === 'fail' ? 'text-error' : 'text-mute'}`}>
          {forecast.layer.charAt(0).toUpperCase() + forecast.layer.slice(1)}
        </b>
        <span className={`text-right text-[13px] leading-tight wrap-anywhere ${tone}`}>{left}</span>
        <i
          className={`z-1 mx-auto grid size-5 place-content-center border-[1.5px] bg-base-200 ${state === 'fail' ? 'rounded-[3px] border-error' : `rounded-full ${{ pass: 'border-success', risky: 'border-warning', waits: 'border-line' }[state]}`}`}
        >
          <Mark state={state} size={11} />
        </i>
        <span className={`text-[13px] leading-tight wrap-anywhere ${tone}`}>{right}</span>
        <span className="col-span-3 col-start-2 justify-self-center bg-base-200 px-1.5 text-xs text-mute">
          {measured && measured.state !== 'waits' ? linkRoom.measuredWords(measured) : between}
        </span>
      </div>
      {opened && <StopCard result={forecast} />}
      {surprise && <SurpriseCard measured={measured} unheard={unheard} targetId={targetId} />}
    </li>
  );
}

function StopCard({ result }: { result: linkRoom.LayerResult }) {
  const { what, why, fix } = linkRoom.stopWords(result);
  const isStop = result.state === 'fail';
  return (
    <div className="relative my-1.5 bg-base-200">
      <div
        className={`rounded-sm border-l-3 px-3 py-2.5 text-[13px] ${isStop ? 'border-error bg-error/12' : 'border-warning bg-warning/10'}`}
      >
        <b>{what}</b> {why} {fix}
        <FixButtons fixes={result.fixes} urgent={isStop} />
      </div>
    </div>
  );
}
