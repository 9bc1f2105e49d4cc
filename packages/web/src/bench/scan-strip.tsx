import type { contract } from '@deep-patch/core';
import { useState } from 'react';
import { Link } from 'react-router';
import { useWorkspace } from '../live/workspace.tsx';
import type { DoOnBench } from './use-bench.ts';

/** A scan: how far it is, what it found, and what it cannot find from where it looks. */
export function ScanStrip({ scan, act }: { scan: contract.ScanState; act: DoOnBench }) {
  const { showId } = useWorkspace();
  const [closed, setClosed] = useState(false);
  if (closed) return null;
  return (
    <section aria-label="Scan" className="grid gap-1.5 border-b border-rule bg-base-200 px-4.5 py-2.5">
      <div className="flex flex-wrap items-center gap-3">
        <span aria-live="polite">
          {scan.running
            ? `${scan.from} looks round: ${scan.done} of ${scan.total} addresses asked, ${scan.found} answered`
            : `${scan.from} ${scan.stopped ? 'stopped' : 'looked round'}: ${scan.found} units answered`}
        </span>
        {scan.running ? (
          <>
            <progress
              className="progress w-40 progress-primary"
              value={scan.done}
              max={Math.max(1, scan.total)}
              aria-label="Addresses asked"
            />
            <button type="button" className="act btn-xs" onClick={() => void act({ act: 'stop_scan' })}>
              Stop
            </button>
          </>
        ) : (
          <>
            <Link className="act btn-xs" to={`/shows/${showId}/addresses`}>
              Compare with the plan
            </Link>
            <button type="button" className="act-quiet btn-xs" onClick={() => setClosed(true)}>
              Close
            </button>
          </>
        )}
      </div>
      {scan.outside.length > 0 && (
        <div className="text-mute">
          <p>Outside every subnet of {scan.from}, so not found from there. A second address would reach them:</p>
          <ul className="flex flex-wrap gap-x-5">
            {scan.outside.map(({ network, units, setting }) => (
              <li key={network}>
                {network}, {units} {units === 1 ? 'unit' : 'units'}: <code>{setting}</code>
              </li>
            ))}
          </ul>
        </div>
      )}
    </section>
  );
}
