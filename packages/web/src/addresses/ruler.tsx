import { addressing, type show } from '@deep-patch/core';
import { scaleLinear, type ScaleLinear } from 'd3-scale';
import { useState, type MouseEvent } from 'react';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import { BlockEdge } from './ruler-edges.tsx';
import { RulerOverview } from './ruler-overview.tsx';
import { RulerCaret, spotWords } from './ruler-caret.tsx';
import { useRulerWindow } from './use-ruler-window.ts';
import { useWidth } from '../parts/use-width.ts';

const height = 142;
const left = 22;
const baseline = 110;
const top = 64;

interface Props {
  readonly ruler: addressing.Ruler;
  readonly facts: addressing.AddressingFacts;
  readonly on: addressing.NetworkFacts;
  readonly selected: string | undefined;
  readonly onSelect: (addressId: string) => void;
}

/**
 * One network drawn to scale: blocks with edges to drag, the automatic pool, units, factory addresses kept free, and
 * clashes. A click on a free place puts the next waiting unit there; wide networks are looked at through a window.
 */
export function NetworkRuler({ ruler, facts, on, selected, onSelect }: Props) {
  const show = useShow();
  const { save } = useWorkspace();
  const { network } = on;
  const [width, box] = useWidth<HTMLDivElement>(900);
  const used = Math.max(
    0,
    ...ruler.units.map(({ at }) => at),
    ...ruler.blocks.map(({ to }) => to),
    ruler.pool?.to ?? 0,
  );
  const view = useRulerWindow(ruler.size, used);
  const [caret, setCaret] = useState(1);
  const [pointed, setPointed] = useState<number>();
  const [draft, setDraft] = useState<{ key: string; host: number }>();
  const { from: low, to: high } = view.window;
  const x = scaleLinear([low, high], [left, Math.max(left + 100, width - left)]);
  const bar = Math.max(1.5, Math.min(6, x(low + 1) - x(low) - 1));
  const isIn = (from: number, to = from) => to >= low && from < high;
  const spot = addressing.spotAt(facts, on, pointed ?? caret);
  const place = (host: number) => {
    const { next, obstacle } = addressing.spotAt(facts, on, host);
    if (next && !obstacle) void save(addressing.planMove(show, next.address, on.subnet.network + host, false));
  };
  const hostAt = (event: MouseEvent<SVGSVGElement>): number | undefined => {
    const bounds = event.currentTarget.getBoundingClientRect();
    const y = event.clientY - bounds.top;
    const host = Math.floor(x.invert(event.clientX - bounds.left));
    return y < top || y > baseline || host < 0 || host >= ruler.size ? undefined : host;
  };
  const blocks = ruler.blocks.map((block) => {
    const moved = (edge: string) => (draft?.key === `${block.id} ${edge}` ? draft.host : undefined);
    return { ...block, from: moved('first') ?? block.from, to: moved('last') ?? block.to };
  });
  const units = ruler.units.filter(({ at }) => isIn(at));
  return (
    <div ref={box} className="shrink-0 border-b border-rule bg-base-200">
      {ruler.size > 256 && <RulerOverview ruler={ruler} view={view} width={width} />}
      <svg
        width={width}
        height={height}
        role="group"
        aria-label={`Ruler of ${network.name}`}
        className="block"
        onMouseMove={(event) => setPointed(hostAt(event))}
        onMouseLeave={() => setPointed(undefined)}
        onClick={(event) => {
          const host = hostAt(event);
          if (host !== undefined) place(host);
        }}
      >
        <clipPath id="ruler-window">
          <rect x={left - 6} y={0} width={Math.max(0, width - 2 * left + 12)} height={height} />
        </clipPath>
        <g clipPath={view.isWhole ? undefined : 'url(#ruler-window)'}>
          {ruler.pool && isIn(ruler.pool.from, ruler.pool.to) && (
            <g>
              <defs>
                <pattern id="pool" width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
                  <path d="M0 0v6" className="stroke-line" strokeWidth="2" />
                </pattern>
              </defs>
              <rect
                x={x(ruler.pool.from)}
                y={top}
                width={x(ruler.pool.to + 1) - x(ruler.pool.from)}
                height={baseline - top}
                fill="url(#pool)"
                className="stroke-line"
              />
              <Label at={x(Math.max(low, ruler.pool.from))} text="Automatic pool" />
            </g>
          )}
          {blocks.map(({ id, label, from, to, keptFree }, at) => (
            <g key={id}>
              <rect
                x={x(from)}
                y={top}
                width={Math.max(2, x(to + 1) - x(from))}
                height={baseline - top}
                rx="3"
                strokeDasharray={keptFree ? '4 3' : undefined}
                className={`stroke-1 ${keptFree ? 'fill-transparent stroke-faint' : at % 2 ? 'fill-accent/12 stroke-accent/50' : 'fill-success/12 stroke-success/50'}`}
              />
              {isIn(from, to) && <Label at={x(Math.max(low, from))} text={label} />}
            </g>
          ))}
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
          {units.map(({ at, ip, names, addressId }) => {
            const clash = names.length > 1;
            const chosen = addressId === selected;
            return (
              <g
                key={ip}
                onClick={(event) => {
                  event.stopPropagation();
                  onSelect(addressId);
                }}
                className="cursor-pointer"
              >
                <rect
                  x={x(at) + 0.5}
                  y={top + (clash ? 0 : 6)}
                  width={bar}
                  height={baseline - top - (clash ? 0 : 6)}
                  className={chosen ? 'fill-primary' : clash ? 'fill-error' : 'fill-base-content'}
                >
                  <title>{`${ip} ${names.join(' and ')}`}</title>
                </rect>
                {clash && <path d={`M${x(at + 0.5)} ${top} l6 -9 h-12z`} className="fill-error" />}
              </g>
            );
          })}
          {ruler.blocks.flatMap(({ id, label, from, to }) =>
            (['first', 'last'] as const).map((edge) => (
              <BlockEdge
                key={`${id} ${edge}`}
                on={on}
                blockId={id}
                label={label}
                edge={edge}
                host={edge === 'first' ? from : to}
                x={x}
                top={top}
                height={baseline - top}
                onDraft={(host) => setDraft(host === null ? undefined : { key: `${id} ${edge}`, host })}
              />
            )),
          )}
          <RulerCaret
            spot={addressing.spotAt(facts, on, caret)}
            host={caret}
            size={ruler.size}
            x={x}
            top={top}
            baseline={baseline}
            onMove={(host) => {
              setCaret(host);
              if (!isIn(host)) view.centre(host);
            }}
            onPlace={() => place(caret)}
          />
        </g>
        <line
          x1={left}
          x2={Math.max(left, width - left)}
          y1={baseline + 0.5}
          y2={baseline + 0.5}
          className="stroke-line"
        />
        {ticksOf(x, low, high).map((tick, at) => (
          <g key={tick}>
            <line x1={x(tick)} x2={x(tick)} y1={baseline} y2={baseline + (at % 2 ? 4 : 8)} className="stroke-faint" />
            {at % 2 === 0 && (
              <text x={x(tick)} y={baseline + 22} textAnchor="middle" className="fill-mute font-mono text-[11px]">
                {tickLabel(network, ruler, tick)}
              </text>
            )}
          </g>
        ))}
      </svg>
      <p className="flex flex-wrap gap-x-4 px-4.5 pb-2.5 text-xs text-mute">
        <span>▮ unit</span>
        {ruler.factory.length > 0 && (
          <span className="text-warning">┊ factory address of gear on this job, kept free</span>
        )}
        {ruler.units.some(({ names }) => names.length > 1) && <span className="text-error">▼ clash</span>}
        {ruler.pool && <span>▨ handed out automatically</span>}
        {ruler.granted.length > 0 && <span className="text-primary">▬ granted to us</span>}
        {ruler.gateway !== null && <span className="text-primary">▼ gateway</span>}
        <span>{pointed === undefined ? 'click a free place to put the next unit there' : spotWords(spot)}</span>
        <span className="ml-auto font-mono">
          {ruler.free} free
          {ruler.widest &&
            `, widest gap ${spotLabel(network, ruler.widest.from)} to ${spotLabel(network, ruler.widest.to)}`}
        </span>
      </p>
    </div>
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

const tickLabel = (network: show.Network, { size }: addressing.Ruler, tick: number): string =>
  tick >= size ? '' : spotLabel(network, tick);

/** Round figures up to 256 hosts; beyond that the borders of /24s, so that every mark ends in .0. */
function ticksOf(x: ScaleLinear<number, number>, low: number, high: number): number[] {
  const span = high - low;
  if (span <= 256) return x.ticks(Math.min(26, span)).filter(Number.isInteger);
  const step = Math.max(256, 2 ** Math.ceil(Math.log2(span / 16)));
  const first = Math.ceil(low / step) * step;
  return Array.from({ length: Math.ceil((high - first) / step) }, (_, at) => first + at * step);
}
