import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { colourOrders, dataSides, testPictures, wallCorners, type RealWall, type Wall } from '../show/index.ts';
import { panelOf, wallOf } from './wall.test-data.ts';
import { equalParts, mirrored } from './parts.ts';
import { causesOf, mendOf } from './causes.ts';
import {
  colourMap,
  coloured,
  isAsSent,
  moduleSize,
  seen,
  sourceMap,
  spreader,
  wallState,
  wordsOf,
  type Picture,
} from './pixels.ts';
import { asEntered, enteredState, realState, realWalls, wrongsOf } from './real.ts';
import { wallSize, type Panel } from './size.ts';
import { linePixels, moveLine, testPicture } from './test-pictures.ts';
import { pictureLook, readOff, senderOf, tracePicture, traceTests } from './looking.ts';
import {
  answersTo,
  bitsOf,
  contradicting,
  left,
  guessesOf,
  nextTest,
  wordsFor,
  type Answered,
  type Guess,
} from './trace.ts';

const moduleFields = {
  scan: fc.constantFrom(1, 2, 4, 8, 3, 16),
  colours: fc.constantFrom(...colourOrders),
  dataFrom: fc.constantFrom(...dataSides),
};
const module = fc.record(moduleFields);

/** Pixel by pixel; matchers take minutes for so many. */
function isSame(one: Picture, other: Picture): boolean {
  const words = wordsOf(other);
  return (
    one.width === other.width && one.height === other.height && wordsOf(one).every((word, at) => word === words[at])
  );
}

/** A picture in which every pixel is of another colour. */
function noise(width: number, height: number, seed: number): Picture {
  const data = new Uint8Array(width * height * 4);
  for (let at = 0; at < data.length; at += 1)
    data[at] = at % 4 === 3 ? 255 : (at * 73 + seed * 31 + ((at * at) >> 3)) & 255;
  return { width, height, data };
}

/**
 * What really happens, told from the sender on: it stretches what comes to the size that it was told, each receiver cuts
 * its part out, shifts the bytes of each address into the module, and the module lights whatever it is built to light
 * with the byte that stands there then.
 */
function lit(wall: Wall, panel: Panel, real: RealWall, sent: Picture): Picture {
  const { width, height } = wallSize(wall, panel);
  const data = new Uint8Array(width * height * 4).map((_, at) => (at % 4 === 3 ? 255 : 0));
  if (real.reaches === false) return { width, height, data };
  const size = moduleSize(panel);
  const { program } = wall;
  const entered = { scan: program.scan ?? panel.scan, colours: program.colours ?? panel.colours };
  const from = program.dataFrom ?? panel.dataFrom;
  const built = { scan: real.scan ?? panel.scan, colours: real.colours ?? panel.colours };
  const builtFrom = real.dataFrom ?? panel.dataFrom;
  const [believedX, believedY] = [real.width ?? program.width ?? width, real.height ?? program.height ?? height];
  const told = wall.numberedFrom === 'back' ? mirrored(wall.parts) : wall.parts;
  const comesFrom = (x: number, y: number): readonly [number, number] => {
    const [sx, sy] = [Math.floor((x * sent.width) / believedX), Math.floor((y * sent.height) / believedY)];
    return [
      real.start?.includes('right') ? sent.width - 1 - sx : sx,
      real.start?.includes('bottom') ? sent.height - 1 - sy : sy,
    ];
  };
  wall.parts.forEach((hangs, place) => {
    const output = real.order?.[place] ?? hangs.output;
    if (real.cuts.some((cut) => cut.output === output)) return;
    const shows = told.find((part) => part.output === output) ?? hangs;
    const isTurned = real.turned.includes(output);
    const placeOf = (x: number, y: number): number => {
      const [dx, dy] = isTurned ? [hangs.width * panel.width - 1 - x, hangs.height * panel.height - 1 - y] : [x, y];
      return ((hangs.y * panel.height + dy) * width + hangs.x * panel.width + dx) * 4;
    };
    const byteAt = (x: number, y: number, colour: number): number => {
      if (x >= shows.width * panel.width || y >= shows.height * panel.height) return 0;
      const [px, py] = [shows.x * panel.width + x, shows.y * panel.height + y];
      if (px >= believedX || py >= believedY) return 0;
      const [sx, sy] = comesFrom(px, py);
      return sent.data[(sy * sent.width + sx) * 4 + 'RGB'.indexOf(entered.colours[colour] ?? '')] ?? 0;
    };
    for (let my = 0; my < hangs.height * panel.height; my += size.height)
      for (let mx = 0; mx < hangs.width * panel.width; mx += size.width) {
        const line: number[] = [];
        for (let address = 0; address < entered.scan; address += 1)
          for (let row = address; row < size.height; row += entered.scan)
            for (let at = 0; at < size.width; at += 1) {
              const x = from === 'left' ? at : size.width - 1 - at;
              for (let colour = 0; colour < 3; colour += 1) line.push(byteAt(mx + x, my + row, colour));
            }
        let taken = 0;
        for (let address = 0; address < built.scan; address += 1)
          for (let row = address; row < size.height; row += built.scan)
            for (let at = 0; at < size.width; at += 1) {
              const x = builtFrom === 'left' ? at : size.width - 1 - at;
              const to = placeOf(mx + x, my + row);
              for (let colour = 0; colour < 3; colour += 1)
                data[to + 'RGB'.indexOf(built.colours[colour] ?? '')] = line[taken++] ?? 0;
            }
      }
  });
  return { width, height, data };
}

