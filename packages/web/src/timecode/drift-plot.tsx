import { timecode } from '@deep-patch/core';
import { line } from 'd3-shape';
import { TimePlot } from './time-plot.tsx';

const height = 180;
const edge = { left: 62, right: 16, top: 22, bottom: 26 };
const mostLabels = 6;

/** How far the code is from an exact clock over the sound, with its breaks. */
export function DriftPlot({ reading }: { readonly reading: timecode.Reading }) {
  const offs = reading.drift.flatMap(({ off }) => off ?? []);
  const most = Math.max(0, ...offs.map(Math.abs));
  return (
    <TimePlot
      label={`Off an exact clock by ${most.toFixed(2)} ms at most, with ${reading.breaks.length} breaks`}
      {...{ height, edge }}
      seconds={reading.seconds}
      most={Math.max(1, most)}
    >
      {({ x, y, width }) => {
        const path = line<(typeof reading.drift)[number]>()
          .defined(({ off }) => off !== null)
          .x(({ at }) => x(at))
          .y(({ off }) => y(off ?? 0))(reading.drift);
        return (
          <>
            <BreakMarks {...{ reading, x, width }} />
            <path d={path ?? ''} fill="none" strokeWidth={1.5} className="stroke-accent" />
            <text
              x={width - edge.right}
              y={height - edge.bottom - 6}
              textAnchor="end"
              className="fill-primary text-[11px]"
            >
              {timecode.clockWords(reading)}
            </text>
          </>
        );
      }}
    </TimePlot>
  );
}

function BreakMarks({
  reading,
  x,
  width,
}: {
  readonly reading: timecode.Reading;
  readonly x: (seconds: number) => number;
  readonly width: number;
}) {
  const rate = timecode.rates[reading.rate];
  return (
    <>
      {reading.breaks.map((found, at) => (
        <g key={at} className={found.kind === 'missing' || found.kind === 'damaged' ? 'fill-error' : 'fill-warning'}>
          <rect
            x={x(found.at)}
            y={edge.top}
            width={Math.max(2, x(found.at + found.lasts) - x(found.at))}
            height={height - edge.top - edge.bottom}
            opacity={0.45}
          />
          {at < mostLabels && reading.breaks.length <= mostLabels && (
            <text x={Math.min(width - 90, x(found.at) + 4)} y={edge.top - 8 + (at % 2) * 14} className="text-[11px]">
              {timecode.breakWords(found, rate)}
            </text>
          )}
        </g>
      ))}
    </>
  );
}
