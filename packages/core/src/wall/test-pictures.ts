import type { TestPicture, Wall } from '../show/index.ts';
import { black, emptyPicture, wordsOf, type Picture, type Size } from './pixels.ts';
import { placesOf, wallSize, type Panel } from './size.ts';

type Colour = readonly [red: number, green: number, blue: number];
const fills: Partial<Record<TestPicture, Colour>> = {
  ...{ red: [255, 0, 0], green: [0, 255, 0], blue: [0, 0, 255], white: [255, 255, 255] },
  // full white is hard to work in front of
  calm: [24, 40, 64],
};

/** Digits, three wide and five high, a bit for each point from the top left. */
const digits = [
  0b111101101101111, 0b010110010010111, 0b111001111100111, 0b111001111001111, 0b101101111001001, 0b111100111001111,
  0b111100111101111, 0b111001001001001, 0b111101111101111, 0b111101111001111,
];

const wordOf = ([red, green, blue]: Colour): number => (red | (green << 8) | (blue << 16) | black) >>> 0;

/** What becomes of a colour before it is painted. */
type Light = (word: number) => number;

class Canvas implements Picture {
  readonly width: number;
  readonly height: number;
  readonly data: Uint8Array;
  private readonly words: Uint32Array;

  private readonly light: Light;

  constructor({ width, height, data }: Picture, colour: Colour | undefined, light: Light) {
    [this.width, this.height, this.data] = [width, height, data];
    this.light = light;
    this.words = wordsOf(this);
    if (colour) this.words.fill(light(wordOf(colour)));
  }

  rect(
    area: { readonly x: number; readonly y: number; readonly width: number; readonly height: number },
    colour: Colour,
  ): void {
    const [left, top] = [Math.max(0, Math.round(area.x)), Math.max(0, Math.round(area.y))];
    const right = Math.min(this.width, Math.round(area.x + area.width));
    const bottom = Math.min(this.height, Math.round(area.y + area.height));
    const word = this.light(wordOf(colour));
    for (let y = top; y < bottom; y += 1)
      if (right > left) this.words.fill(word, y * this.width + left, y * this.width + right);
  }

  number(value: number, x: number, y: number, dot: number, colour: Colour): void {
    Array.from(String(value), Number).forEach((digit, place) => {
      const bits = digits[digit] ?? 0;
      for (let at = 0; at < 15; at += 1)
        if (bits & (1 << (14 - at)))
          this.rect(
            { x: x + (place * 4 + (at % 3)) * dot, y: y + Math.floor(at / 3) * dot, width: dot, height: dot },
            colour,
          );
    });
  }
}

/** One of the pictures; `tick` moves the line, a pixel each. `light`: what becomes of each colour. */
export function testPicture(
  kind: TestPicture,
  wall: Wall,
  panel: Panel,
  tick = 0,
  light: Light = (word) => word,
): Picture {
  const into = emptyPicture(wallSize(wall, panel));
  const { width, height } = into;
  const fill = fills[kind];
  if (fill) return new Canvas(into, fill, light);
  const canvas = new Canvas(into, ground, light);
  if (kind === 'orientation') orientation(canvas);
  else if (kind === 'ramp')
    for (let x = 0; x < width; x += 1) {
      const grey = Math.round((x / Math.max(1, width - 1)) * 255);
      canvas.rect({ x, y: 0, width: 1, height }, [grey, grey, grey]);
    }
  else if (kind === 'grid')
    for (let y = 0; y < height; y += 1)
      for (let x = y % 2; x < width; x += 2) canvas.rect({ x, y, width: 1, height: 1 }, [200, 200, 200]);
  else if (kind === 'line') drawLine(canvas, tick);
  else numbered(canvas, wall, panel);
  return canvas;
}

const ground: Colour = [6, 14, 24];

function drawLine(canvas: Canvas, tick: number): void {
  const { width, height } = canvas;
  canvas.rect({ x: tick % width, y: 0, width: 1, height }, [255, 255, 255]);
  canvas.rect({ x: 0, y: tick % height, width, height: 1 }, [240, 180, 70]);
}

/** The moving line from one place to another, in a picture that has it at the first. */
export function moveLine(picture: Picture, from: number, to: number, light: Light = (word) => word): void {
  const { width, height } = picture;
  const canvas = new Canvas(picture, undefined, light);
  canvas.rect({ x: from % width, y: 0, width: 1, height }, ground);
  canvas.rect({ x: 0, y: from % height, width, height: 1 }, ground);
  drawLine(canvas, to);
}

/** The pixels of the moving line, by their place in the picture. */
export function linePixels({ width, height }: Size, tick: number): Int32Array {
  const [x, y] = [tick % width, tick % height];
  return Int32Array.from({ length: width + height }, (_, at) =>
    at < width ? y * width + at : (at - width) * width + x,
  );
}

/** Nothing of it looks the same turned, mirrored or with two parts changed: an arrow up and to the right, over numbered fields. */
function orientation(canvas: Canvas): void {
  const { width, height } = canvas;
  const fields = 8;
  for (let at = 0; at < fields; at += 1) {
    const x = (width / fields) * at;
    const shade = 30 + at * 12;
    canvas.rect({ x, y: 0, width: width / fields, height }, [12, shade, shade + 20]);
    canvas.number(at + 1, x + width / fields / 4, height * 0.62, Math.max(1, Math.floor(height / 24)), [230, 240, 236]);
  }
  canvas.rect({ x: 0, y: 0, width: width / 10, height: height / 8 }, [230, 60, 60]);
  canvas.rect({ x: width * 0.9, y: 0, width: width / 10, height: height / 8 }, [60, 200, 90]);
  canvas.rect({ x: 0, y: height * 0.875, width: width / 10, height: height / 8 }, [70, 110, 240]);
  canvas.rect({ x: width * 0.2, y: height * 0.2, width: width * 0.5, height: height * 0.06 }, [240, 180, 70]);
  canvas.rect({ x: width * 0.2, y: height * 0.2, width: height * 0.06, height: height * 0.35 }, [240, 180, 70]);
}

/** Each panel with its number along the strings, or by its place where nobody has drawn one. */
function numbered(canvas: Canvas, wall: Wall, panel: Panel): void {
  const ways = wall.strings.length > 0 ? wall.strings.map(({ path }) => path) : [placesOf(wall)];
  const tints: readonly Colour[] = [
    [24, 70, 60],
    [24, 50, 90],
    [70, 40, 80],
    [80, 60, 24],
  ];
  ways.forEach((path, string) =>
    path.forEach(([column, row], at) => {
      const [x, y] = [column * panel.width, row * panel.height];
      canvas.rect(
        { x: x + 1, y: y + 1, width: panel.width - 2, height: panel.height - 2 },
        tints[string % tints.length] ?? [40, 40, 40],
      );
      canvas.number(
        at + 1,
        x + panel.width / 6,
        y + panel.height / 4,
        Math.max(1, Math.floor(panel.height / 12)),
        [230, 240, 236],
      );
      const next = path[at + 1];
      if (!next) return;
      // an edge of light towards the panel that the data goes on to
      const [dx, dy] = [Math.sign(next[0] - column), Math.sign(next[1] - row)];
      const thick = Math.max(1, Math.floor(panel.width / 16));
      canvas.rect(
        {
          x: dx > 0 ? x + panel.width - thick : x,
          y: dy > 0 ? y + panel.height - thick : y,
          width: dx === 0 ? panel.width : thick,
          height: dx === 0 ? thick : panel.height,
        },
        [240, 180, 70],
      );
    }),
  );
}