const anyReal = fc.record({
  scan: fc.option(moduleFields.scan),
  colours: fc.option(moduleFields.colours),
  dataFrom: fc.option(moduleFields.dataFrom),
  turn: fc.option(fc.nat(23)),
  width: fc.option(fc.integer({ min: 1, max: 60 })),
  height: fc.option(fc.integer({ min: 1, max: 60 })),
  cut: fc.option(fc.integer({ min: 1, max: 4 }), { freq: 4 }),
  turned: fc.subarray([1, 2, 3, 4]),
  start: fc.option(fc.constantFrom(...wallCorners)),
  reaches: fc.option(fc.boolean(), { freq: 2 }),
});

describe('what is seen of what is sent', () => {
  test('is what the bytes light on their way, whatever was entered wrongly or is otherwise', () => {
    let [cases, wrong] = [0, 0];
    const shape = fc.tuple(
      fc.integer({ min: 1, max: 4 }),
      fc.integer({ min: 1, max: 3 }),
      fc.integer({ min: 1, max: 4 }),
    );
    fc.assert(
      fc.property(
        shape,
        module,
        fc.record({ ...moduleFields, width: fc.option(fc.integer({ min: 1, max: 60 })) }),
        fc.boolean(),
        anyReal,
        ([across, down, outputs], built, { width: told, ...entered }, behind, { turn, cut, ...real }) => {
          cases += 1;
          const panel = panelOf({ ...built, scan: [1, 2, 4, 8].includes(built.scan) ? built.scan : 4 });
          const whole = wallOf(Array.from({ length: across }, () => down));
          const wall: Wall = {
            ...whole,
            parts: equalParts(whole, outputs),
            numberedFrom: behind ? 'back' : 'front',
            program: { ...whole.program, ...entered, width: told },
          };
          const numbers = wall.parts.map(({ output }) => output);
          const order = turn === null ? null : numbers.map((_, at) => numbers[(at + turn) % numbers.length] ?? 0);
          const really: RealWall = { ...real, order, cuts: cut === null ? [] : [{ output: cut, panels: 0 }] };
          const { width, height } = wallSize(wall, panel);
          const sent = noise(width, height, turn ?? 5);
          const state = realState(wall, panel, really, 'player');
          const shown = seen(state, sent);
          expect(isSame(shown, lit(wall, panel, really, sent))).toBe(true);
          const isRight = isSame(shown, sent);
          if (!isRight) wrong += 1;
          // what is said to be right is right
          if (isAsSent(state)) expect(isRight).toBe(true);
          // a part of it is that part of the whole
          const within = { x: width >> 1, y: height >> 2, width: width >> 1, height: height >> 1 };
          const all = sourceMap(state, sent);
          expect([...sourceMap(state, sent, within)]).toEqual(
            Array.from({ length: within.width * within.height }, (_, at) => {
              const [x, y] = [within.x + (at % within.width), within.y + Math.floor(at / within.width)];
              return all[y * width + x];
            }),
          );
          // set as it is built and numbered as it hangs, the picture is the picture
          expect(isSame(seen(wallState(wall, panel), sent), sent)).toBe(true);
        },
      ),
      { numRuns: 200 },
    );
    expect([cases, wrong > 100]).toEqual([200, true]);
  });

  test('a width that is too large stretches the picture and loses its end, and what a string does not reach is dark', () => {
    const panel = panelOf();
    const whole = wallOf([1, 1, 1]);
    const path: [number, number][] = [0, 1, 2].map((column) => [column, 0]);
    const wall = {
      ...whole,
      parts: equalParts(whole, 1),
      program: { ...whole.program, width: 48 },
      strings: [{ output: 1, path }],
      found: [{ output: 1, panels: 2, version: '', errors: 0 }],
    };
    const sent = noise(24, 8, 5);
    const state = enteredState(wall, panel);
    const shown = seen(state, sent);
    for (let x = 0; x < 24; x += 1) {
      // twice as wide: every pixel stands twice, and the right half of what is sent is nowhere
      const expected = x < 16 ? [...sent.data.subarray((x >> 1) * 4, (x >> 1) * 4 + 3)] : [0, 0, 0];
      expect([x, [...shown.data.subarray(x * 4, x * 4 + 3)]]).toEqual([x, expected]);
    }
    expect([isAsSent(state), isAsSent(wallState(wall, panel))]).toEqual([false, true]);
  });

  test('a part that is drawn beyond the wall lights nothing else, and where no panel hangs there is no light', () => {
    const panel = panelOf();
    const whole = wallOf([1, 2, 1]);
    const wall = { ...whole, parts: [{ output: 1, x: 0, y: 0, width: 9, height: 7 }] };
    const state = wallState(wall, panel);
    const shown = seen(state, testPicture('white', wall, panel));
    for (const column of [0, 1, 2])
      for (const row of [0, 1]) {
        const first = (row * 8 * state.width + column * 8) * 4;
        expect([column, row, shown.data[first]]).toEqual([column, row, row === 0 || column === 1 ? 255 : 0]);
      }
  });

  test('what is drawn beyond the wall is nowhere, also where it was told another part of the picture', () => {
    const panel = panelOf();
    const whole = wallOf([2, 2, 2]);
    const shownWith = (width: number) => {
      const wall = {
        ...whole,
        parts: [
          { output: 1, x: 0, y: 0, width: 2, height: 2 },
          { output: 2, x: 2, y: 0, width, height: 2 },
        ],
      };
      // output 2 shows the left of the picture: what it has too much would go round the edge
      const told = [{ output: 2, x: 0, y: 0, width, height: 2 }];
      return seen(wallState(wall, panel, { told }), noise(24, 16, 7)).data;
    };
    expect(shownWith(3)).toEqual(shownWith(1));
  });

  test('each single cause looks otherwise than what is sent, no two of them alike, and its mend makes it right', () => {
    const panel = panelOf({ width: 32, height: 16, across: 2, scan: 8 });
    const whole = wallOf([2, 2, 2]);
    const wall = { ...whole, parts: equalParts(whole, 3) };
    const causes = causesOf({ wall, panel });
    const { width, height } = wallSize(wall, panel);
    const sent = noise(width, height, 3);
    const pictures = causes.map(({ state }) => String(seen(state, sent).data));
    // scans, colours, sides; the other way round and three swaps; across and down; each receiver dark, and upside down; corners; no way
    const all = 3 + 5 + 1 + 3 + 2 + 3 + 3 + 3 + 1;
    expect([causes.length, new Set(pictures).size, pictures.includes(String(sent.data))]).toEqual([all, all, false]);
    for (const { key, of, real } of causes) {
      // no entry mends a string that ends, panels that hang upside down, nor an interface
      if (of === 'cuts' || of === 'turned' || of === 'reaches') continue;
      const mended = { ...wall, ...mendOf({ wall, panel }, real) };
      const { scan, colours, dataFrom } = real;
      // what was found is entered where it was entered otherwise: only how it is built stays as it is
      const state = realState(mended, panel, { ...asEntered, scan, colours, dataFrom }, 'player');
      expect([key, seen(state, sent).data]).toEqual([key, sent.data]);
    }
  });

  test('a line that moves is seen as if every picture were painted anew, whatever is wrong', () => {
    const panel = panelOf({ width: 32, height: 16, across: 2, scan: 8 });
    const whole = wallOf([2, 2, 2]);
    const wall = { ...whole, parts: equalParts(whole, 3) };
    let seenLines = 0;
    for (const real of realWalls(wall, panel)) {
      const state = realState(wall, panel, real, 'player');
      const light = coloured(state);
      const sent = testPicture('line', wall, panel, 3, light);
      const way = sourceMap(state, sent);
      const shown = seen({ ...state, entered: state.panel }, sent, way);
      const spread = spreader(way, sent);
      // the second goes over the end of both
      for (const [before, now] of [
        [3, 40],
        [40, 101],
      ] as const) {
        moveLine(sent, before, now, light);
        for (const tick of [before, now]) spread(linePixels(sent, tick), sent, shown);
        const isAsAnew = isSame(shown, seen(state, testPicture('line', wall, panel, now)));
        expect([real, isAsAnew]).toEqual([real, true]);
        seenLines += 1;
      }
    }
    expect(seenLines).toBe(realWalls(wall, panel).length * 2);
  });

  test('colours go round as the line is entered, and a panel that nobody drives is dark', () => {
    expect([colourMap('GRB', 'GRB'), colourMap('GRB', 'RGB'), colourMap('BRG', 'RGB')]).toEqual([
      [0, 1, 2],
      [1, 0, 2],
      [1, 2, 0],
    ]);
    const wall = wallOf([1, 1], { parts: [{ output: 1, x: 0, y: 0, width: 1, height: 1 }] });
    const shown = seen(wallState(wall, panelOf()), testPicture('white', wall, panelOf()));
    expect([shown.data[0], shown.data[8 * 4]]).toEqual([255, 0]);
  });

  test('every picture has the size of the wall, and the one for orientation is like none of its mirror pictures', () => {
    const wall = wallOf([2, 2, 2], {
      strings: [
        {
          output: 1,
          path: [
            [0, 1],
            [0, 0],
            [1, 0],
            [1, 1],
          ],
        },
      ],
    });
    const panel = panelOf({ width: 32, height: 32, across: 1 });
    for (const kind of testPictures) {
      const { width, height, data } = testPicture(kind, wall, panel, 3);
      expect([kind, width, height, data.some((byte) => byte > 0)]).toEqual([kind, 96, 64, true]);
    }
    const { width, height, data } = testPicture('orientation', wall, panel);
    const turned = [
      [-1, 1],
      [1, -1],
      [-1, -1],
    ].map(([dx, dy]) => {
      const other = new Uint8Array(data.length);
      for (let y = 0; y < height; y += 1)
        for (let x = 0; x < width; x += 1) {
          const from = ((dy === 1 ? y : height - 1 - y) * width + (dx === 1 ? x : width - 1 - x)) * 4;
          other.set(data.subarray(from, from + 4), (y * width + x) * 4);
        }
      return other.every((byte, at) => byte === data[at]);
    });
    expect(turned).toEqual([false, false, false]);
  });
});

