import { addressing, type show } from '@deep-patch/core';
import type { ScaleLinear } from 'd3-scale';

/** Where the ruler stands in its picture, in pixels. */
export const frame = { height: 142, left: 22, baseline: 110, top: 64 } as const;
const { top, baseline } = frame;
const depth = baseline - top;

export interface Marks {
  readonly ruler: addressing.Ruler;
  readonly x: ScaleLinear<number, number>;
  /** The hosts that are in sight: from, and the first behind them. */
  readonly low: number;
  readonly high: number;
}

const isInSight = ({ low, high }: Marks, from: number, to = from): boolean => to >= low && from < high;

/** What is handed out automatically. */
export function PoolMark(marks: Marks) {
  const {
    ruler: { pool },
    x,
    low,
  } = marks;
  if (!pool || !isInSight(marks, pool.from, pool.to)) return null;
  return (
    <g>
      <defs>
        <pattern id="pool" width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <path d="M0 0v6" className="stroke-line" strokeWidth="2" />
        </pattern>
      </defs>
      <rect
        x={x(pool.from)}
        y={top}
        width={x(pool.to + 1) - x(pool.from)}
        height={depth}
        fill="url(#pool)"
        className="stroke-line"
      />
      <Label at={x(Math.max(low, pool.from))} text="Automatic pool" />
    </g>
  );
}

/** Blocks as they are, or as somebody is dragging them. */
export function BlockMarks({ blocks, ...marks }: Marks & { readonly blocks: addressing.Ruler['blocks'] }) {
  const { x, low } = marks;
  return blocks.map(({ id, label, from, to, keptFree }, at) => (
    <g key={id}>
      <rect
        x={x(from)}
        y={top}
        width={Math.max(2, x(to + 1) - x(from))}
        height={depth}
        rx="3"
        strokeDasharray={keptFree ? '4 3' : undefined}
        className={`stroke-1 ${keptFree ? 'fill-transparent stroke-faint' : at % 2 ? 'fill-accent/12 stroke-accent/50' : 'fill-success/12 stroke-success/50'}`}
      />
      {isInSight(marks, from, to) && <Label at={x(Math.max(low, from))} text={label} />}
    </g>
  ));
}

/** Ranges that are ours by permission, factory addresses that are kept free, and the gateway. */
export function BorderMarks({ ruler, x }: Marks) {
  return (
    <>
      {ruler.granted.map(({ from, to }) => (
        <rect
          key={from}
          x={x(from)}
          y={baseline - 4}
          width={Math.max(3, x(to + 1) - x(from))}
          height={4}
          className="fill-primary"
        >
          <title>Granted to us</title>
        </rect>
      ))}
      {ruler.factory.map(({ at, ip, name }) => (
        <line
          key={ip}
          x1={x(at + 0.5)}
          x2={x(at + 0.5)}
          y1={top + 4}
          y2={baseline}
          className="stroke-warning stroke-2"
          strokeDasharray="2 3"
        >
          <title>{`${ip}: factory address of ${name}, kept free`}</title>
        </line>
      ))}
      {ruler.gateway !== null && (
        <path d={`M${x(ruler.gateway + 0.5)} ${top - 2} l4 -7 h-8z`} className="fill-primary">
          <title>Gateway</title>
        </path>
      )}
    </>
  );
}

/** A unit at its address; several at one are a clash. */
export function UnitMarks({
  selected,
  onSelect,
  ...marks
}: Marks & { readonly selected: string | undefined; readonly onSelect: (addressId: string) => void }) {
  const { ruler, x, low } = marks;
  const bar = Math.max(1.5, Math.min(6, x(low + 1) - x(low) - 1));
  return ruler.units
    .filter(({ at }) => isInSight(marks, at))
    .map(({ at, ip, names, addressId }) => {
      const isClash = names.length > 1;
      const above = isClash ? 0 : 6;
      const tone = addressId === selected ? 'fill-primary' : isClash ? 'fill-error' : 'fill-base-content';
      return (
        <g
          key={ip}
          onClick={(event) => {
            event.stopPropagation();
            onSelect(addressId);
          }}
          className="cursor-pointer"
        >
          <rect x={x(at) + 0.5} y={top + above} width={bar} height={depth - above} className={tone}>
            <title>{`${ip} ${names.join(' and ')}`}</title>
          </rect>
          {isClash && <path d={`M${x(at + 0.5)} ${top} l6 -9 h-12z`} className="fill-error" />}
        </g>
      );
    });
}

export function TickMarks({ network, ...marks }: Marks & { readonly network: show.Network }) {
  const { ruler, x } = marks;
  return ticksOf(marks).map((tick, at) => (
    <g key={tick}>
      <line x1={x(tick)} x2={x(tick)} y1={baseline} y2={baseline + (at % 2 ? 4 : 8)} className="stroke-faint" />
      {at % 2 === 0 && (
        <text x={x(tick)} y={baseline + 22} textAnchor="middle" className="fill-mute font-mono text-[11px]">
          {tick >= ruler.size ? '' : spotLabel(network, tick)}
        </text>
      )}
    </g>
  ));
}

/** What the marks that are there mean, and what the pointer is on. */
export function RulerLegend({
  ruler,
  network,
  pointed,
}: {
  readonly ruler: addressing.Ruler;
  readonly network: show.Network;
  readonly pointed: string | undefined;
}) {
  return (
    <p className="flex flex-wrap gap-x-4 px-4.5 pb-2.5 text-xs text-mute">
      <span>▮ unit</span>
      {ruler.factory.length > 0 && (
        <span className="text-warning">┊ factory address of gear on this job, kept free</span>
      )}
      {ruler.units.some(({ names }) => names.length > 1) && <span className="text-error">▼ clash</span>}
      {ruler.pool && <span>▨ handed out automatically</span>}
      {ruler.granted.length > 0 && <span className="text-primary">▬ granted to us</span>}
      {ruler.gateway !== null && <span className="text-primary">▼ gateway</span>}
      <span>{pointed ?? 'click a free place to put the next unit there'}</span>
      <span className="ml-auto font-mono">
        {ruler.free} free
        {ruler.widest &&
          `, widest gap ${spotLabel(network, ruler.widest.from)} to ${spotLabel(network, ruler.widest.to)}`}
      </span>
    </p>
  );
}

function Label({ at, text }: { at: number; text: string }) {
  return (
    <text
      x={at + 3}
      y={top - 12}
      transform={`rotate(-28 ${at + 3} ${top - 12})`}
      className="fill-base-content text-[11px]"
    >
      {text}
    </text>
  );
}

/** The last figure on a /24, the last two on anything wider. */
function spotLabel(network: show.Network, offset: number): string {
  const ip = addressing.formatIp(addressing.mustIp(network.network) + offset).split('.');
  return network.prefix >= 24 ? `.${ip[3]}` : `.${ip[2]}.${ip[3]}`;
}

/** Round figures up to 256 hosts; beyond that the borders of /24s, so that every mark ends in .0. */
function ticksOf({ x, low, high }: Marks): number[] {
  const span = high - low;
  if (span <= 256) return x.ticks(Math.min(26, span)).filter(Number.isInteger);
  const step = Math.max(256, 2 ** Math.ceil(Math.log2(span / 16)));
  const first = Math.ceil(low / step) * step;
  return Array.from({ length: Math.ceil((high - first) / step) }, (_, at) => first + at * step);
}
