import { scaleLinear } from 'd3-scale';
import type { ReactNode } from 'react';
import { useWidth } from '../parts/use-width.ts';

type Scale = (value: number) => number;

interface Edges {
  readonly left: number;
  readonly right: number;
  readonly top: number;
  readonly bottom: number;
}

interface Props {
  readonly label: string;
  readonly height: number;
  readonly edge: Edges;
  readonly seconds: number;
  /** Milliseconds to either side of the middle. */
  readonly most: number;
  readonly children: (place: { readonly x: Scale; readonly y: Scale; readonly width: number }) => ReactNode;
}

/** Milliseconds early or late over the seconds of a reading: the axes, for whatever is drawn between them. */
export function TimePlot({ label, height, edge, seconds, most, children }: Props) {
  const [width, box] = useWidth<HTMLDivElement>(1000);
  const x = scaleLinear([0, Math.max(0.1, seconds)], [edge.left, width - edge.right]);
  const y = scaleLinear([-most * 1.15, most * 1.15], [height - edge.bottom, edge.top]);
  return (
    <div ref={box}>
      <svg width={width} height={height} className="block max-w-full bg-base-200" role="img" aria-label={label}>
        {x.ticks(Math.max(2, Math.floor(width / 110))).map((tick) => (
          <g key={tick}>
            <line x1={x(tick)} x2={x(tick)} y1={edge.top} y2={height - edge.bottom} className="stroke-rule" />
            <text x={x(tick)} y={height - 8} textAnchor="middle" className="fill-mute font-mono text-[11px]">
              {tick} s
            </text>
          </g>
        ))}
        {y.ticks(Math.max(3, Math.floor(height / 45))).map((tick) => (
          <g key={tick}>
            <line x1={edge.left} x2={width - edge.right} y1={y(tick)} y2={y(tick)} className="stroke-rule" />
            <text x={edge.left - 8} y={y(tick) + 4} textAnchor="end" className="fill-mute font-mono text-[11px]">
              {tick > 0 ? '+' : ''}
              {tick} ms
            </text>
          </g>
        ))}
        {children({ x, y, width })}
      </svg>
    </div>
  );
}
