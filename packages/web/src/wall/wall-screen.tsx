import { show as core, wall as walls, type contract } from '@deep-patch/core';
import { useState } from 'react';
import { useBenchPart } from '../live/bench-store.ts';
import { useNavigate, useParams, useSearchParams } from 'react-router';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import { ScreenHead } from '../parts/screen-head.tsx';
import { CausesDialog } from './causes-dialog.tsx';
import { DrawString } from './draw-string.tsx';
import { NewWall } from './new-wall.tsx';
import { Pictures } from './pictures.tsx';
import { TraceDialog } from './trace-dialog.tsx';
import { WallBench } from './wall-bench.tsx';
import { WallDrawing } from './wall-drawing.tsx';
import { WallForm } from './wall-form.tsx';
import { ComparedTable, WallLayers } from './wall-side.tsx';

/** One LED wall at a time: from its panels to a picture that is right from the audience's side. */
export function WallScreen() {
  const show = useShow();
  const { wallId } = useParams();
  const known = walls.knownWalls(show);
  const own = known.find(({ wall }) => wall.id === wallId) ?? known[0];
  const [query, setQuery] = useSearchParams();
  const [fromBehind, setFromBehind] = useState(false);
  const there = useBenchPart((known) => known?.walls.find(({ wallId: id }) => id === own?.wall.id));
  const isMaking = query.get('do') === 'add';
  const lost = core.rowsOf(show, 'walls').length - known.length;
  return (
    <>
      <ScreenHead title="LED wall" summary={own ? sizeWords(own) : ''}>
        <WallChoice known={known} chosen={own?.wall.id} />
        {own && (
          <>
            <button type="button" className="act" onClick={() => setQuery({ do: 'looks' })}>
              It looks wrong
            </button>
            <button type="button" className="act" onClick={() => setQuery({ do: 'trace' })}>
              Trace the order
            </button>
            <button type="button" className="act" aria-pressed={fromBehind} onClick={() => setFromBehind(!fromBehind)}>
              {fromBehind ? 'Seen from behind' : 'Seen from the front'}
            </button>
          </>
        )}
        <button type="button" className={own ? 'act' : 'act-main'} onClick={() => setQuery({ do: 'add' })}>
          New wall
        </button>
      </ScreenHead>
      {lost > 0 && (
        <p className="px-4.5 pb-2 text-[13px] text-error">
          {lost === 1 ? 'One wall is' : `${lost} walls are`} made of panels that no library has: see Findings.
        </p>
      )}
      {own ? <WallRoom key={own.wall.id} {...{ own, fromBehind, there }} /> : !isMaking && <NoWall />}
      {isMaking && <NewWall onClose={() => setQuery({})} />}
      {own && query.get('do') === 'looks' && <CausesDialog own={own} onClose={() => setQuery({})} />}
      {own && query.get('do') === 'trace' && <TraceDialog own={own} there={there} onClose={() => setQuery({})} />}
    </>
  );
}

function NoWall() {
  return (
    <p className="border-t border-rule p-4.5 text-mute">
      No wall yet. Say how many panels it is across and down, and of which kind: the rest is worked out from that.
    </p>
  );
}

function WallChoice({
  known,
  chosen,
}: {
  readonly known: readonly walls.KnownWall[];
  readonly chosen: string | undefined;
}) {
  const { showId } = useWorkspace();
  const navigate = useNavigate();
  if (known.length < 2) return null;
  return (
    <select
      className="field-select w-48"
      aria-label="Wall"
      value={chosen}
      onChange={(event) => void navigate(`/shows/${showId}/wall/${event.target.value}`)}
    >
      {known.map(({ wall }) => (
        <option key={wall.id} value={wall.id}>
          {wall.name}
        </option>
      ))}
    </select>
  );
}

const round = (value: number, digits = 1) => value.toLocaleString('en-GB', { maximumFractionDigits: digits });

function sizeWords({ wall, panel }: walls.KnownWall): string {
  const size = walls.wallSize(wall, panel);
  return [
    wall.name,
    `${size.panels} panels`,
    `${round(size.litPixels / 1e6, 2)} Mpx`,
    `${round(size.kg, 0)} kg`,
    `${round(size.watts / 1000)} kW, ${round(size.amps)} A ${wall.phases === 3 ? 'a phase' : ''}`,
  ].join(' · ');
}

function WallRoom({
  own,
  fromBehind,
  there,
}: {
  readonly own: walls.KnownWall;
  readonly fromBehind: boolean;
  readonly there: contract.WallOnBench | undefined;
}) {
  const { analysis } = useWorkspace();
  const { wall, panel, capacity } = own;
  const [chosen, setChosen] = useState<walls.Place>();
  const [drawn, setDrawn] = useState<walls.DrawnString>();
  const press = (place: walls.Place) => {
    setChosen(place);
    if (drawn) setDrawn(walls.drawnOn(drawn, place));
  };
  const size = walls.wallSize(wall, panel);
  const load = capacity && walls.wallLoad(wall, panel, capacity);
  return (
    <div className="beside border-t border-rule">
      <div className="min-w-0 flex-1 overflow-auto p-4.5">
        <WallDrawing {...{ wall, load, fromBehind, chosen, drawn }} onChoose={setChosen} onPress={press} />
        {wall.parts.length > 0 && <DrawString {...{ own, drawn }} onDraw={setDrawn} />}
        <p className="flex flex-wrap gap-x-4 pt-1 pb-3 text-[13px] text-mute">
          <span>{chosen ? panelWords(wall, chosen) : `seen from ${fromBehind ? 'behind' : 'the audience'}`}</span>
          <span className="key-num ml-auto">
            {size.widthM.toFixed(2)} x {size.heightM.toFixed(2)} m · {size.width} x {size.height} px ·{' '}
            {round(size.width / size.height, 2)} : 1
          </span>
        </p>
        <Pictures own={own} there={there} />
        <WallBench own={own} there={there} />
        <WallForm own={own} load={load} size={size} />
      </div>
      <aside className="panel-below w-108 p-4" aria-label="What is right, and what is not">
        <div className="grid gap-4">
          <WallLayers wall={wall} findings={analysis?.findings ?? []} />
          <ComparedTable wall={wall} panel={panel} />
        </div>
      </aside>
    </div>
  );
}

function panelWords(wall: core.Wall, place: walls.Place): string {
  const part = wall.parts.find((one) => walls.isIn(one, place));
  const string = wall.strings.find(({ path }) => path.some(([c, r]) => c === place[0] && r === place[1]));
  const at = string?.path.findIndex(([c, r]) => c === place[0] && r === place[1]);
  const driven = part ? `, output ${part.output}` : ', in no part';
  return `${walls.placeWords(place)}${driven}${string && at !== undefined ? `, number ${at + 1} of ${string.path.length} on its string` : ''}`;
}
