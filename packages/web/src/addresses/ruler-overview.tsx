import type { addressing } from '@deep-patch/core';
import { scaleLinear, type ScaleLinear } from 'd3-scale';
import { useMemo } from 'react';
import type { useRulerWindow } from './use-ruler-window.ts';

const left = 22;
const overviewHeight = 26;

/** The whole of a wide network in one strip, with the window that the ruler shows; buttons for those without a mouse. */
export function RulerOverview({
  ruler,
  view,
  width,
}: {
  ruler: addressing.Ruler;
  view: ReturnType<typeof useRulerWindow>;
  width: number;
}) {
  const x = scaleLinear([0, ruler.size], [left, Math.max(left + 100, width - left - 190)]);
  const marks = useUnitMarks(ruler, width, x);
  return (
    <div className="flex items-center gap-1 pt-1">
      <svg
        width={Math.max(100, width - 190)}
        height={overviewHeight}
        aria-hidden
        className="cursor-pointer"
        onClick={(event) => view.centre(x.invert(event.clientX - event.currentTarget.getBoundingClientRect().left))}
      >
        <rect x={left} y={6} width={x(ruler.size) - left} height={14} rx={2} className="fill-base-100 stroke-line" />
        {ruler.blocks.map(({ id, from, to }) => (
          <rect
            key={id}
            x={x(from)}
            y={6}
            width={Math.max(1, x(to + 1) - x(from))}
            height={14}
            className="fill-accent/25"
          />
        ))}
        <path d={marks} className="stroke-base-content" strokeWidth={1} />
        <rect
          x={x(view.window.from)}
          y={3}
          width={Math.max(4, x(view.window.to) - x(view.window.from))}
          height={20}
          rx={2}
          className="fill-primary/15 stroke-primary"
        />
      </svg>
      {(
        [
          ['Lower', () => view.move(-1), view.isWhole],
          ['Higher', () => view.move(1), view.isWhole],
          ['Closer', () => view.zoom(0.5), !view.canNarrow],
          ['Wider', () => view.zoom(2), view.isWhole],
        ] as const
      ).map(([label, act, isOff]) => (
        <button key={label} type="button" className="btn btn-ghost btn-xs" onClick={act} disabled={isOff}>
          {label}
        </button>
      ))}
    </div>
  );
}

/** Units as one path: there may be thousands. */
function useUnitMarks(ruler: addressing.Ruler, width: number, x: ScaleLinear<number, number>): string {
  return useMemo(() => {
    const columns = new Set(ruler.units.map(({ at }) => Math.round(x(at))));
    return [...columns].map((column) => `M${column} 7v12`).join('');
    // the scale follows from size and width
    // oxlint-disable-next-line react/exhaustive-deps
  }, [ruler.units, ruler.size, width]);
}
