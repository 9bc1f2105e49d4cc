import { wall as walls, type contract } from '@deep-patch/core';
import { useEffect, useState } from 'react';
import { Dialog } from '../parts/dialog.tsx';
import { Mark } from '../parts/mark.tsx';
import { ChoiceField } from '../parts/kept-fields.tsx';
import { shownOn } from './shown-on.ts';
import { Mend } from './mend.tsx';
import { realWords } from './real-words.ts';
import { askWall } from './wall-canvas.tsx';

const questions: Readonly<Record<walls.TraceTest, string>> = {
  corners: 'Send the orientation picture from the player. Which light is in each corner of the wall?',
  point:
    'From here on the processor sends. One red point at the left of every module, in its last row but one: look at the first module that shows it. On several receivers at once is normal.',
  numbers: 'Let every receiver show its own number. Which numbers are seen?',
  frame: 'Send a frame of one pixel around the whole picture. Where is its line seen, at the very edge of the wall?',
  top_row: 'Send a line along the top row of every module. Look at the first module that shows it.',
  red_then_green: 'Send the whole wall red, and then green. Which lights are seen?',
};

/** Asks what is seen, the question that tells most first, until one wall is left. */
export function TraceDialog({
  own,
  there,
  onClose,
}: {
  readonly own: walls.KnownWall;
  readonly there: contract.WallOnBench | undefined;
  readonly onClose: () => void;
}) {
  const [answers, setAnswers] = useState<readonly walls.Answered[]>([]);
  const { guesses, fault } = useGuesses(own);
  const still = walls.left(guesses, answers);
  const test = walls.nextTest(
    still,
    answers.map((one) => one.test),
  );
  const found = !test && still.length > 0 ? still[0] : undefined;
  return (
    <Dialog title={`Trace the order of ${own.wall.name}`} onClose={onClose} unsaved={answers.length > 0}>
      <div className="grid gap-4">
        <Asked
          {...{ answers }}
          onUndo={(at) => setAnswers(answers.toSpliced(at, 1))}
          contradicting={walls.contradicting(guesses, answers)}
        />
        {test && (
          <Question
            key={test}
            {...{ own, guesses, test, there }}
            onAnswer={(answer) => setAnswers([...answers, { test, answer }])}
          />
        )}
        {found && <Found own={own} found={found} onDone={onClose} />}
        <p className="text-[13px] text-mute" role="status">
          {guesses.length === 0
            ? (fault ?? 'Working out what would be seen …')
            : still.length === 0
              ? 'No wall would answer like that.'
              : still.length === 1
                ? 'One way is left.'
                : `${still.length} ways are left.`}
        </p>
      </div>
    </Dialog>
  );
}

/** Everything that may be true, worked out beside the page. */
function useGuesses({ wall, panel }: walls.KnownWall): {
  readonly guesses: readonly walls.Guess[];
  readonly fault: string | undefined;
} {
  const [guesses, setGuesses] = useState<readonly walls.Guess[]>([]);
  const [fault, setFault] = useState<string>();
  useEffect(() => {
    let isLeft = false;
    askWall({ do: 'guess', wall, panel }).then(
      (answer) => {
        if (!isLeft && answer.did === 'guessed') setGuesses(answer.guesses);
      },
      () => setFault('It could not be worked out: load the page anew.'),
    );
    return () => void (isLeft = true);
  }, [wall, panel]);
  return { guesses, fault };
}

function Found({
  own,
  found: { real, hidden },
  onDone,
}: {
  readonly own: walls.KnownWall;
  readonly found: walls.Guess;
  readonly onDone: () => void;
}) {
  const words = realWords(real);
  return (
    <section className="grid gap-2" aria-label="What it is">
      <p className="text-success">
        <Mark state="pass" size={13} />{' '}
        {words.length === 0 ? 'Everything is as it is entered.' : `It is this: ${words.join(', and ')}.`}
      </p>
      {hidden.length > 0 && (
        <p className="text-mute">Something else may hide behind it: mend this, and trace it once more.</p>
      )}
      <Mend own={own} real={real} onDone={onDone} />
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
          <b>{one.answer.map((word, place) => `${walls.told[one.test][place] ?? ''}: ${word}`).join('; ')}</b>
          <button type="button" className="act-quiet" onClick={() => onUndo(at)}>
            Take it back
          </button>
        </li>
      ))}
    </ul>
  );
}

/** One test: what is seen is said word by word, or read off the wall on the bench. */
function Question({
  own,
  guesses,
  test,
  there,
  onAnswer,
}: {
  readonly own: walls.KnownWall;
  readonly guesses: readonly walls.Guess[];
  readonly test: walls.TraceTest;
  readonly there: contract.WallOnBench | undefined;
  readonly onAnswer: (answer: readonly string[]) => void;
}) {
  const words = walls.wordsFor(guesses, test);
  const [said, setSaid] = useState<readonly string[]>(() => words.map(() => ''));
  const [state, setState] = useState<'' | 'reading' | 'fault'>('');
  const readIt = async (): Promise<void> => {
    if (!there) return;
    setState('reading');
    try {
      const shown = shownOn(there, walls.senderOf(test));
      const answer = await askWall({ do: 'read', wall: own.wall, panel: own.panel, test, shown });
      if (answer.did === 'read') onAnswer(answer.answer);
    } catch {
      setState('fault');
    }
  };
  return (
    <section className="grid gap-3" aria-label="What is seen">
      <p>{questions[test]}</p>
      <div className="grid grid-cols-2 gap-2">
        {words.map((each, place) => (
          <ChoiceField
            key={walls.told[test][place]}
            label={walls.told[test][place] ?? ''}
            value={said[place] ?? ''}
            options={[['', '?'], ...each.toSorted(byNumber).map((word) => [word, word] as const)]}
            onKeep={(word) => setSaid(said.with(place, word))}
          />
        ))}
      </div>
      <div className="flex flex-wrap gap-2">
        <button type="button" className="act-main" disabled={said.includes('')} onClick={() => onAnswer(said)}>
          That is what I see
        </button>
        {there?.powered && (
          <button type="button" className="act" disabled={state === 'reading'} onClick={() => void readIt()}>
            {state === 'reading' ? 'Looking …' : 'Read it off the bench'}
          </button>
        )}
      </div>
      {state === 'fault' && <p className="text-error">The wall could not be painted: load the page anew.</p>}
    </section>
  );
}

const byNumber = (a: string, b: string): number => Number(a) - Number(b) || (a < b ? -1 : 1);
