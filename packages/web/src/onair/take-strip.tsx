import type { onair } from '@deep-patch/core';
import { scaleLinear } from 'd3-scale';
import type { KeyboardEvent, PointerEvent } from 'react';
import { useRef } from 'react';
import { useWidth } from '../parts/use-width.ts';

interface Props {
  readonly takes: readonly onair.Take[];
  /** Pictures a second. */
  readonly rate: number;
  readonly frames: number;
  /** What the plan alone lets expect, in milliseconds. */
  readonly expected: { readonly least: number; readonly most: number } | undefined;
  readonly onFrames: (frames: number) => void;
  readonly onKeep: (frames: number) => void;
}

const lanes = ['Cut pressed', 'Order arrives', 'Player starts', 'First moving frame', 'Bus changes'] as const;
const laneHeight = 40;
const edge = { left: 128, right: 16, top: 8, bottom: 24 };
const height = edge.top + lanes.length * laneHeight + edge.bottom;
const mostFrames = 250;

/** The moments of each take around the cut, in frames; the delay of the bus is a handle. */
export function TakeStrip({ takes, rate, frames, expected, onFrames, onKeep }: Props) {
  const [width, box] = useWidth<HTMLDivElement>(780);
  const inFrames = (ms: number) => (ms * rate) / 1000;
  const slowest = Math.max(inFrames(expected?.most ?? 0), ...takes.map(({ moves }) => inFrames(moves)));
  const last = Math.max(12, Math.ceil(Math.max(slowest, frames) * 1.25) + 2);
  const x = scaleLinear([-2, last], [edge.left, width - edge.right]);
  const laneAt = (lane: number) => edge.top + lane * laneHeight + laneHeight / 2;
  const dots = (['arrives', 'starts', 'moves'] as const).map((of, at) => ({ of, lane: at + 1 }));
  return (
    <div ref={box} className="min-w-0">
      <svg
        width={width}
        height={height}
        className="block max-w-full bg-base-200"
        role="group"
        aria-label="Takes around the cut, in frames"
      >
        {x.ticks(Math.min(last + 2, 20)).map((tick) => (
          <g key={tick}>
            <line x1={x(tick)} x2={x(tick)} y1={edge.top} y2={height - edge.bottom} className="stroke-rule" />
            {tick >= 0 && tick % 5 === 0 && (
              <text x={x(tick)} y={height - 8} textAnchor="middle" className="fill-mute font-mono text-[11px]">
                {tick === 0 ? 'cut' : `+${tick}`}
              </text>
            )}
          </g>
        ))}
        {lanes.map((label, lane) => (
          <text
            key={label}
            x={edge.left - 10}
            y={laneAt(lane) + 4}
            textAnchor="end"
            className="fill-base-content text-[12px] font-semibold"
          >
            {label}
          </text>
        ))}
        <line x1={x(0)} x2={x(0)} y1={edge.top} y2={height - edge.bottom} className="stroke-primary" strokeWidth={2} />
        <path d={`M${x(0) - 6} ${laneAt(0) - 5}h12l-6 9z`} className="fill-primary" />
        {takes.length === 0 && expected && (
          <Expected {...{ x, y: laneAt(3) }} from={inFrames(expected.least)} to={inFrames(expected.most)} />
        )}
        {dots.map(({ of, lane }) => (
          <Lane
            key={of}
            values={takes.map((take) => inFrames(take[of]))}
            {...{ x, y: laneAt(lane) }}
            isLast={of === 'moves'}
          />
        ))}
        <Bus {...{ x, frames, onFrames, onKeep }} y={laneAt(4)} right={width - edge.right} />
        <text x={width - edge.right} y={height - 8} textAnchor="end" className="fill-mute text-[11px]">
          frames at {Math.round(rate * 1000) / 1000}
        </text>
      </svg>
    </div>
  );
}

type Scale = (frames: number) => number;

function Expected({
  x,
  y,
  from,
  to,
}: {
  readonly x: Scale;
  readonly y: number;
  readonly from: number;
  readonly to: number;
}) {
  return (
    <g>
      <rect
        x={x(from)}
        y={y - 6}
        width={Math.max(2, x(to) - x(from))}
        height={12}
        className="fill-accent/25 stroke-accent"
        strokeDasharray="3 3"
      />
      <text x={x(to) + 8} y={y + 4} className="fill-mute text-[11px]">
        by what its type says, nobody tried
      </text>
    </g>
  );
}

