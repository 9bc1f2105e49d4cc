import type { timecode } from '@deep-patch/core';
import { scaleLinear } from 'd3-scale';
import { useWidth } from '../parts/use-width.ts';

const height = 130;
const edge = { left: 62, right: 16, top: 14, bottom: 24 };

/** How late each quarter frame came against the pace of all of them. */
export function ArrivalPlot({ reading }: { readonly reading: timecode.MidiReading }) {
  const [width, box] = useWidth<HTMLDivElement>(1000);
  const points = reading.arrivals.flatMap(({ at, off }) => (off === null ? [] : [{ at, off }]));
  const [first, last] = [points[0]?.at ?? 0, points.at(-1)?.at ?? 1];
  const most = Math.max(0.5, ...points.map(({ off }) => Math.abs(off))) * 1.15;
  const x = scaleLinear([0, Math.max(0.1, last - first)], [edge.left, width - edge.right]);
  const y = scaleLinear([-most, most], [height - edge.bottom, edge.top]);
  return (
    <div ref={box}>
      <svg
        width={width}
        height={height}
        className="block max-w-full bg-base-200"
        role="img"
        aria-label={`Arrivals within ${(reading.jitter?.range ?? 0).toFixed(1)} ms`}
      >
        {x.ticks(Math.max(2, Math.floor(width / 110))).map((tick) => (
          <g key={tick}>
            <line x1={x(tick)} x2={x(tick)} y1={edge.top} y2={height - edge.bottom} className="stroke-rule" />
            <text x={x(tick)} y={height - 8} textAnchor="middle" className="fill-mute font-mono text-[11px]">
              {tick} s
            </text>
          </g>
        ))}
        {y.ticks(3).map((tick) => (
          <g key={tick}>
            <line x1={edge.left} x2={width - edge.right} y1={y(tick)} y2={y(tick)} className="stroke-rule" />
            <text x={edge.left - 8} y={y(tick) + 4} textAnchor="end" className="fill-mute font-mono text-[11px]">
              {tick > 0 ? '+' : ''}
              {tick} ms
            </text>
          </g>
        ))}
        {points.map(({ at, off }, n) => (
          <circle key={n} cx={x(at - first)} cy={y(off)} r={1.6} className="fill-accent" />
        ))}
      </svg>
    </div>
  );
}
