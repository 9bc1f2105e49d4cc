import type { cabling } from '@deep-patch/core';
import { notchAt, size, type Box } from './layout.ts';
import { tone } from './run-line.tsx';
import type { Standing } from './standing.ts';

/** A unit as a strip, with a notch for every socket in the order of its panel. */
export function UnitStrip({
  unit,
  box,
  runs,
  isHere,
  isFaint,
  standing,
  onChoose,
}: {
  readonly unit: cabling.PictureUnit;
  readonly box: Box;
  readonly runs: ReadonlyMap<string, cabling.PictureRun>;
  /** The walk by keys stands here. */
  readonly isHere: boolean;
  readonly isFaint: boolean;
  readonly standing?: Standing | undefined;
  readonly onChoose: () => void;
}) {
  return (
    <g
      transform={`translate(${box.x} ${box.y})`}
      opacity={isFaint ? 0.25 : 1}
      className="cursor-pointer"
      onClick={onChoose}
    >
      <rect
        width={box.width}
        height={box.height}
        rx={4}
        strokeWidth={isHere ? 2 : 1}
        className={`fill-base-300 ${isHere ? 'stroke-primary' : 'stroke-line'}`}
      />
      <text x={size.side} y={20} className="fill-base-content text-[15px] font-semibold">
        {unit.name}
      </text>
      {standing && <Lamp standing={standing} x={box.width - 14} />}
      {unit.inChain !== null && <Bead place={unit.inChain} x={box.width - (standing ? 32 : 14)} />}
      {unit.sockets.map((socket, at) => {
        const run = socket.runId === undefined ? undefined : runs.get(socket.runId);
        const { x, y } = notchAt(at);
        return (
          <rect
            key={socket.key}
            x={x}
            y={y}
            width={size.notch}
            height={size.notch}
            rx={1.5}
            className={`${run && !socket.isShut ? tone(run).fill : 'fill-none'} ${run ? tone(run).stroke : 'stroke-line'}`}
          >
            <title>
              {socket.label}
              {socket.isShut ? ', kept shut by spanning tree' : run ? '' : ', free'}
            </title>
          </rect>
        );
      })}
    </g>
  );
}

/** A unit of a chain is a bead with its place in it. */
const Bead = ({ place, x }: { readonly place: number; readonly x: number }) => (
  <g>
    <title>{`Number ${place} of its chain`}</title>
    <circle cx={x} cy={15} r={9} className="fill-base-100 stroke-base-content" strokeWidth={1.4} />
    <text x={x} y={19} textAnchor="middle" className="fill-base-content font-mono text-[11px]">
      {place}
    </text>
  </g>
);

/** Its shape says as much as its colour: a disc, a ring, a square, an empty square. */
function Lamp({ standing: { tone: how, words }, x }: { readonly standing: Standing; readonly x: number }) {
  const look = {
    well: 'fill-success stroke-success',
    waits: 'fill-none stroke-warning',
    ill: 'fill-error stroke-error',
    off: 'fill-none stroke-mute',
  }[how];
  const isRound = how === 'well' || how === 'waits';
  return (
    <rect x={x - 4} y={10} width={9} height={9} rx={isRound ? 4.5 : 0} strokeWidth={1.8} className={look}>
      <title>{words}</title>
    </rect>
  );
}
