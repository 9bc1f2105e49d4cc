import { type contract, show as core, type show } from '@deep-patch/core';
import { Fragment, useState } from 'react';
import { Link } from 'react-router';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import { CloseLink } from '../parts/close-link.tsx';
import { DepthGlyph } from '../parts/depth-glyph.tsx';
import { readPort } from '../parts/rules.ts';
import { faceWords } from './face-words.ts';
import { ApplicationSection } from './application-section.tsx';
import { BreakSection } from './break-section.tsx';
import { EndpointsSection } from './endpoints-section.tsx';
import { LampsSection } from './lamps-section.tsx';
import { LookingSection } from './looking-section.tsx';
import { ListsSection } from './lists-section.tsx';
import { TouchSection } from './touch-section.tsx';
import { UnitMenu } from './unit-menu.tsx';
import type { DoOnBench } from './use-bench.ts';
import { useBenchPath } from './use-bench-path.ts';

interface Props {
  readonly device: show.Device;
  readonly state: contract.StandinState;
  readonly jacks: readonly contract.JackState[];
  readonly faults: readonly contract.SetFault[];
  readonly looking: contract.LookingState | null;
  readonly act: DoOnBench;
  readonly power: (deviceIds: readonly string[], on: boolean) => Promise<boolean>;
  readonly openJack: (deviceId: string, serviceKey: string, replyTo: number | null) => Promise<boolean>;
  readonly closeJack: (port: number) => Promise<void>;
}

/** One stand-in: its own menu and face, its power, its links and the jacks for outside tools. */
export function StandinPanel({ device, state, jacks, faults, looking, act, power, openJack, closeJack }: Props) {
  const show = useShow();
  const path = useBenchPath();
  const type = core.typeOf(show, device);
  return (
    <aside aria-label={`Stand-in of ${device.name}`} className="panel grid w-80 content-start gap-4 p-4">
      <div className="flex items-start gap-2">
        <div>
          <h2 className="text-[15px] font-bold">{device.name}</h2>
          <p className="text-mute">
            {device.place} ·{' '}
            {state.status === 'up'
              ? `took in ${state.heard} ${state.heard === 1 ? 'message' : 'messages'}`
              : statusWords(state)}
          </p>
        </div>
        <button
          type="button"
          className={`${state.powered ? 'act' : 'act-main'} ml-auto shrink-0`}
          onClick={() => void power([device.id], !state.powered)}
        >
          {state.powered ? 'Cut its power' : 'Power on'}
        </button>
        <CloseLink to={path()} name={`the stand-in of ${device.name}`} />
      </div>
      {type && <UnitMenu key={String(state.powered)} device={device} type={type} state={state} act={act} />}
      {state.face.length > 0 && (
        <Rows title="Its screen" rows={state.face.map(([name, value]) => [name, faceWords(value)] as const)} />
      )}
      <LampsSection lamps={state.lamps} />
      {type && state.status === 'up' && <TouchSection device={device} type={type} act={act} />}
      {type && <ListsSection {...{ device, type, act }} lists={state.lists} />}
      {state.endpoints.length > 0 && <EndpointsSection device={device} endpoints={state.endpoints} act={act} />}
      {type && <ApplicationSection device={device} type={type} state={state} act={act} />}
      <LookingSection device={device} looking={looking} act={act} />
      {type && <BreakSection deviceId={device.id} type={type} faults={faults} act={act} />}
      <LinksHere device={device} type={type} act={act} />
      <Jacks device={device} jacks={jacks} openJack={openJack} closeJack={closeJack} />
    </aside>
  );
}

function LinksHere({
  device,
  type,
  act,
}: Pick<Props, 'device' | 'act'> & { readonly type: show.DeviceType | undefined }) {
  const show = useShow();
  const links = core
    .rowsOf(show, 'links')
    .filter((link) => link.controllerId === device.id || link.targetId === device.id);
  return (
    <section className="grid gap-1">
      <h3 className="text-xs font-semibold text-mute">Links from and to here</h3>
      {links.length === 0 && <p className="text-mute">None planned.</p>}
      {links.map((link) => (
        <Fragment key={link.id}>
          <LinkLine link={link} other={link.controllerId === device.id ? link.targetId : link.controllerId} />
          {type?.kind === 'fader-bank' && link.controllerId === device.id && <Synchronise link={link} act={act} />}
        </Fragment>
      ))}
    </section>
  );
}

