import type { timecode } from '@deep-patch/core';
import { TimePlot } from './time-plot.tsx';

const edge = { left: 62, right: 16, top: 14, bottom: 24 };

/** How late each quarter frame came against the pace of all of them. */
export function ArrivalPlot({ reading }: { readonly reading: timecode.MidiReading }) {
  const points = reading.arrivals.flatMap(({ at, off }) => (off === null ? [] : [{ at, off }]));
  const [first, last] = [points[0]?.at ?? 0, points.at(-1)?.at ?? 1];
  return (
    <TimePlot
      label={`Arrivals within ${(reading.jitter?.range ?? 0).toFixed(1)} ms`}
      height={130}
      edge={edge}
      seconds={last - first}
      most={Math.max(0.5, ...points.map(({ off }) => Math.abs(off)))}
    >
      {({ x, y }) =>
        points.map(({ at, off }, n) => (
          <circle key={n} cx={x(at - first)} cy={y(off)} r={1.6} className="fill-accent" />
        ))
      }
    </TimePlot>
  );
}
