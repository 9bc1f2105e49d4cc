import { cabling, rig, show as core, type show } from '@deep-patch/core';
import { Link } from 'react-router';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import { SocketShape } from './type-form/back-panel.tsx';

/** The back of this unit: each socket in its place, what it is for in this mode, and what is in it. */
export function DeviceSockets({ device, type }: { readonly device: show.Device; readonly type: show.DeviceType }) {
  const show = useShow();
  const sockets = core.socketsOf(type, device.variant);
  const mode = type.variants.find(({ key }) => key === device.variant)?.label;
  const runs = core
    .rowsOf(show, 'cables')
    .filter(({ fromDevice, toDevice }) => fromDevice === device.id || toDevice === device.id);
  const runAt = (key: string) =>
    runs.find((run) =>
      run.fromDevice === device.id && run.fromSocket === key
        ? true
        : run.toDevice === device.id && run.toSocket === key,
    );
  if (sockets.length === 0) return null;
  return (
    <section aria-label="Back panel" className="grid gap-1">
      <h3 className="text-xs font-semibold text-mute">Back panel{mode ? `, in the mode “${mode}”` : ''}</h3>
      <ul className="flex flex-wrap gap-x-2 gap-y-3 rounded-field border-2 border-line bg-base-300 p-3">
        {sockets.map((socket) => (
          <Socket key={socket.key} socket={socket} device={device} type={type} run={runAt(socket.key)} />
        ))}
      </ul>
    </section>
  );
}

function Socket({
  socket,
  device,
  type,
  run,
}: {
  readonly socket: show.DeviceType['sockets'][number];
  readonly device: show.Device;
  readonly type: show.DeviceType;
  readonly run: show.Cable | undefined;
}) {
  const show = useShow();
  const { showId } = useWorkspace();
  const [farId, farSocket] =
    run?.fromDevice === device.id ? [run.toDevice, run.toSocket] : [run?.fromDevice ?? '', run?.fromSocket ?? ''];
  const adapter = type.adapters.find(({ key }) => key === socket.adapter)?.label;
  const use = socket.role === 'any' ? (adapter ?? '') : rig.roleTexts[socket.role];
  return (
    <li className="grid w-18 justify-items-center gap-0.5 text-center text-[11px] leading-tight">
      <span className={run ? 'text-success' : 'opacity-60'}>
        <SocketShape connector={socket.connector} />
      </span>
      <span className="w-full truncate font-medium" title={socket.label}>
        {socket.label}
      </span>
      <span className="w-full truncate text-mute" title={use}>
        {use || ' '}
      </span>
      {run ? (
        <Link
          className="w-full truncate hover:underline"
          title={`${cabling.runWords(show, run)}, ${cabling.kindWords(run)}`}
          to={`/shows/${showId}/cabling/${run.id}`}
        >
          {show.devices[farId]?.name} {core.socketLabel(show, farId, farSocket)}
        </Link>
      ) : (
        <span className="text-faint">free</span>
      )}
    </li>
  );
}