function LinkLine({ link, other }: { readonly link: show.Link; readonly other: string }) {
  const { analysis, showId } = useWorkspace();
  const { devices } = useShow();
  const depth = analysis?.depths.get(link.id);
  return (
    <Link to={`/shows/${showId}/links/${link.id}`} className="flex items-center justify-between gap-2 hover:underline">
      <span className="truncate">{devices[other]?.name}</span>
      {depth && <DepthGlyph depth={depth} />}
    </Link>
  );
}

function Synchronise({ link, act }: { readonly link: show.Link; readonly act: DoOnBench }) {
  return (
    <span className="flex gap-1.5">
      {(['to_target', 'from_target'] as const).map((direction) => (
        <button
          key={direction}
          type="button"
          className="act btn-xs"
          onClick={() =>
            void act(
              direction === 'to_target'
                ? { act: 'synchronise', fromId: link.controllerId, toId: link.targetId }
                : { act: 'synchronise', fromId: link.targetId, toId: link.controllerId },
            )
          }
        >
          {direction === 'to_target' ? 'Send all to it' : 'Fetch all from it'}
        </button>
      ))}
    </span>
  );
}

function statusWords({ status, readyInMs }: contract.StandinState): string {
  return readyInMs === null ? status : `starting, ${Math.ceil(readyInMs / 1000)} s to go`;
}

function Rows({ title, rows }: { title: string; rows: readonly (readonly [string, string])[] }) {
  return (
    <section>
      <h3 className="mb-1 text-xs font-semibold text-mute">{title}</h3>
      <dl className="grid grid-cols-[auto_1fr] gap-x-4 gap-y-1.5 rounded-box border border-line bg-base-100 px-3 py-2 font-mono text-[13px]">
        {rows.map(([label, value], at) => (
          <div key={`${label} ${at}`} className="contents">
            <dt className="text-mute">{label}</dt>
            <dd>{value}</dd>
          </div>
        ))}
      </dl>
    </section>
  );
}

function Jacks({ device, jacks, openJack, closeJack }: Pick<Props, 'device' | 'jacks' | 'openJack' | 'closeJack'>) {
  const show = useShow();
  const [replyTo, setReplyTo] = useState('');
  const services = core.typeOf(show, device)?.services ?? [];
  if (services.length === 0) return null;
  const wanted = readPort(replyTo) ?? null;
  return (
    <section className="grid gap-2">
      <h3 className="text-xs font-semibold text-mute">Open to outside tools</h3>
      {jacks.map((jack) => (
        <JackLine
          key={jack.port}
          jack={jack}
          service={services.find(({ key }) => key === jack.serviceKey)}
          onClose={() => void closeJack(jack.port)}
        />
      ))}
      <div className="flex flex-wrap items-end gap-2">
        <label className="grid gap-1 text-xs text-mute">
          Replies to port, if fixed
          <input
            className="input input-xs key-num w-28 border-line bg-base-100"
            value={replyTo}
            onChange={(event) => setReplyTo(event.target.value)}
            inputMode="numeric"
          />
        </label>
        {services.map(({ key, label }) => (
          <button key={key} type="button" className="act btn-xs" onClick={() => void openJack(device.id, key, wanted)}>
            Open its {label}
          </button>
        ))}
      </div>
    </section>
  );
}

function JackLine({
  jack,
  service,
  onClose,
}: {
  readonly jack: contract.JackState;
  readonly service: show.ServiceType | undefined;
  readonly onClose: () => void;
}) {
  const { host, port, serviceKey, dropped } = jack;
  return (
    <div className="flex items-center gap-2">
      <span>
        {service?.label ?? serviceKey}: aim the tool at{' '}
        <code className="text-base">
          {service?.protocol === 'http' && 'http://'}
          {host}:{port}
        </code>
        <span className="block text-xs text-mute">{answerWords(jack, service)}</span>
        {dropped > 0 && (
          <span className="block text-xs text-warning">{dropped} came too fast and were not taken in</span>
        )}
      </span>
      <button
        type="button"
        className="act-quiet btn-xs ml-auto"
        onClick={onClose}
        aria-label={`Close the ${serviceKey} jack on ${port}`}
      >
        Close
      </button>
    </div>
  );
}

function answerWords({ host, port, replyTo }: contract.JackState, service: show.ServiceType | undefined): string {
  if (service?.protocol === 'midi') return `the session’s control port; its data port is ${port + 1}`;
  if (service?.transport === 'tcp') return 'over TCP; replies come on the same connection';
  return replyTo === null ? 'replies go back to where it sends from' : `replies go to ${host}:${replyTo}`;
}
