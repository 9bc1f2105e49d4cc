import { type contract, show as core } from '@deep-patch/core';
import { Link } from 'react-router';
import { useShow } from '../live/workspace.tsx';
import { useBenchPath } from './use-bench-path.ts';
import type { DoOnBench } from './use-bench.ts';

/** Everything that somebody broke here, so that nobody forgets one; mended one by one, or all together. */
export function FaultsStrip({
  faults,
  act,
}: {
  readonly faults: readonly contract.SetFault[];
  readonly act: DoOnBench;
}) {
  const show = useShow();
  const path = useBenchPath();
  if (faults.length === 0) return null;
  const mendAll = async () => {
    // each may stand on one before it: the last is taken off first
    for (const { id } of faults.toReversed()) await act({ act: 'clear_fault', id });
  };
  return (
    <section
      aria-label="What you broke"
      className="flex flex-wrap items-center gap-x-5 gap-y-1 border-b border-rule bg-warning/10 px-4.5 py-2"
    >
      <h2 className="text-[13px] font-semibold">Broken by you</h2>
      {faults.map(({ id, kind, deviceId }) => (
        <span key={id} className="flex items-center gap-1.5 text-[13px]">
          <Link className="font-medium hover:underline" to={path(deviceId)}>
            {show.devices[deviceId]?.name}
          </Link>
          <span className="text-mute">{core.faults[kind].is}</span>
        </span>
      ))}
      <button type="button" className="act btn-xs ml-auto" onClick={() => void mendAll()}>
        Put all right
      </button>
    </section>
  );
}
