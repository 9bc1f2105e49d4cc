import { show as core, wall as walls } from '@deep-patch/core';
import { useState } from 'react';
import { useNavigate, useParams, useSearchParams } from 'react-router';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import { Mark } from '../parts/mark.tsx';
import { ScreenHead } from '../parts/screen-head.tsx';
import { CausesDialog } from './causes-dialog.tsx';
import { DrawString } from './draw-string.tsx';
import { NewWall } from './new-wall.tsx';
import { TraceDialog } from './trace-dialog.tsx';
import { WallCanvas, savePicture } from './wall-canvas.tsx';
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
      {own ? <WallRoom key={own.wall.id} {...{ own, fromBehind }} /> : !isMaking && <NoWall />}
      {isMaking && <NewWall onClose={() => setQuery({})} />}
      {own && query.get('do') === 'looks' && <CausesDialog own={own} onClose={() => setQuery({})} />}
      {own && query.get('do') === 'trace' && <TraceDialog own={own} onClose={() => setQuery({})} />}
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

function WallRoom({ own, fromBehind }: { readonly own: walls.KnownWall; readonly fromBehind: boolean }) {
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
        <Pictures own={own} />
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

const pictureNames: Readonly<Record<walls.TestPicture, string>> = {
  ...{ orientation: 'Orientation', red: 'Red', green: 'Green', blue: 'Blue', calm: 'Calm', white: 'White' },
  ...{ ramp: 'Grey ramp', grid: 'One-pixel grid', panels: 'Panel numbers', line: 'Moving line' },
};

/** A test picture as it is sent, and as this wall would show it with what is entered. */
function Pictures({ own: { wall, panel } }: { readonly own: walls.KnownWall }) {
  const [kind, setKind] = useState<walls.TestPicture>('orientation');
  const [fault, setFault] = useState(false);
  const isRight = walls.isAsSent(walls.enteredState(wall, panel));
  return (
    <section className="grid gap-2 border-t border-rule py-3" aria-label="Test pictures">
      <div className="grid grid-cols-2 gap-4">
        <WallCanvas {...{ wall, panel, kind }} as="sent" label="sent" name="What is sent" />
        <WallCanvas
          {...{ wall, panel, kind }}
          as="seen"
          name="What is seen"
          label={
            <span className={isRight ? 'text-success' : 'text-error'}>
              <Mark state={isRight ? 'pass' : 'fail'} size={12} /> {isRight ? 'seen: as it is sent' : 'seen: otherwise'}
            </span>
          }
        />
      </div>
      <div className="flex flex-wrap items-center gap-1.5">
        {walls.testPictures.map((each) => (
          <button
            key={each}
            type="button"
            className={`act ${each === kind ? 'border-primary' : ''}`}
            aria-pressed={each === kind}
            onClick={() => setKind(each)}
          >
            {pictureNames[each]}
          </button>
        ))}
        <button
          type="button"
          className="act-quiet ml-auto"
          onClick={() =>
            void savePicture({ wall, panel, kind }).then(
              () => setFault(false),
              () => setFault(true),
            )
          }
        >
          Save as PNG
        </button>
      </div>
      {fault && (
        <p className="text-[13px] text-error">
          The picture could not be painted. Try a smaller wall, or load the page anew.
        </p>
      )}
    </section>
  );
}
