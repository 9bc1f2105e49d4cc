import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { colourOrders, dataSides, type Wall } from '../show/index.ts';
import { panelOf, wallOf } from './wall.test-data.ts';
import { equalParts, mirrored, type Part } from './parts.ts';
import { causesOf } from './causes.ts';
import { colourMap, enteredState, isAsSent, moduleSize, seen, wallState, type Module, type Picture } from './pixels.ts';
import { wallSize, type Panel } from './size.ts';
import { testPicture, testPictures } from './test-pictures.ts';
import { contradicting, left, nextTest, traceOf, traceTests, type Answered, type Guess } from './trace.ts';

const module = fc.record({
  scan: fc.constantFrom(1, 2, 4, 8, 3, 16),
  colours: fc.constantFrom(...colourOrders),
  dataFrom: fc.constantFrom(...dataSides),
});

/** A picture in which every pixel is of another colour. */
function noise(width: number, height: number, seed: number): Picture {
  const data = new Uint8Array(width * height * 4);
  for (let at = 0; at < data.length; at += 1)
    data[at] = at % 4 === 3 ? 255 : (at * 73 + seed * 31 + ((at * at) >> 3)) & 255;
  return { width, height, data };
}

/**
 * What really happens, told from the sender on: each receiver cuts its part out, shifts the bytes of each address into
 * the module, and the module lights whatever it is built to light with the byte that stands there then.
 */
function lit(wall: Wall, panel: Panel, told: readonly Part[], entered: Module, sent: Picture): Picture {
  const { width, height } = wallSize(wall, panel);
  const data = new Uint8Array(width * height * 4).map((_, at) => (at % 4 === 3 ? 255 : 0));
  const size = moduleSize(panel);
  for (const hangs of wall.parts) {
    const shows = told.find(({ output }) => output === hangs.output) ?? hangs;
    const byteAt = (x: number, y: number, colour: number): number => {
      if (x >= shows.width * panel.width || y >= shows.height * panel.height) return 0;
      const [sx, sy] = [shows.x * panel.width + x, shows.y * panel.height + y];
      return sx < sent.width && sy < sent.height
        ? (sent.data[(sy * sent.width + sx) * 4 + 'RGB'.indexOf(entered.colours[colour] ?? '')] ?? 0)
        : 0;
    };
    for (let my = 0; my < hangs.height * panel.height; my += size.height)
      for (let mx = 0; mx < hangs.width * panel.width; mx += size.width) {
        const line: number[] = [];
        for (let address = 0; address < entered.scan; address += 1)
          for (let row = address; row < size.height; row += entered.scan)
            for (let at = 0; at < size.width; at += 1) {
              const x = entered.dataFrom === 'left' ? at : size.width - 1 - at;
              for (let colour = 0; colour < 3; colour += 1) line.push(byteAt(mx + x, my + row, colour));
            }
        let taken = 0;
        for (let address = 0; address < panel.scan; address += 1)
          for (let row = address; row < size.height; row += panel.scan)
            for (let at = 0; at < size.width; at += 1) {
              const x = panel.dataFrom === 'left' ? at : size.width - 1 - at;
              const to = ((hangs.y * panel.height + my + row) * width + hangs.x * panel.width + mx + x) * 4;
              for (let colour = 0; colour < 3; colour += 1)
                data[to + 'RGB'.indexOf(panel.colours[colour] ?? '')] = line[taken++] ?? 0;
            }
      }
  }
  return { width, height, data };
}

