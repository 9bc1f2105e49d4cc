import { addressing, show as core } from '@deep-patch/core';
import type { ScaleLinear } from 'd3-scale';
import { useState, type KeyboardEvent, type PointerEvent } from 'react';
import { useShow, useWorkspace } from '../live/workspace.tsx';

interface Props {
  readonly on: addressing.NetworkFacts;
  readonly blockId: string;
  readonly label: string;
  readonly edge: 'first' | 'last';
  readonly host: number;
  readonly x: ScaleLinear<number, number>;
  readonly top: number;
  readonly height: number;
  /** Told while it moves, so that the block is drawn where it would be; null when it rests. */
  readonly onDraft: (host: number | null) => void;
}

const stepOf = (key: string): number | undefined =>
  ({ ArrowRight: 1, ArrowUp: 1, ArrowLeft: -1, ArrowDown: -1, PageUp: 10, PageDown: -10 })[key];

/** Where an edge is while it is moved, within what it may reach; it rests again once it is kept or let go. */
function useMoving({ on, blockId, edge, host, onDraft }: Omit<Props, 'label' | 'x' | 'top' | 'height'>) {
  const show = useShow();
  const { save } = useWorkspace();
  const [moved, setMoved] = useState<number>();
  const range = addressing.edgeRange(on, blockId, edge);
  const at = moved ?? host;
  const ip = addressing.formatIp(on.subnet.network + at);
  const put = (next: number) => {
    const inside = Math.max(range.from, Math.min(range.to, next));
    setMoved(inside);
    onDraft(inside);
  };
  const rest = () => {
    setMoved(undefined);
    onDraft(null);
  };
  const keep = async () => {
    const row = show.blocks[blockId];
    const label = `Draw ${row?.label} ${edge === 'first' ? 'from' : 'to'} ${ip}`;
    if (row && moved !== undefined && moved !== host)
      await save(core.changeOf(label, [core.updateRow('blocks', row, { [edge]: ip })]));
    rest();
  };
  return { range, at, ip, isMoved: moved !== undefined, put, rest, keep };
}

/** One edge of a block: dragged with the pointer, or moved by arrows and kept with Enter. */
export function BlockEdge(props: Props) {
  const { label, edge, x, top, height } = props;
  const { range, at, ip, isMoved, put, rest, keep } = useMoving(props);
  const hostAt = (event: PointerEvent<SVGRectElement>): number => {
    const box = event.currentTarget.ownerSVGElement?.getBoundingClientRect();
    const exact = x.invert(event.clientX - (box?.left ?? 0));
    return edge === 'first' ? Math.round(exact) : Math.round(exact) - 1;
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const step = stepOf(event.key);
    if (step !== undefined) put(at + step);
    else if (event.key === 'Home') put(range.from);
    else if (event.key === 'End') put(range.to);
    else if (event.key === 'Enter') void keep();
    else if (event.key === 'Escape' && isMoved) rest();
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  return (
    <rect
      role="slider"
      tabIndex={0}
      aria-label={`${edge === 'first' ? 'Start' : 'End'} of ${label}`}
      aria-valuemin={range.from}
      aria-valuemax={range.to}
      aria-valuenow={at}
      aria-valuetext={isMoved ? `${ip}, press Enter to keep it` : ip}
      x={x(edge === 'first' ? at : at + 1) - 4}
      y={top}
      width={8}
      height={height}
      rx={2}
      className="cursor-ew-resize fill-transparent outline-offset-0 hover:fill-primary/50 focus-visible:fill-primary/60"
      onKeyDown={onKeyDown}
      onBlur={rest}
      onPointerDown={(event) => {
        event.preventDefault();
        event.currentTarget.setPointerCapture(event.pointerId);
        put(hostAt(event));
      }}
      onPointerMove={(event) => event.currentTarget.hasPointerCapture(event.pointerId) && put(hostAt(event))}
      onPointerUp={(event) => {
        event.currentTarget.releasePointerCapture(event.pointerId);
        void keep();
      }}
    >
      <title>{`${edge === 'first' ? 'Start' : 'End'} of ${label}: drag, or use the arrows and Enter`}</title>
    </rect>
  );
}