/** Every take as a point, with where half and 95 of 100 are. */
function Lane({
  values,
  x,
  y,
  isLast,
}: {
  readonly values: readonly number[];
  readonly x: Scale;
  readonly y: number;
  readonly isLast: boolean;
}) {
  if (values.length === 0) return null;
  const sorted = values.toSorted((a, b) => a - b);
  const at = (share: number) => sorted[Math.max(0, Math.ceil(sorted.length * share) - 1)] ?? 0;
  const colour = isLast ? 'fill-success' : 'fill-accent';
  return (
    <g>
      {values.map((value, n) => (
        // spread over the lane so that points beside each other stay apart
        <circle key={n} cx={x(value)} cy={y - 9 + ((n * 7) % 19)} r={1.9} className={`${colour} opacity-80`} />
      ))}
      <line x1={x(at(0.5))} x2={x(at(0.5))} y1={y - 13} y2={y + 13} className="stroke-base-content" strokeWidth={2.5} />
      <line
        x1={x(at(0.95))}
        x2={x(at(0.95))}
        y1={y - 13}
        y2={y + 13}
        className="stroke-base-content"
        strokeDasharray="2 2"
        strokeWidth={1.5}
      />
      <text x={x(at(1)) + 10} y={y + 4} className="fill-mute text-[11px]">
        {isLast ? `95 of 100 by ${at(0.95).toFixed(1)}` : `median ${at(0.5).toFixed(1)}`}
      </text>
    </g>
  );
}

/** When the bus changes: dragged, or moved by the arrow keys; Enter keeps it. */
function Bus({
  x,
  y,
  frames,
  right,
  onFrames,
  onKeep,
}: Pick<Props, 'frames' | 'onFrames' | 'onKeep'> & {
  readonly x: { (value: number): number; invert: (at: number) => number };
  readonly y: number;
  readonly right: number;
}) {
  const handle = useRef<SVGGElement>(null);
  const drag = (event: PointerEvent) => {
    if (!handle.current?.hasPointerCapture(event.pointerId)) return;
    const left = handle.current.ownerSVGElement?.getBoundingClientRect().left ?? 0;
    onFrames(clamped(Math.round(x.invert(event.clientX - left))));
  };
  const press = (event: KeyboardEvent) => {
    const by = { ArrowRight: 1, ArrowUp: 1, ArrowLeft: -1, ArrowDown: -1 }[event.key];
    if (event.key === 'Enter') onKeep(frames);
    if (by === undefined) return;
    event.preventDefault();
    onFrames(clamped(frames + by));
  };
  const label = frames === 1 ? '1 frame' : `${frames} frames`;
  return (
    <g>
      <rect
        x={x(0)}
        y={y - 7}
        width={Math.max(0, x(frames) - x(0))}
        height={14}
        className="fill-base-300 stroke-line"
      />
      <rect x={x(frames)} y={y - 7} width={Math.max(0, right - x(frames))} height={14} className="fill-success/35" />
      <g
        ref={handle}
        role="slider"
        tabIndex={0}
        aria-label="Take delay in frames"
        aria-valuemin={0}
        aria-valuemax={mostFrames}
        aria-valuenow={frames}
        className="cursor-ew-resize touch-none"
        onPointerDown={(event) => event.currentTarget.setPointerCapture(event.pointerId)}
        onPointerMove={drag}
        onKeyDown={press}
      >
        <rect x={x(frames) - 12} y={y - 16} width={24} height={34} className="fill-transparent" />
        <rect x={x(frames) - 2} y={y - 14} width={4} height={26} className="fill-primary" />
        <rect x={x(frames) - 30} y={y + 13} width={60} height={18} rx={4} className="fill-primary" />
        <text x={x(frames)} y={y + 26} textAnchor="middle" className="fill-primary-content text-[12px] font-bold">
          {label}
        </text>
      </g>
    </g>
  );
}

const clamped = (frames: number): number => Math.min(mostFrames, Math.max(0, frames));
