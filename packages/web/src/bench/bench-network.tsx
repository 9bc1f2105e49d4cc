import type { contract } from '@deep-patch/core';
import { useMemo } from 'react';
import { useNavigate } from 'react-router';
import { PictureView } from '../cabling/picture/picture-view.tsx';
import type { Standing } from '../cabling/picture/standing.ts';
import { useBenchPath } from './use-bench-path.ts';

const tones: Readonly<Record<contract.StandinState['status'], Standing['tone']>> = {
  up: 'well',
  starting: 'waits',
  'set-up': 'waits',
  closed: 'waits',
  'no show': 'waits',
  'no power': 'off',
  clash: 'ill',
  storm: 'ill',
  fault: 'ill',
};

/** The bench as the network that it is: the picture of the cabling, with how each stand-in is doing. */
export function BenchNetwork({ states }: { readonly states: ReadonlyMap<string, contract.StandinState> }) {
  const navigate = useNavigate();
  const path = useBenchPath();
  const shown = useMemo(
    () => ({
      standingOf: (unitId: string): Standing => {
        const words = states.get(unitId)?.status ?? 'no power';
        return { tone: tones[words], words };
      },
      onUnit: (unitId: string) => void navigate(path(unitId)),
    }),
    [states, navigate, path],
  );
  return (
    <div className="mt-6 flex min-h-80 flex-1 rounded-box border border-rule">
      <PictureView filter="" shown={shown} />
    </div>
  );
}
