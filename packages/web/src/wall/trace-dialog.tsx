import { wall as walls } from '@deep-patch/core';
import { useMemo, useState } from 'react';
import { useWorkspace } from '../live/workspace.tsx';
import { Dialog } from '../parts/dialog.tsx';
import { Mark } from '../parts/mark.tsx';

const questions: Readonly<Record<walls.TraceTest, string>> = {
  red_then_green: 'Send the whole wall red, and then green. Which light comes first, and which after it?',
  top_row: 'Send a line along the top row of every module. Which rows of a module are lit?',
  second_row: 'Send a line along the second row of every module. Which rows of a module are lit?',
  left_point:
    'Send one point at the left, in the last row but one of every module. Where in a module does it blink? On several receivers at once is normal.',
  first_receiver: 'Let the first receiver blink. At which place is it, counted by the audience from the left?',
};

/** Asks what is seen, the question that tells most first, until one wall is left. */
export function TraceDialog({ own, onClose }: { readonly own: walls.KnownWall; readonly onClose: () => void }) {
  const { save } = useWorkspace();
  const { wall, panel } = own;
  const [answers, setAnswers] = useState<readonly walls.Answered[]>([]);
  const tracing = useMemo(() => {
    return walls.traceOf({ panel, parts: wall.parts, entered: walls.enteredModule(wall, panel) });
  }, [wall, panel]);
  const still = walls.left(tracing, answers);
  const test = walls.nextTest(
    tracing,
    still,
    answers.map((one) => one.test),
  );
  const [found] = still.length === 1 ? still : [];
  const keep = () => {
    if (!found) return;
    const { scan, colours, dataFrom, fromBehind } = found;
    const program = { ...wall.program, scan, colours, dataFrom };
    void save(
      walls.planWall(wall, 'as it was traced', {
        program,
        ...(fromBehind ? walls.renumbered(wall) : {}),
        numberedFrom: 'front',
        stored: false,
      }),
    ).then((done) => done && onClose());
  };
  return (
    <Dialog title={`Trace the order of ${wall.name}`} onClose={onClose} unsaved={answers.length > 0}>
      <div className="grid gap-4">
        <Asked
          {...{ answers }}
          onUndo={(at) => setAnswers(answers.toSpliced(at, 1))}
          contradicting={walls.contradicting(tracing, answers)}
        />
        {test && still.length > 1 && (
          <Question {...{ tracing, test }} onAnswer={(answer) => setAnswers([...answers, { test, answer }])} />
        )}
        {found && <Found found={found} onKeep={keep} />}
        <p className="text-[13px] text-mute" role="status">
          {still.length === 0
            ? 'No wall would answer like that.'
            : still.length === 1
              ? 'One way is left.'
              : `${still.length} ways are left.`}
        </p>
      </div>
    </Dialog>
  );
}

function Found({ found, onKeep }: { readonly found: walls.Guess; readonly onKeep: () => void }) {
  const { scan, colours, dataFrom, fromBehind } = found;
  return (
    <section className="grid gap-2">
      <p className="text-success">
        <Mark state="pass" size={13} /> It is built with scan 1/{scan}, colours {colours}, data from the {dataFrom}
        {fromBehind ? ', and its receivers are numbered from behind' : ''}.
      </p>
      <button type="button" className="act-main justify-self-start" onClick={onKeep}>
        Enter that in the set-up program
      </button>
    </section>
  );
}

function Asked({
  answers,
  contradicting,
  onUndo,
}: {
  readonly answers: readonly walls.Answered[];
  readonly contradicting: readonly walls.Answered[];
  readonly onUndo: (at: number) => void;
}) {
  if (answers.length === 0)
    return <p className="text-mute">Stay in the row while you look. A calm colour is enough for the quick tests.</p>;
  return (
    <ul className="grid gap-1 text-[13px]">
      {answers.map((one, at) => (
        <li key={one.test} className="flex items-baseline gap-2">
          {contradicting.includes(one) && <Mark state="fail" size={12} />}
          <span className="min-w-0 flex-1 text-mute">{questions[one.test]}</span>
          <b>{one.answer}</b>
          <button type="button" className="act-quiet" onClick={() => onUndo(at)}>
            Take it back
          </button>
        </li>
      ))}
    </ul>
  );
}

function Question({
  tracing,
  test,
  onAnswer,
}: {
  readonly tracing: walls.Tracing;
  readonly test: walls.TraceTest;
  readonly onAnswer: (answer: string) => void;
}) {
  return (
    <section className="grid gap-2" aria-label="What is seen">
      <p>{questions[test]}</p>
      <div className="flex flex-wrap gap-2">
        {[...walls.answersTo(tracing, test, tracing.guesses).keys()].map((answer) => (
          <button key={answer} type="button" className="act" onClick={() => onAnswer(answer)}>
            {answer}
          </button>
        ))}
      </div>
    </section>
  );
}
