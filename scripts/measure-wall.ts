// npm run measure -- wall: a wall of nine million pixels, strings of 400 panels, and how many questions tracing takes.
import { wall as walls, type show as core } from '@deep-patch/core';
import { demoShow } from '@deep-patch/demo';
import { measureLines } from './measure-lines.ts';

const { tell, show: showLines } = measureLines();
const show = demoShow();
const [own] = walls.knownWalls(show);
if (!own) throw new Error('the demo has no wall');
const spent = (work: () => void, times = 1): number => {
  const began = performance.now();
  for (let at = 0; at < times; at += 1) work();
  return (performance.now() - began) / times;
};
const ms = (value: number) => `${value.toFixed(value < 10 ? 2 : 0)} ms`;

// 4096 x 2160 and a little more: panels of 160 x 160
const [across, down] = [26, 14];
const columns = Array.from({ length: across }, () => ({ panels: down, drop: 0, gapMm: 0, angle: 0 }));
const large: core.Wall = {
  ...own.wall,
  ...{ columns, parts: walls.equalParts({ columns }, 13), strings: [], found: [] },
  program: { ...own.wall.program, width: null, height: null },
};
const { panel } = own;
const real = { ...walls.asEntered, scan: 8, dataFrom: 'right' as const, colours: 'RGB' as const };
const state = walls.realState(large, panel, real);
const light = walls.coloured(state);
const sent = walls.testPicture('line', large, panel, 0, light);
const way = walls.sourceMap(state, sent);
const shown = walls.seen({ ...state, entered: state.panel }, sent, way);
const spread = walls.spreader(way, sent);
const copied = walls.wordsOf(shown).slice();
const copy = spent(() => copied.set(walls.wordsOf(sent)), 10);
let tick = 0;
const next = spent(() => {
  walls.moveLine(sent, tick, tick + 4, light);
  for (const at of [tick, tick + 4]) spread(walls.linePixels(sent, at), sent, shown);
  tick += 4;
}, 50);
const size = `${sent.width} x ${sent.height}`;
tell(
  `next picture of a line at ${size}, three things wrong`,
  `${ms(next)}, ${(next / copy).toFixed(2)}x a copy`,
  '1x',
  next < copy,
);
tell(`all of it painted anew`, ms(spent(() => void walls.seen(state, sent, way), 5)));
tell(`the way of every pixel`, ms(spent(() => void walls.sourceMap(state, sent))));

const square = { columns: Array.from({ length: 20 }, () => ({ panels: 20, drop: 0, gapMm: 0, angle: 0 })) };
const feeds: readonly (readonly [string, walls.Feed])[] = [
  ['from a corner', [-1, 20]],
  ['from the middle below', [9.5, 20]],
  ['from its middle', [9.5, 9.5]],
  ['from inside it', [7, 12]],
];
for (const [name, feed] of feeds)
  for (const most of [50, 80, 100, 134, 200])
    for (const loop of [false, true]) {
      let plan: walls.StringPlan | undefined;
      const took = spent(() => void (plan = walls.cheapestStrings(square, { most, feed, loop })));
      if (!plan) continue;
      const over = (plan.cable / plan.atLeast - 1) * 100;
      tell(
        `400 panels ${name}, ${most} a string${loop ? ', loops' : ''}`,
        `${over.toFixed(1)} % over the bound, ${ms(took)}`,
        '5 %, 1 s',
        over <= 5 && took < 1000,
      );
    }

const guesses = walls.guessesOf(own);
const asked = guesses.map((truth) => {
  const answers: walls.Answered[] = [];
  for (;;) {
    const test = walls.nextTest(
      walls.left(guesses, answers),
      answers.map((one) => one.test),
    );
    if (!test) return answers.length;
    answers.push({ test, answer: truth.answers[test] });
  }
});
const bits = walls.traceTests.map((test) =>
  walls.bitsOf([...walls.answersTo(test, guesses).values()].map(({ length }) => length)),
);
const least = Math.log2(guesses.length) / Math.max(...bits);
const average = asked.reduce((sum, count) => sum + count, 0) / asked.length;
tell(
  `${guesses.length} ways a wall may be, single and in pairs`,
  `found in ${average.toFixed(2)} questions, at least ${least.toFixed(2)}`,
  'one more',
  average <= least + 1,
);
showLines();
