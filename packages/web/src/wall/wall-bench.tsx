import { show as core, type contract, type wall as walls } from '@deep-patch/core';
import { useBench } from '../bench/use-bench.ts';
import { useShow } from '../live/workspace.tsx';
import { Mark } from '../parts/mark.tsx';
import { useEdit } from './use-edit.ts';
import { Otherwise } from './otherwise.tsx';

interface Props {
  readonly own: walls.KnownWall;
  readonly there: contract.WallOnBench | undefined;
}

const darkWords: Readonly<Record<contract.WallDark, string>> = {
  no_power: 'It has no power.',
  nothing_runs: 'It is dark: nothing runs in its receivers. Send the set-up.',
  processor_off: 'It is dark: whatever drives it is not switched on.',
  player_off: 'It is dark: the player is off, or its output is not switched on, saved and started again.',
  interface: 'It is dark: what the player sends goes out by another interface.',
};

/** The wall as it hangs on the bench: set up, stored, looked at, and with something wrong that nobody told. */
export function WallBench({ own, there }: Props) {
  const { act, power, problem } = useBench();
  const show = useShow();
  const edit = useEdit(own);
  const { wall } = own;
  const onWall = { wallId: wall.id };
  const units = [wall.processorId, wall.playerOutput.deviceId].flatMap((id) =>
    id !== null && show.devices[id] ? [id] : [],
  );
  const powerOn = async (): Promise<void> => {
    if (units.length > 0) await power(units, true);
    await act({ act: 'wall_power', ...onWall, on: true });
  };
  return (
    <section className="grid gap-3 border-t border-rule py-3" aria-label="On the bench">
      <div className="flex flex-wrap items-baseline gap-x-3 gap-y-1">
        <h2 className="font-bold">On the bench</h2>
        <p className="text-[13px]" role="status">
          {problem ? 'The bench does not answer.' : there ? <StateWords {...{ own, there }} /> : 'The bench starts …'}
        </p>
      </div>
      <div className="flex flex-wrap gap-2">
        {there?.powered ? (
          <>
            <button type="button" className="act-main" onClick={() => void act({ act: 'wall_apply', ...onWall })}>
              Send the set-up
            </button>
            <button type="button" className="act" onClick={() => void act({ act: 'wall_detect', ...onWall })}>
              Look what hangs on it
            </button>
            <button
              type="button"
              className="act"
              disabled={!there.runs}
              onClick={() =>
                void act({ act: 'wall_store', ...onWall }).then((done) => done && edit('stored', { stored: true }))
              }
            >
              Store it in the receivers
            </button>
            <button type="button" className="act" onClick={() => void act({ act: 'wall_power', ...onWall, on: false })}>
              Power off
            </button>
          </>
        ) : (
          <button type="button" className="act-main" disabled={!there} onClick={() => void powerOn()}>
            Power on
          </button>
        )}
      </div>
      {there?.found && <Found {...{ own }} found={there.found} />}
      {there?.powered && <Otherwise {...{ own, there, act }} />}
    </section>
  );
}

function StateWords({ own: { wall }, there }: { readonly own: walls.KnownWall; readonly there: contract.WallOnBench }) {
  const dark = there.dark[there.sender];
  const { runs } = there;
  const isBehind =
    runs !== null &&
    (['program', 'parts', 'numberedFrom'] as const).some((field) => !core.isEqual(runs[field], wall[field]));
  const sender = there.sender === 'player' ? 'the player' : 'the processor';
  return (
    <>
      {dark ? (
        <span className={dark === 'no_power' ? 'text-mute' : 'text-error'}>
          <Mark state={dark === 'no_power' ? 'waits' : 'fail'} size={12} /> {darkWords[dark]}
        </span>
      ) : (
        <span>
          It shows what {sender} sends. {there.isStored ? 'That is stored.' : 'It is not stored: a power cut takes it.'}
        </span>
      )}
      {isBehind && there.powered && (
        <span className="text-warning"> What is entered has changed since: send the set-up again.</span>
      )}
      {there.hides && <span className="text-warning"> Something is otherwise than it is entered.</span>}
    </>
  );
}

/** What each output counts there, to be written down before anything is built on it (need 6.10). */
function Found({ own, found }: { readonly own: walls.KnownWall; readonly found: core.Wall['found'] }) {
  const edit = useEdit(own);
  const isKnown = core.isEqual(found, own.wall.found);
  return (
    <p className="flex flex-wrap items-baseline gap-x-3 gap-y-1 text-[13px]">
      <span>Found: {found.map(({ output, panels }) => `${panels} panels on output ${output}`).join(', ')}</span>
      {isKnown ? (
        <span className="text-mute">as it is written down</span>
      ) : (
        <button type="button" className="act" onClick={() => edit('what is found', { found })}>
          Write it down
        </button>
      )}
    </p>
  );
}
