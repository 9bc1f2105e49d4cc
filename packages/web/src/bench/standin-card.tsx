import type { contract, show } from '@deep-patch/core';
import { Link } from 'react-router';
import { faceWords } from './face-words.ts';
import { useBenchPath } from './use-bench-path.ts';
import { useLamps } from '../live/tap-store.ts';
import { useWorkspace } from '../live/workspace.tsx';

const waits = 'rounded-full border-2 border-warning';
const lamps = {
  up: 'rounded-full bg-success',
  starting: waits,
  'set-up': waits,
  closed: waits,
  'no show': waits,
  'no power': 'border border-mute',
  clash: 'bg-error',
  storm: 'bg-error',
  fault: 'bg-error',
} as const;

const showsFace = (status: contract.StandinState['status']): boolean =>
  status !== 'no power' && status !== 'fault' && status !== 'starting';

/** A unit with its small face: what its own screen would show. */
export function StandinCard({
  device,
  state,
  chosen,
}: {
  device: show.Device;
  state: contract.StandinState | undefined;
  chosen: boolean;
}) {
  const path = useBenchPath();
  const status = state?.status ?? 'no power';
  const faders = (state?.face ?? []).filter(([parameter]) => parameter.startsWith('fader '));
  return (
    <Link
      to={path(device.id)}
      aria-current={chosen ? 'true' : undefined}
      className={`block rounded-box border bg-base-200 px-2.5 py-2 hover:border-primary ${chosen ? 'border-primary' : 'border-rule'}`}
    >
      <div className="flex items-center gap-2">
        <span aria-hidden className={`size-2.5 shrink-0 ${lamps[status]}`} />
        <span className="truncate font-medium">{device.name}</span>
        <span className="ml-auto text-xs whitespace-nowrap text-mute">{status}</span>
      </div>
      <p className="mt-1.5 flex h-5 items-baseline gap-2 truncate text-xs text-mute">
        {state && showsFace(status) ? (
          faders.length > 2 ? (
            <Faders levels={faders} />
          ) : (
            thatFits(state.face).map(([parameter, value], at) => (
              <Face key={parameter} parameter={parameter} value={faceWords(value)} first={at === 0} />
            ))
          )
        ) : (
          '—'
        )}
        {state?.face.length === 0 && showsFace(status) && 'ready'}
        <InOut deviceId={device.id} />
      </p>
    </Link>
  );
}

const mostLetters = 20;
/** One entry of a face, or two where both are short. */
const thatFits = (face: contract.StandinState['face']) =>
  face.slice(0, face.slice(0, 2).flat().join(' ').length > mostLetters ? 1 : 2);

/** Lit while something goes out of a unit or comes in, as lamps beside a socket. */
function InOut({ deviceId }: { deviceId: string }) {
  const { showId } = useWorkspace();
  const lamps = useLamps(showId, deviceId);
  return (
    <span className="ml-auto flex shrink-0 gap-1 self-center pl-1 text-[10px] leading-none text-faint" aria-hidden>
      {(['in', 'out'] as const).map((direction) => (
        <span key={direction} className={lamps[direction] ? 'font-bold text-primary' : ''}>
          {direction}
        </span>
      ))}
    </span>
  );
}

/** Faders side by side, each at its level; the words are for who cannot see them. */
function Faders({ levels }: { levels: readonly (readonly [string, string])[] }) {
  return (
    <span
      className="flex h-5 items-end gap-1.5"
      role="img"
      aria-label={levels.map((each) => each.join(' ')).join(', ')}
    >
      {levels.map(([parameter, value]) => (
        <span key={parameter} className="relative h-5 w-2 rounded-sm bg-base-100" title={`${parameter} ${value}`}>
          <span
            className="absolute inset-x-0 h-1 rounded-sm bg-base-content"
            style={{ bottom: `${shareOf(value) * 80}%` }}
          />
        </span>
      ))}
    </span>
  );
}

/** Where a level is on its way, 0 to 1: in dB from −60 to +10, or as a number of 127. */
function shareOf(value: string): number {
  const number = parseFloat(value);
  if (Number.isNaN(number)) return 0;
  return Math.min(1, Math.max(0, value.endsWith('dB') ? (number + 60) / 70 : number / 127));
}

function Face({ parameter, value, first }: { parameter: string; value: string; first: boolean }) {
  return (
    <span className="truncate">
      {parameter} <b className={`font-mono font-medium text-base-content ${first ? 'text-sm' : ''}`}>{value}</b>
    </span>
  );
}
