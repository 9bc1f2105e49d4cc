import { show as core, wall as walls, type contract } from '@deep-patch/core';
import { useState } from 'react';
import { useBench } from '../bench/use-bench.ts';
import { Mark } from '../parts/mark.tsx';
import { shownOn } from './shown-on.ts';
import { WallCanvas, savePicture } from './wall-canvas.tsx';

const pictureNames: Readonly<Record<core.TestPicture, string>> = {
  ...{ orientation: 'Orientation', red: 'Red', green: 'Green', blue: 'Blue', calm: 'Calm', white: 'White' },
  ...{ ramp: 'Grey ramp', grid: 'One-pixel grid', panels: 'Panel numbers', line: 'Moving line' },
};

/**
 * A test picture as it is sent, and as this wall shows it: as it hangs on the bench while it has power there, else with
 * what is entered.
 */
export function Pictures({
  own: { wall, panel },
  there,
}: {
  readonly own: walls.KnownWall;
  readonly there: contract.WallOnBench | undefined;
}) {
  const { act } = useBench();
  const [planned, setPlanned] = useState<core.TestPicture>('orientation');
  const onBench = there?.powered ? there : undefined;
  const kind = onBench?.picture ?? planned;
  const sender = onBench?.sender ?? 'processor';
  const send = (picture: core.TestPicture, from: walls.Sender = sender) => {
    setPlanned(picture);
    if (onBench) void act({ act: 'wall_send', wallId: wall.id, picture, sender: from });
  };
  const shown = onBench && shownOn(onBench);
  const state = shown ? walls.runningState(wall, panel, shown.running, shown.sender) : walls.enteredState(wall, panel);
  const isRight = walls.isAsSent(state);
  return (
    <section className="grid gap-2 border-t border-rule py-3" aria-label="Test pictures">
      <div className="grid grid-cols-2 gap-4">
        <WallCanvas {...{ wall, panel, kind }} as="sent" label="sent" name="What is sent" />
        <WallCanvas
          {...{ wall, panel, kind }}
          as={shown ?? 'seen'}
          name="What is seen"
          label={
            <span className={isRight ? 'text-success' : 'text-error'}>
              <Mark state={isRight ? 'pass' : 'fail'} size={12} /> {onBench ? 'seen on the bench' : 'seen'}
              {isRight ? ': as it is sent' : state.isCutOff ? ': dark' : ': otherwise'}
            </span>
          }
        />
      </div>
      {onBench && <Senders sender={sender} onSend={(from) => send(kind, from)} />}
      <Kinds {...{ wall, panel, kind }} onSend={send} />
    </section>
  );
}

function Senders({
  sender,
  onSend: send,
}: {
  readonly sender: walls.Sender;
  readonly onSend: (sender: walls.Sender) => void;
}) {
  return (
    <fieldset className="flex flex-wrap items-center gap-x-4 text-[13px]">
      <legend className="sr-only">Who sends it</legend>
      {(['processor', 'player'] as const).map((from) => (
        <label key={from} className="flex items-center gap-1.5">
          <input type="radio" className="radio radio-xs" checked={sender === from} onChange={() => send(from)} />
          {from === 'player' ? 'The player sends it' : 'The processor sends it by itself'}
        </label>
      ))}
    </fieldset>
  );
}

/** The pictures to choose from; each as a file of the wall's exact size. */
function Kinds({
  wall,
  panel,
  kind,
  onSend: send,
}: {
  readonly wall: core.Wall;
  readonly panel: walls.Panel;
  readonly kind: core.TestPicture;
  readonly onSend: (picture: core.TestPicture) => void;
}) {
  const [fault, setFault] = useState(false);
  return (
    <>
      <div className="flex flex-wrap items-center gap-1.5">
        {core.testPictures.map((each) => (
          <button
            key={each}
            type="button"
            className={`act ${each === kind ? 'border-primary' : ''}`}
            aria-pressed={each === kind}
            onClick={() => send(each)}
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
    </>
  );
}
