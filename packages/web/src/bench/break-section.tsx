import { type contract, show as core } from '@deep-patch/core';
import type { DoOnBench } from './use-bench.ts';

interface Props {
  readonly deviceId: string;
  readonly type: core.DeviceType;
  readonly faults: readonly contract.SetFault[];
  readonly act: DoOnBench;
}

/** Faults of one unit: set by hand, and mended again. */
export function BreakSection({ deviceId, type, faults, act }: Props) {
  const own = faults.filter((fault) => fault.deviceId === deviceId);
  const set = new Set(own.map(({ kind }) => kind));
  return (
    <section className="grid gap-2">
      <h3 className="text-xs font-semibold text-mute">Break something</h3>
      {own.map(({ id, kind }) => (
        <p key={id} className="flex items-center gap-2 rounded-field border border-warning px-2 py-1">
          <span className="mr-auto">{core.faults[kind].is}</span>
          <button
            type="button"
            className="act btn-xs"
            onClick={() => void act({ act: 'clear_fault', id })}
            aria-label={`Mend: ${core.faults[kind].is}`}
          >
            Mend
          </button>
        </p>
      ))}
      <div className="grid grid-cols-2 gap-1.5">
        {core
          .faultsFor(type)
          // power has its own button at the top
          .filter((kind) => kind !== 'power_off' && !set.has(kind))
          .map((kind) => (
            <button
              key={kind}
              type="button"
              className="act btn-xs h-auto min-h-7 py-1 whitespace-normal"
              onClick={() => void act({ act: 'set_fault', kind, deviceId })}
            >
              {core.faults[kind].does}
            </button>
          ))}
      </div>
    </section>
  );
}
