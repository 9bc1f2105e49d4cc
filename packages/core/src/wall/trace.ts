import { groupBy, memo, type RealWall } from '../show/index.ts';
import { forecastLook, readOff, senderOf, traceTests, type TraceTest } from './looking.ts';
import type { KnownWall } from './known-wall.ts';
import { knownWays } from './pixels.ts';
import { realState, realWalls, type Sender } from './real.ts';

/** What somebody said of a test, word by word. */
export interface Answered {
  readonly test: TraceTest;
  readonly answer: readonly string[];
}

/** What may be true, and what somebody in front of the wall would answer to each test then. */
export interface Guess {
  readonly real: RealWall;
  /** Walls that no test tells from it: what hides behind another fault shows once that one is mended. */
  readonly hidden: readonly RealWall[];
  readonly answers: Readonly<Record<TraceTest, readonly string[]>>;
}

const keyOf = (answer: readonly string[]): string => answer.join('|');

const bySender = (sender: Sender): TraceTest[] => traceTests.filter((test) => senderOf(test) === sender);

/** The wall as it is entered, and with one and two things otherwise, as far as tests tell them apart. */
export function guessesOf(own: Pick<KnownWall, 'wall' | 'panel'>): Guess[] {
  const { wall, panel } = own;
  const ways = knownWays();
  const looks = memo((test) => forecastLook(test as TraceTest, own, ways));
  const answersOf = (real: RealWall, sender: Sender) => {
    const state = realState(wall, panel, real, sender);
    const said = bySender(sender).map((test) => [test, readOff(test, own, state, looks(test)(state))] as const);
    return Object.fromEntries(said) as Partial<Guess['answers']>;
  };
  // what the player does is seen only while it sends
  const generated = memo((key) => answersOf(JSON.parse(key) as RealWall, 'processor'));
  const all = realWalls(wall, panel).map((real) => ({
    real,
    answers: {
      ...generated(JSON.stringify({ ...real, start: null, reaches: null })),
      ...answersOf(real, 'player'),
    } as Guess['answers'],
  }));
  const alike = groupBy(all, ({ answers }) => traceTests.map((test) => keyOf(answers[test])).join(' '));
  return [...alike.values()].flatMap(([first, ...others]) =>
    first ? [{ ...first, hidden: others.map(({ real }) => real) }] : [],
  );
}

/** Which guesses every answer leaves. */
export const left = (guesses: readonly Guess[], answers: readonly Answered[]): Guess[] =>
  guesses.filter((guess) => answers.every(({ test, answer }) => keyOf(guess.answers[test]) === keyOf(answer)));

/** How guesses fall apart by the answers to a test. */
export const answersTo = (test: TraceTest, guesses: readonly Guess[]): Map<string, Guess[]> =>
  groupBy(guesses, ({ answers }) => keyOf(answers[test]));

/** The words that may be said in each place of an answer to a test. */
export function wordsFor(guesses: readonly Guess[], test: TraceTest): string[][] {
  const answers = guesses.map((guess) => guess.answers[test]);
  return (answers[0] ?? []).map((_, place) => [...new Set(answers.map((answer) => answer[place] ?? ''))]);
}

/** The test that leaves the fewest guesses on average; undefined where none tells anything more. */
export function nextTest(guesses: readonly Guess[], asked: readonly TraceTest[] = []): TraceTest | undefined {
  let best: { readonly test: TraceTest; readonly bits: number } | undefined;
  for (const test of traceTests) {
    if (asked.includes(test)) continue;
    const bits = bitsOf([...answersTo(test, guesses).values()].map(({ length }) => length));
    if (bits > 1e-9 && (!best || bits > best.bits + 1e-9)) best = { test, bits };
  }
  return best?.test;
}

/** How much an answer tells, in bits, where guesses are equally likely (Shannon 1948). */
export function bitsOf(counts: readonly number[]): number {
  const whole = counts.reduce((sum, count) => sum + count, 0);
  return counts.reduce((sum, count) => sum - (count / whole) * Math.log2(count / whole), 0);
}

/** Answers of which one has to be wrong, since together they leave nothing: each that would leave something if it were taken back. */
export function contradicting(guesses: readonly Guess[], answers: readonly Answered[]): Answered[] {
  if (answers.length === 0 || left(guesses, answers).length > 0) return [];
  const alone = answers.filter(
    (one) =>
      left(
        guesses,
        answers.filter((other) => other !== one),
      ).length > 0,
  );
  return alone.length > 0 ? alone : [...answers];
}
