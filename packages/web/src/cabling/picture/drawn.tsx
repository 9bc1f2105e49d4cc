import { cabling, type show as core } from '@deep-patch/core';
import { useMemo, useState } from 'react';
import { useNavigate, useParams } from 'react-router';
import { useShow, useWorkspace } from '../../live/workspace.tsx';
import { goneWith, type IfLost } from './if-lost.ts';
import type { Layout } from './layout.ts';
import type { Question } from './picture-tools.tsx';
import { pathOf, RunLine } from './run-line.tsx';
import type { Shown } from './standing.ts';
import { UnitStrip } from './unit-strip.tsx';
import { useChosen } from './use-chosen.ts';
import type { useWalk } from './use-walk.ts';

/** Below this scale units are too small to read, and fold into their places. */
const foldsBelow = 0.28;
/** From this scale on there is room for lengths. */
const lengthsFrom = 0.55;

interface Props {
  readonly picture: cabling.Picture;
  readonly layout: Layout;
  readonly filter: string;
  readonly question: Question;
  readonly way: readonly cabling.PictureRun[] | undefined;
  readonly walk: ReturnType<typeof useWalk>;
  readonly shown: Shown | undefined;
  readonly lost: IfLost | undefined;
  readonly scale: number;
}

/** Places, runs and units where the layout put them. */
export function Drawn(props: Props) {
  const { picture, layout, scale, walk, shown } = props;
  const isFolded = scale < foldsBelow;
  const { isOn, isMeant } = useChosen(props);
  const [pointed, setPointed] = useState<string>();
  const gone = useMemo(() => goneWith(props.lost, pointed), [props.lost, pointed]);
  const runs = useMemo(() => new Map(picture.runs.map((run) => [run.id, run])), [picture]);
  return (
    <>
      {layout.places.map((box) => (
        <PlaceBox key={box.id} box={box} isFolded={isFolded} picture={picture} />
      ))}
      <Runs {...props} {...{ isFolded, isOn, gone }} onPoint={setPointed} />
      {!isFolded &&
        picture.units.map((unit) => {
          const box = layout.units.get(unit.id);
          const look = {
            isHere: walk.here === unit.id,
            isFaint: !isMeant(unit) || gone.units.has(unit.id),
            standing: shown?.standingOf(unit.id),
          };
          const choose = () => {
            walk.goTo(unit.id);
            shown?.onUnit(unit.id);
          };
          return box && <UnitStrip key={unit.id} {...{ unit, box, runs, ...look }} onChoose={choose} />;
        })}
    </>
  );
}

interface RunsProps {
  readonly isFolded: boolean;
  readonly isOn: (run: cabling.PictureRun) => boolean;
  readonly gone: ReturnType<typeof goneWith>;
  readonly onPoint: (runId: string | undefined) => void;
}

function Runs({ picture, layout, way, walk, scale, isFolded, isOn, gone, lost, onPoint }: Props & RunsProps) {
  const { showId } = useWorkspace();
  const { cableId } = useParams();
  const navigate = useNavigate();
  const show = useShow();
  const placeAt = useMemo(() => {
    const index = new Map(
      picture.units.map(({ id, sockets }) => [id, new Map(sockets.map(({ key }, at) => [key, at]))] as const),
    );
    return (unitId: string, socket: string) => index.get(unitId)?.get(socket) ?? 0;
  }, [picture]);
  return picture.runs.map((run) => {
    const path = pathOf(run, layout, placeAt);
    if (!path || (isFolded && layout.bends.has(run.id))) return null;
    const isStrong = run.id === cableId || run.id === walk.runId || (way?.includes(run) ?? false);
    return (
      <RunLine
        key={run.id}
        run={run}
        path={path}
        look={{
          isFaint: !isOn(run) || (gone.runs.has(run.id) && !gone.lost.has(run.id)),
          isStrong,
          isLost: gone.lost.has(run.id),
          withLength: scale >= lengthsFrom,
        }}
        words={cabling.runWords(show, show.cables[run.id] as core.Cable)}
        onPoint={onPoint}
        onChoose={() =>
          lost?.onRun ? lost.onRun(run.id) : void navigate(`/shows/${showId}/cabling/${run.id}?see=picture`)
        }
      />
    );
  });
}

function PlaceBox({
  box,
  isFolded,
  picture,
}: {
  readonly box: Layout['places'][number];
  readonly isFolded: boolean;
  readonly picture: cabling.Picture;
}) {
  const count = picture.units.filter(({ place }) => place === box.id).length;
  const loose = picture.loose.get(box.id) ?? 0;
  const name = box.id || 'No place';
  return (
    <g>
      <rect x={box.x} y={box.y} width={box.width} height={box.height} rx={8} className="fill-base-200 stroke-rule" />
      <text x={box.x + 14} y={box.y + 22} className="fill-mute text-[17px] font-semibold">
        {isFolded ? '' : name}
        {!isFolded && loose > 0 && ` · ${loose} not plugged in`}
      </text>
      {isFolded && (
        <text
          x={box.x + box.width / 2}
          y={box.y + box.height / 2}
          textAnchor="middle"
          className="fill-base-content text-[64px] font-semibold"
        >
          <tspan x={box.x + box.width / 2}>{name}</tspan>
          <tspan x={box.x + box.width / 2} dy={70} className="fill-mute">
            {count} {count === 1 ? 'unit' : 'units'}
          </tspan>
        </text>
      )}
    </g>
  );
}
