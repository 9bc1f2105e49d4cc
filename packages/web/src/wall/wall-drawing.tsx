import { wall as core, type show } from '@deep-patch/core';
import type { KeyboardEvent } from 'react';
import { useWidth } from '../parts/use-width.ts';

const tints = ['var(--color-success)', 'var(--color-info)', '#d9a0e8', 'var(--color-primary)', '#8fd0d8', '#e89a7c'];
const tintOf = (output: number) => tints[(output - 1) % tints.length] ?? 'var(--color-accent)';
const mostHeight = 340;
const smallest = 14;

interface Props {
  readonly wall: show.Wall;
  readonly load: core.WallLoad | undefined;
  readonly fromBehind: boolean;
  readonly chosen: core.Place | undefined;
  readonly onChoose: (place: core.Place) => void;
  /** It was clicked, or Enter was pressed on it. */
  readonly onPress: (place: core.Place) => void;
  /** A string that is being drawn, in place of the one that its output has. */
  readonly drawn: core.DrawnString | undefined;
}

/** Where a panel is drawn: seen from behind, the last column is the first. */
interface Frame {
  readonly size: number;
  readonly xOf: (column: number) => number;
  readonly yOf: (row: number) => number;
}

/** The wall with its parts, the way of the data through each, and where a string ends too early. */
export function WallDrawing(props: Props) {
  const { wall, fromBehind, drawn } = props;
  const others = wall.strings.filter(({ output }) => output !== drawn?.output);
  const strings = drawn ? [...others, drawn] : wall.strings;
  const [width, box] = useWidth<HTMLDivElement>(700);
  const [across, down] = [wall.columns.length, core.downOf(wall)];
  const size = Math.max(smallest, Math.min((width - 8) / across, mostHeight / down));
  const frame: Frame = {
    size,
    xOf: (column) => (fromBehind ? across - 1 - column : column) * size + 4,
    yOf: (row) => row * size + 22,
  };
  return (
    <div ref={box} className="min-w-0 overflow-x-auto">
      <svg
        width={across * size + 8}
        height={down * size + 30}
        className="block"
        role="application"
        tabIndex={0}
        aria-label={`${wall.name}, ${across} by ${down} panels, seen from ${fromBehind ? 'behind' : 'the audience'}`}
        onKeyDown={(event) => moved(event, props)}
      >
        <Parts {...props} frame={frame} />
        <Panels {...props} frame={frame} />
        {strings.map(({ output, path }) => (
          <Way
            key={output}
            colour={tintOf(output)}
            points={path.map(([c, r]) => [frame.xOf(c) + size / 2, frame.yOf(r) + size / 2])}
            size={size}
          />
        ))}
        {core
          .stringCounts(wall)
          .flatMap(({ missing }) => (missing ? [missing] : []))
          .map((place) => (
            <Silent key={String(place)} {...{ place, frame }} />
          ))}
      </svg>
    </div>
  );
}

function moved(event: KeyboardEvent, { wall, fromBehind, chosen, onChoose, onPress }: Props): void {
  if (chosen && (event.key === 'Enter' || event.key === ' ')) {
    event.preventDefault();
    onPress(chosen);
  }
  const step = { ArrowRight: [1, 0], ArrowLeft: [-1, 0], ArrowDown: [0, 1], ArrowUp: [0, -1] }[event.key];
  if (!step) return;
  event.preventDefault();
  const [dx = 0, dy = 0] = step;
  const [column, row] = chosen ?? [0, 0];
  const to = core.placesOf(wall).find(([c, r]) => c === column + (fromBehind ? -dx : dx) && r === row + dy);
  if (to) onChoose(to);
}

function Parts({ wall, load, frame: { size, xOf, yOf } }: Props & { readonly frame: Frame }) {
  return wall.parts.map((part) => {
    const share = load?.outputs.find((one) => one.part.output === part.output)?.share;
    const left = Math.min(xOf(part.x), xOf(part.x + part.width - 1));
    const words = part.width * size > 120 ? `output ${part.output}` : String(part.output);
    return (
      <g key={part.output}>
        <rect
          x={left}
          y={yOf(part.y)}
          width={part.width * size}
          height={part.height * size}
          fill={tintOf(part.output)}
          opacity={0.13}
        />
        {part.width * size > 44 && (
          <text x={left + 2} y={14} className="fill-mute text-[12px]">
            {words}
            {share === undefined ? '' : ` · ${Math.round(share * 100)} %`}
          </text>
        )}
      </g>
    );
  });
}

function Panels({ wall, chosen, onPress, frame: { size, xOf, yOf } }: Props & { readonly frame: Frame }) {
  return core.placesOf(wall).map((place) => {
    const isChosen = chosen?.[0] === place[0] && chosen[1] === place[1];
    const isDriven = wall.parts.some((part) => core.isIn(part, place));
    return (
      <rect
        key={String(place)}
        x={xOf(place[0]) + 1}
        y={yOf(place[1]) + 1}
        width={size - 2}
        height={size - 2}
        rx={Math.min(3, size / 8)}
        className={`fill-base-300/40 ${isChosen ? 'stroke-primary' : isDriven ? 'stroke-line' : 'stroke-error'}`}
        strokeWidth={isChosen ? 2 : 1}
        onClick={() => onPress(place)}
      />
    );
  });
}

/** The panel at which a string goes silent. */
function Silent({
  place: [column, row],
  frame: { size, xOf, yOf },
}: {
  readonly place: core.Place;
  readonly frame: Frame;
}) {
  const [x, y, arm] = [xOf(column), yOf(row), size * 0.3];
  return (
    <g className="stroke-error">
      <rect x={x + 1} y={y + 1} width={size - 2} height={size - 2} className="fill-error/30" strokeWidth={2} />
      <path d={`M${x + size * 0.35} ${y + size * 0.35}l${arm} ${arm}m0 ${-arm}l${-arm} ${arm}`} strokeWidth={2} />
    </g>
  );
}

function Way({
  points,
  colour,
  size,
}: {
  readonly points: readonly (readonly [number, number])[];
  readonly colour: string;
  readonly size: number;
}) {
  const [first, last, before] = [points[0], points.at(-1), points.at(-2)];
  if (!first || !last) return null;
  const turn = before ? (Math.atan2(last[1] - before[1], last[0] - before[0]) * 180) / Math.PI : 0;
  const head = Math.min(12, Math.max(4, size * 0.16));
  return (
    <g fill={colour} stroke={colour} pointerEvents="none">
      <polyline points={points.map(String).join(' ')} fill="none" strokeWidth={Math.min(4, Math.max(1.5, size / 16))} />
      <circle cx={first[0]} cy={first[1]} r={head * 0.8} />
      <path
        d={`M${head} 0L${-head * 0.6} ${head}V${-head}Z`}
        transform={`translate(${last[0]} ${last[1]}) rotate(${turn})`}
      />
    </g>
  );
}
