import type { show } from '@deep-patch/core';
import { Link } from 'react-router';
import { useWorkspace } from '../live/workspace.tsx';
import type { show as core } from '@deep-patch/core';

const waits = 'rounded-full border-2 border-warning';
const lamps = {
  up: 'rounded-full bg-success',
  starting: waits,
  closed: waits,
  'no show': waits,
  'no power': 'border border-mute',
  clash: 'bg-error',
  storm: 'bg-error',
  fault: 'bg-error',
} as const;

const showsFace = (status: core.StandinState['status']): boolean =>
  status !== 'no power' && status !== 'fault' && status !== 'starting';

/** A unit with its small face: what its own screen would show. */
export function StandinCard({
  device,
  state,
  chosen,
}: {
  device: show.Device;
  state: core.StandinState | undefined;
  chosen: boolean;
}) {
  const { showId } = useWorkspace();
  const status = state?.status ?? 'no power';
  return (
    <Link
      to={`/shows/${showId}/bench/${device.id}`}
      aria-current={chosen ? 'true' : undefined}
      className={`block rounded-box border bg-base-200 px-2.5 py-2 hover:border-primary ${chosen ? 'border-primary' : 'border-rule'}`}
    >
      <div className="flex items-center gap-2">
        <span aria-hidden className={`size-2.5 shrink-0 ${lamps[status]}`} />
        <span className="truncate font-medium">{device.name}</span>
        <span className="ml-auto text-xs whitespace-nowrap text-mute">{status}</span>
      </div>
      <p className="mt-1.5 flex h-5 items-baseline gap-2 truncate text-xs text-mute">
        {state && showsFace(status)
          ? state.face
              .slice(0, 2)
              .map(([parameter, value], at) => (
                <Face key={parameter} parameter={parameter} value={value} first={at === 0} />
              ))
          : '—'}
        {state?.face.length === 0 && showsFace(status) && 'ready'}
      </p>
    </Link>
  );
}

function Face({ parameter, value, first }: { parameter: string; value: string; first: boolean }) {
  return (
    <span className="truncate">
      {parameter} <b className={`font-mono font-medium text-base-content ${first ? 'text-sm' : ''}`}>{value}</b>
    </span>
  );
}
