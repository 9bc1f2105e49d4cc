import { wall as walls, type show as core } from '@deep-patch/core';
import { newId } from '../live/identity.ts';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import { handWork } from './real-words.ts';

/** What mends a wall that really is like that: something to enter, to send again, or to look at with one's own hands. */
export function Mend({
  own,
  real,
  onDone,
}: {
  readonly own: walls.KnownWall;
  readonly real: core.RealWall;
  readonly onDone: () => void;
}) {
  const { save } = useWorkspace();
  const show = useShow();
  const byHand = handWork(real);
  const change = walls.planMend(show, own, real, newId);
  const isOther = walls.wrongCount({ ...real, cuts: [], turned: [], reaches: null }) > 0;
  return (
    <>
      {byHand.map((text) => (
        <p key={text}>{text}</p>
      ))}
      {isOther && change && (
        <button
          type="button"
          className="act-main justify-self-start"
          onClick={() => void save(change).then((done) => done && onDone())}
        >
          Enter it as it is
        </button>
      )}
      {isOther && !change && <p>It is entered right already: send the set-up once more.</p>}
    </>
  );
}
