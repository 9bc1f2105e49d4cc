import { addressing } from '@deep-patch/core';
import { scaleLinear } from 'd3-scale';
import { useState, type MouseEvent, type ReactNode } from 'react';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import { useWidth } from '../parts/use-width.ts';
import { RulerCaret, spotWords } from './ruler-caret.tsx';
import { BlockEdge } from './ruler-edges.tsx';
import {
  BlockMarks,
  BorderMarks,
  frame,
  PoolMark,
  RulerLegend,
  TickMarks,
  UnitMarks,
  type Marks,
} from './ruler-marks.tsx';
import { RulerOverview } from './ruler-overview.tsx';
import { useRulerWindow } from './use-ruler-window.ts';

const { height, left, baseline, top } = frame;

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
  const [width, box] = useWidth<HTMLDivElement>(900);
  const view = useRulerWindow(ruler.size, lastUsed(ruler));
  const [pointed, setPointed] = useState<number>();
  const place = usePlacing(facts, on);
  const { from: low, to: high } = view.window;
  const x = scaleLinear([low, high], [left, Math.max(left + 100, width - left)]);
  const marks = { ruler, x, low, high };
  const hostAt = (event: MouseEvent<SVGSVGElement>): number | undefined => {
    const bounds = event.currentTarget.getBoundingClientRect();
    const y = event.clientY - bounds.top;
    const host = Math.floor(x.invert(event.clientX - bounds.left));
    return y < top || y > baseline || host < 0 || host >= ruler.size ? undefined : host;
  };
  return (
    <div ref={box} className="shrink-0 border-b border-rule bg-base-200">
      {ruler.size > 256 && <RulerOverview ruler={ruler} view={view} width={width} />}
      <svg
        width={width}
        height={height}
        role="group"
        aria-label={`Ruler of ${on.network.name}`}
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
          <PoolMark {...marks} />
          <Blocks {...marks} on={on}>
            <BorderMarks {...marks} />
            <UnitMarks {...marks} selected={selected} onSelect={onSelect} />
          </Blocks>
          <Caret {...marks} facts={facts} on={on} onLeave={view.centre} onPlace={place} />
        </g>
        <line
          x1={left}
          x2={Math.max(left, width - left)}
          y1={baseline + 0.5}
          y2={baseline + 0.5}
          className="stroke-line"
        />
        <TickMarks {...marks} network={on.network} />
      </svg>
      <RulerLegend
        ruler={ruler}
        network={on.network}
        pointed={pointed === undefined ? undefined : spotWords(addressing.spotAt(facts, on, pointed))}
      />
    </div>
  );
}

const lastUsed = ({ units, blocks, pool }: addressing.Ruler): number =>
  Math.max(0, ...units.map(({ at }) => at), ...blocks.map(({ to }) => to), pool?.to ?? 0);

/** Puts the next waiting unit on a host, where that is free. */
function usePlacing(facts: addressing.AddressingFacts, on: addressing.NetworkFacts) {
  const show = useShow();
  const { save } = useWorkspace();
  return (host: number) => {
    const { next, obstacle } = addressing.spotAt(facts, on, host);
    if (next && !obstacle) void save(addressing.planMove(show, next.address, on.subnet.network + host, false));
  };
}

/** Blocks below, what stands on them, and above that the edges to drag. */
function Blocks({ on, children, ...marks }: Marks & Pick<Props, 'on'> & { readonly children: ReactNode }) {
  const { ruler, x } = marks;
  const [draft, setDraft] = useState<{ key: string; host: number }>();
  const blocks = ruler.blocks.map((block) => {
    const moved = (edge: string) => (draft?.key === `${block.id} ${edge}` ? draft.host : undefined);
    return { ...block, from: moved('first') ?? block.from, to: moved('last') ?? block.to };
  });
  return (
    <>
      <BlockMarks {...marks} blocks={blocks} />
      {children}
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
    </>
  );
}

/** The place that keys move, which stays in sight. */
function Caret({
  ruler,
  x,
  low,
  high,
  facts,
  on,
  onLeave,
  onPlace,
}: Marks &
  Pick<Props, 'facts' | 'on'> & {
    readonly onLeave: (host: number) => void;
    readonly onPlace: (host: number) => void;
  }) {
  const [caret, setCaret] = useState(1);
  return (
    <RulerCaret
      spot={addressing.spotAt(facts, on, caret)}
      host={caret}
      size={ruler.size}
      x={x}
      top={top}
      baseline={baseline}
      onMove={(host) => {
        setCaret(host);
        if (host < low || host >= high) onLeave(host);
      }}
      onPlace={() => onPlace(caret)}
    />
  );
}