describe('tracing', () => {
  const panel = panelOf({ width: 32, height: 16, across: 2, scan: 8 });
  const whole = wallOf([2, 2, 2]);
  const own = { wall: { ...whole, parts: equalParts(whole, 3) }, panel };
  const guesses = guessesOf(own);

  /** Asks until nothing more can be told, with the answers of the truth. */
  function ask(truth: Guess): { readonly answers: Answered[]; readonly still: Guess[] } {
    const answers: Answered[] = [];
    for (;;) {
      const still = left(guesses, answers);
      const asked = answers.map(({ test }) => test);
      const test = nextTest(still, asked);
      if (!test) return { answers, still };
      answers.push({ test, answer: truth.answers[test] });
    }
  }

  test('every single and every pair of wrong settings is found, in at most one question more than its answers could tell', () => {
    const questions = guesses.map((truth) => {
      const { answers, still } = ask(truth);
      expect(still).toEqual([truth]);
      return answers.length;
    });
    const average = questions.reduce((sum, count) => sum + count, 0) / guesses.length;
    const most = Math.max(
      ...traceTests.map((test) => bitsOf([...answersTo(test, guesses).values()].map(({ length }) => length))),
    );
    const least = Math.log2(guesses.length) / most;
    expect([average, average <= least + 1]).toEqual([average, true]);
    // no single fault hides behind another one, and all but a few pairs are told apart
    const all = realWalls(own.wall, panel);
    const alone = wrongsOf(own.wall, panel).map(({ real }) => JSON.stringify({ ...asEntered, ...real }));
    expect(alone.filter((key) => !guesses.some(({ real }) => JSON.stringify(real) === key))).toEqual([]);
    expect([alone.length, all.length, guesses.length]).toEqual([24, 276, 259]);
  });

  test('what is read off the painted wall is what was foretold, whatever is wrong with it', () => {
    let read = 0;
    for (const guess of guesses)
      for (const test of traceTests)
        for (const real of [guess.real, ...guess.hidden.slice(0, 1)]) {
          const state = realState(own.wall, panel, real, senderOf(test));
          const paint = (picture: 0 | 1) => seen(state, tracePicture(test, own, picture));
          read += 1;
          expect(readOff(test, own, state, pictureLook([paint(0), paint(1)]))).toEqual(guess.answers[test]);
        }
    expect(read).toBeGreaterThan(guesses.length * traceTests.length);
  });

  test('an answer that cannot go with the others is found among them', () => {
    let cases = 0;
    for (const truth of guesses) {
      // somebody who asks everything: the same thing is told twice, and a slip shows
      const answers = traceTests.map((test) => ({ test, answer: truth.answers[test] }));
      answers.forEach((one, at) => {
        for (const other of wordsFor(guesses, one.test).map((words, place) => one.answer.with(place, words[0] ?? ''))) {
          const slipped = answers.toSpliced(at, 1, { ...one, answer: other });
          if (left(guesses, slipped).length > 0) continue;
          cases += 1;
          expect(contradicting(guesses, slipped)).toContainEqual({ test: one.test, answer: other });
        }
      });
    }
    expect(cases).toBeGreaterThan(10);
    expect(contradicting(guesses, ask(guesses[7] ?? expect.fail('none')).answers)).toEqual([]);
  });
});
