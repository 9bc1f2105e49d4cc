import { surfaces, type show as core } from '@deep-patch/core';
import { scaleLinear } from 'd3-scale';
import { line } from 'd3-shape';

interface Props {
  readonly transfer: core.Transfer | null;
  readonly control: surfaces.SurfaceControl;
  readonly argument: core.Command['args'][number];
  readonly value: number | null;
}

const width = 300;
const height = 170;
const places = 96;
const edge = { left: 52, right: 14, top: 10, bottom: 26 };

/** What the parameter gets from one end of the control's way to the other, with where it stands now. */
export function TransferPlot({ transfer, control, argument, value }: Props) {
  const { least, greatest } = control;
  const { min = 0, max = 1 } = argument;
  const unit = argument.unit ? ` ${argument.unit}` : '';
  const out = (at: number) => surfaces.forArgument(argument, transfer ? surfaces.transferred(transfer, at) : at);
  const points = Array.from({ length: places + 1 }, (_, n) => {
    const at = least + (n / places) * (greatest - least);
    return [at, Math.min(max, Math.max(min, out(at)))] as const;
  });
  const x = scaleLinear([least, greatest], [edge.left, width - edge.right]);
  const y = scaleLinear([min, max], [height - edge.bottom, edge.top]);
  const path = line<readonly [number, number]>(
    ([at]) => x(at),
    ([, to]) => y(to),
  )(points);
  const dead = transfer?.dead ?? 0;
  const now = value === null ? undefined : { at: value, to: Math.min(max, Math.max(min, out(value))) };
  // what it says stays inside, wherever the control stands
  const isLeft = now !== undefined && x(now.at) < width / 2;
  const text = `${shown(least)} gives ${shown(out(least))}${unit}, ${shown(greatest)} gives ${shown(out(greatest))}${unit}`;
  return (
    <svg viewBox={`0 0 ${width} ${height}`} className="w-full" role="img" aria-label={text}>
      {y.ticks(4).map((tick) => (
        <line key={tick} x1={edge.left} x2={width - edge.right} y1={y(tick)} y2={y(tick)} className="stroke-rule" />
      ))}
      {[0, 1].map((n) => (
        <rect
          key={n}
          x={n === 0 ? edge.left : x(greatest - dead * (greatest - least))}
          y={edge.top}
          width={Math.max(0, x(least + dead * (greatest - least)) - edge.left)}
          height={height - edge.top - edge.bottom}
          className="fill-base-300"
        />
      ))}
      <path d={path ?? ''} fill="none" strokeWidth={2} className="stroke-primary" />
      <EndStops {...{ least, greatest, min, max, unit }} y={{ min: y(min), max: y(max) }} />
      {now && (
        <g>
          <circle cx={x(now.at)} cy={y(now.to)} r={4.5} className="fill-primary" />
          <text
            x={x(now.at) + (isLeft ? 8 : -8)}
            textAnchor={isLeft ? 'start' : 'end'}
            y={Math.min(height - edge.bottom - 4, y(now.to) + 16)}
            className="fill-base-content font-mono text-[11px]"
          >
            {`${shown(now.at)} gives ${shown(now.to)}${unit}`}
          </text>
        </g>
      )}
    </svg>
  );
}

/** Where both ranges begin and end. */
function EndStops({
  least,
  greatest,
  min,
  max,
  unit,
  y,
}: Record<'least' | 'greatest' | 'min' | 'max', number> & {
  readonly unit: string;
  readonly y: { readonly min: number; readonly max: number };
}) {
  return (
    <g className="fill-faint font-mono text-[10px]">
      <text x={edge.left - 5} y={y.max + 4} textAnchor="end">{`${shown(max)}${unit}`}</text>
      <text x={edge.left - 5} y={y.min + 4} textAnchor="end">{`${shown(min)}${unit}`}</text>
      <text x={edge.left} y={height - 8}>
        {shown(least)}
      </text>
      <text x={width - edge.right} y={height - 8} textAnchor="end">
        {shown(greatest)}
      </text>
    </g>
  );
}

const shown = (value: number): string => String(Math.round(value * 100) / 100);
