import { colourOrders, dataSides, groupBy, memo } from '../show/index.ts';
import { mirrored, type Part } from './parts.ts';
import { colourMap, dark, moduleMap, moduleSize, type Module } from './pixels.ts';
import { scans, type Panel } from './size.ts';

/** What may be true of a wall: how its modules are built, and in which order its receivers hang. */
export interface Guess {
  readonly scan: number;
  readonly colours: Module['colours'];
  readonly dataFrom: Module['dataFrom'];
  /** Parts are numbered as somebody counted them from behind. */
  readonly fromBehind: boolean;
}

export const traceTests = ['red_then_green', 'top_row', 'second_row', 'left_point', 'first_receiver'] as const;
export type TraceTest = (typeof traceTests)[number];

export interface Answered {
  readonly test: TraceTest;
  readonly answer: string;
}

export interface Traced {
  readonly panel: Panel;
  readonly parts: readonly Part[];
  /** What is entered while somebody looks. */
  readonly entered: Module;
}

/** Every guess with what somebody in front of the wall would answer to each test if it were true. */
export interface Tracing {
  readonly guesses: readonly Guess[];
  readonly answerOf: (test: TraceTest, guess: Guess) => string;
}

/**
 * Everything that the model has for a panel: scans that divide its module, orders of colours, sides, orders of
 * receivers. One row at a time and all rows at once put the rows in the same order: nobody can tell them apart, and
 * nobody has to.
 */
export function traceOf(traced: Traced): Tracing {
  const { panel, parts, entered } = traced;
  const { height } = moduleSize(panel);
  const possible = scans.filter((scan) => scan > 1 && height % scan === 0);
  const orders = parts.length > 1 ? [false, true] : [false];
  const guesses = possible.flatMap((scan) =>
    colourOrders.flatMap((colours) =>
      dataSides.flatMap((dataFrom) => orders.map((fromBehind): Guess => ({ scan, colours, dataFrom, fromBehind }))),
    ),
  );
  const mapOf = memo((key) => {
    const [scan, dataFrom] = key.split(' ');
    return moduleMap(
      moduleSize(panel),
      { ...entered, scan: Number(scan), dataFrom: dataFrom as Guess['dataFrom'] },
      entered,
    );
  });
  const rowsOf = memo((key) => {
    const [test = '', ...module] = key.split(' ');
    return modulesAnswer(test, mapOf(module.join(' ')), moduleSize(panel));
  });
  const answerOf = (test: TraceTest, { scan, colours, dataFrom, fromBehind }: Guess): string => {
    if (test === 'red_then_green') return coloursSeen(colours, entered.colours);
    return test === 'first_receiver' ? placeOfFirst(parts, fromBehind) : rowsOf(`${test} ${scan} ${dataFrom}`);
  };
  return { guesses, answerOf };
}

/** Red is sent, and then green: which light is that? */
function coloursSeen(built: Guess['colours'], entered: Guess['colours']): string {
  const bytes = colourMap(built, entered);
  const lights = ['red', 'green', 'blue'];
  return [0, 1].map((sent) => lights[bytes.indexOf(sent)]).join(', then ');
}

function placeOfFirst(parts: readonly Part[], fromBehind: boolean): string {
  const order = (fromBehind ? mirrored(parts) : parts).toSorted((a, b) => a.x - b.x);
  const first = Math.min(...parts.map(({ output }) => output));
  return `place ${order.findIndex(({ output }) => output === first) + 1}`;
}

/** Which rows of a module are lit, and where a point is, when a row or a point is sent. */
function modulesAnswer(
  test: string,
  map: Int32Array,
  { width, height }: { readonly width: number; readonly height: number },
): string {
  const isSent = (from: number): boolean => {
    if (from === dark) return false;
    const [x, y] = [from % width, Math.floor(from / width)];
    return test === 'top_row' ? y === 0 : test === 'second_row' ? y === 1 : x === 0 && y === height - 2;
  };
  const lit = [...map.keys()].filter((at) => isSent(map[at] ?? dark));
  const rows = [...new Set(lit.map((at) => Math.floor(at / width)))];
  if (rows.length === 0) return 'nothing';
  const first = Math.min(...rows) + 1;
  if (test !== 'left_point') return `row ${first}${rows.length > 1 ? ` and ${rows.length - 1} more` : ''}`;
  return `${(lit[0] ?? 0) % width < width / 2 ? 'left' : 'right'}, row ${first}`;
}

/** Which guesses every answer leaves. */
export const left = ({ guesses, answerOf }: Tracing, answers: readonly Answered[]): Guess[] =>
  guesses.filter((guess) => answers.every(({ test, answer }) => answerOf(test, guess) === answer));

/** How guesses fall apart by the answers to a test. */
export const answersTo = ({ answerOf }: Tracing, test: TraceTest, guesses: readonly Guess[]): Map<string, Guess[]> =>
  groupBy(guesses, (guess) => answerOf(test, guess));

/** The test that leaves the fewest guesses on average; undefined where none tells anything more. */
export function nextTest(
  tracing: Tracing,
  guesses: readonly Guess[],
  asked: readonly TraceTest[] = [],
): TraceTest | undefined {
  let best: { readonly test: TraceTest; readonly bits: number } | undefined;
  for (const test of traceTests) {
    if (asked.includes(test)) continue;
    const bits = told([...answersTo(tracing, test, guesses).values()].map(({ length }) => length));
    if (bits > 1e-9 && (!best || bits > best.bits + 1e-9)) best = { test, bits };
  }
  return best?.test;
}

/** How much an answer tells, in bits, where guesses are equally likely (Shannon 1948). */
export function told(counts: readonly number[]): number {
  const whole = counts.reduce((sum, count) => sum + count, 0);
  return counts.reduce((sum, count) => sum - (count / whole) * Math.log2(count / whole), 0);
}

/** Answers of which one has to be wrong, since together they leave nothing: each that would leave something if it were taken back. */
export function contradicting(tracing: Tracing, answers: readonly Answered[]): Answered[] {
  if (answers.length === 0 || left(tracing, answers).length > 0) return [];
  const alone = answers.filter(
    (one) =>
      left(
        tracing,
        answers.filter((other) => other !== one),
      ).length > 0,
  );
  return alone.length > 0 ? alone : [...answers];
}