describe('what is seen of what is sent', () => {
  test('is what the bytes light on their way, whatever was entered wrongly', () => {
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
        module,
        fc.boolean(),
        fc.nat(99),
        ([across, down, outputs], built, entered, behind, seed) => {
          cases += 1;
          const panel = panelOf({ ...built, scan: [1, 2, 4, 8].includes(built.scan) ? built.scan : 4 });
          const whole = wallOf(Array.from({ length: across }, () => down));
          const wall = { ...whole, parts: equalParts(whole, outputs) };
          const told = behind ? mirrored(wall.parts) : wall.parts;
          const { width, height } = wallSize(wall, panel);
          const sent = noise(width, height, seed);
          const shown = seen(wallState(wall, panel, { told, entered }), sent);
          expect(shown).toEqual(lit(wall, panel, told, entered, sent));
          const isRight = shown.data.every((byte, at) => byte === sent.data[at]);
          if (!isRight) wrong += 1;
          // set as it is built and numbered as it hangs, the picture is the picture
          expect(seen(wallState(wall, panel), sent).data).toEqual(sent.data);
        },
      ),
      { numRuns: 150 },
    );
    expect([cases, wrong > 75]).toEqual([150, true]);
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
    const causes = causesOf(wall, panel);
    const { width, height } = wallSize(wall, panel);
    const pictures = causes.map(({ state }) => String(seen(state, noise(width, height, 3)).data));
    const all = 3 + 1 + 5 + 1;
    const isSent = pictures.includes(String(noise(width, height, 3).data));
    expect([causes.length, new Set(pictures).size, isSent]).toEqual([all, all, false]);
    for (const cause of causes) {
      // the wall really is as the cause says: with its mend entered, it shows what is sent
      const { scan, colours, dataFrom } = cause.state.panel;
      const built = { ...panel, scan, colours, dataFrom };
      const hung = cause.of === 'order' ? mirrored(wall.parts) : wall.parts;
      const mended = {
        ...wall,
        program: { ...wall.program, scan: 8, colours: panel.colours, dataFrom: panel.dataFrom },
        ...cause.patch,
      };
      const told = wallState({ ...wall, parts: hung }, built, {
        told: mended.parts,
        entered: enteredState(mended, built).entered,
      });
      expect([cause.key, isAsSent(told)]).toEqual([cause.key, true]);
    }
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
  const panel = panelOf({ width: 16, height: 16, across: 1 });
  const parts = equalParts(wallOf([1, 1, 1]), 3);
  const entered = { scan: 8, colours: 'RGB', dataFrom: 'left' } as const;
  const tracing = traceOf({ panel, parts, entered });
  const { guesses, answerOf } = tracing;

  /** Asks until nothing more can be told, with the answers of the truth. */
  function ask(truth: Guess): { readonly answers: Answered[]; readonly still: Guess[] } {
    const answers: Answered[] = [];
    for (;;) {
      const still = left(tracing, answers);
      const asked = answers.map(({ test }) => test);
      const test = nextTest(tracing, still, asked);
      if (!test) return { answers, still };
      answers.push({ test, answer: answerOf(test, truth) });
    }
  }

  test('every wall that the model has is found, in at most one question more than its answers could tell', () => {
    const questions = guesses.map((truth) => {
      const { answers, still } = ask(truth);
      expect(still).toEqual([truth]);
      return answers.length;
    });
    const average = questions.reduce((sum, count) => sum + count, 0) / guesses.length;
    const most = Math.max(...traceTests.map((test) => new Set(guesses.map((guess) => answerOf(test, guess))).size));
    const least = Math.log2(guesses.length) / Math.log2(most);
    expect([guesses.length, average, average <= least + 1]).toEqual([4 * 6 * 2 * 2, average, true]);
  });

  test('an answer that cannot go with the others is found among them', () => {
    let cases = 0;
    for (const truth of guesses) {
      // somebody who asks everything: the same thing is told twice, and a slip shows
      const answers = traceTests.map((test) => ({ test, answer: answerOf(test, truth) }));
      answers.forEach((one, at) => {
        for (const other of new Set(guesses.map((guess) => answerOf(one.test, guess)))) {
          const slipped = answers.toSpliced(at, 1, { ...one, answer: other });
          if (left(tracing, slipped).length > 0) continue;
          cases += 1;
          expect(contradicting(tracing, slipped)).toContainEqual({ test: one.test, answer: other });
        }
      });
    }
    expect(cases).toBeGreaterThan(10);
    expect(contradicting(tracing, ask(guesses[7] ?? expect.fail('none')).answers)).toEqual([]);
  });
});
