import { timecode } from '@deep-patch/core';
import { scaleLinear } from 'd3-scale';
import { line } from 'd3-shape';
import { useWidth } from '../parts/use-width.ts';

const height = 180;
const edge = { left: 62, right: 16, top: 22, bottom: 26 };
const mostLabels = 6;

/** How far the code is from an exact clock over the sound, with its breaks. */
export function DriftPlot({ reading }: { readonly reading: timecode.Reading }) {
  const [width, box] = useWidth<HTMLDivElement>(1000);
  const offs = reading.drift.flatMap(({ off }) => off ?? []);
  const most = Math.max(1, ...offs.map(Math.abs)) * 1.15;
  const x = scaleLinear([0, Math.max(0.1, reading.seconds)], [edge.left, width - edge.right]);
  const y = scaleLinear([-most, most], [height - edge.bottom, edge.top]);
  const path = line<(typeof reading.drift)[number]>()
    .defined(({ off }) => off !== null)
    .x(({ at }) => x(at))
    .y(({ off }) => y(off ?? 0))(reading.drift);
  return (
    <div ref={box}>
      <svg
        width={width}
        height={height}
        className="block max-w-full bg-base-200"
        role="img"
        aria-label={`Off an exact clock by ${Math.max(0, ...offs.map(Math.abs)).toFixed(2)} ms at most, with ${reading.breaks.length} breaks`}
      >
        {x.ticks(Math.max(2, Math.floor(width / 110))).map((tick) => (
          <g key={tick}>
            <line x1={x(tick)} x2={x(tick)} y1={edge.top} y2={height - edge.bottom} className="stroke-rule" />
            <text x={x(tick)} y={height - 9} textAnchor="middle" className="fill-mute font-mono text-[11px]">
              {tick} s
            </text>
          </g>
        ))}
        {y.ticks(4).map((tick) => (
          <g key={tick}>
            <line x1={edge.left} x2={width - edge.right} y1={y(tick)} y2={y(tick)} className="stroke-rule" />
            <text x={edge.left - 8} y={y(tick) + 4} textAnchor="end" className="fill-mute font-mono text-[11px]">
              {tick > 0 ? '+' : ''}
              {tick}
            </text>
          </g>
        ))}
        <text x={edge.left - 8} y={12} textAnchor="end" className="fill-mute text-[11px]">
          ms
        </text>
        <BreakMarks {...{ reading, x, width }} />
        <path d={path ?? ''} fill="none" strokeWidth={1.5} className="stroke-accent" />
        <text x={width - edge.right} y={height - edge.bottom - 6} textAnchor="end" className="fill-primary text-[11px]">
          {timecode.clockWords(reading)}
        </text>
      </svg>
    </div>
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
