import { inPlace, panelsIn } from './parts.ts';
import {
  black,
  coloured,
  dark,
  moduleSize,
  sourceMap,
  wordsOf,
  type Picture,
  type Rect,
  type Size,
  type WallState,
  type Ways,
} from './pixels.ts';
import { memoFor } from '../show/index.ts';
import type { KnownWall } from './known-wall.ts';
import type { Sender } from './real.ts';
import { testPicture } from './test-pictures.ts';
import { wallSize, type Place } from './size.ts';

/**
 * What is sent while somebody in front of a wall looks: one point in every module, a line along the top of each, a frame
 * around the whole picture, each receiver's own number, colours, and the orientation picture from the player.
 */
export const traceTests = ['corners', 'point', 'numbers', 'frame', 'top_row', 'red_then_green'] as const;
export type TraceTest = (typeof traceTests)[number];

type KnownPanel = Pick<KnownWall, 'wall' | 'panel'>;

/** What is said of each test, one word for each of these. */
export const told: Readonly<Record<TraceTest, readonly string[]>> = {
  corners: ['top left', 'top right', 'bottom left', 'bottom right'],
  point: ['colour', 'side', 'row', 'receivers that show it, of the first six'],
  numbers: ['from the left, row by row'],
  frame: ['at the left', 'at the top', 'at the right', 'at the bottom'],
  top_row: ['rows that are lit', 'the first of them'],
  red_then_green: ['first', 'then'],
};

/** Who has to send it. */
export const senderOf = (test: TraceTest): Sender => (test === 'corners' ? 'player' : 'processor');

/** Colours of a rectangle of the wall, row by row, one number each, while the first or the second picture of a test is sent. */
export type Look = (within: Rect, picture: 0 | 1) => ArrayLike<number>;

const [red, green, white] = [0xff00_00ff, 0xff00_ff00, 0xffff_ffff];

/** The light that a test sends for each pixel of the picture. */
function lightOf(test: TraceTest, { wall, panel }: KnownPanel, picture: 0 | 1): (x: number, y: number) => number {
  const { width, height } = wallSize(wall, panel);
  const module = moduleSize(panel);
  switch (test) {
    case 'corners': {
      const words = wordsOf(testPicture('orientation', wall, panel));
      return (x, y) => words[y * width + x] ?? black;
    }
    case 'point':
      // neither in the middle of the rows nor at their end: there, two scans would put it in the same row
      return (x, y) => (x % module.width === 0 && y % module.height === Math.max(0, module.height - 2) ? red : black);
    case 'top_row':
      return (_, y) => (y % module.height === 0 ? white : black);
    case 'frame':
      return (x, y) => (x === 0 || y === 0 || x === width - 1 || y === height - 1 ? white : black);
    default:
      return () => (picture === 0 ? red : green);
  }
}

/** The picture of a test, at the wall's own size. */
export function tracePicture(test: TraceTest, own: KnownPanel, picture: 0 | 1 = 0): Picture {
  const { width, height } = wallSize(own.wall, own.panel);
  const light = lightOf(test, own, picture);
  const words = new Uint32Array(width * height);
  for (let at = 0; at < words.length; at += 1) words[at] = light(at % width, Math.floor(at / width));
  return { width, height, data: new Uint8Array(words.buffer) };
}

/** What would be seen in any rectangle of a wall, without painting the rest of it. */
export function forecastLook(test: TraceTest, own: KnownPanel, ways: Ways): (state: WallState) => Look {
  const sent = wallSize(own.wall, own.panel);
  const pictures = [lightOf(test, own, 0), lightOf(test, own, 1)] as const;
  return (state) => {
    const light = coloured(state);
    return (within, picture) => {
      const map = sourceMap(state, sent, within, ways);
      const seen = new Uint32Array(map.length).fill(black);
      const lightAt = pictures[picture];
      map.forEach((from, at) => {
        if (from === dark) return;
        const y = Math.trunc(from / sent.width);
        const word = lightAt(from - y * sent.width, y);
        if (word !== black) seen[at] = light(word);
      });
      return seen;
    };
  };
}

/** The same off pictures that were painted whole. */
export const pictureLook =
  (painted: readonly [Picture, Picture]): Look =>
  ({ x, y, width, height }, picture) => {
    const shown = painted[picture];
    const words = wordsOf(shown);
    return Array.from(
      { length: width * height },
      (_, at) => words[(y + Math.floor(at / width)) * shown.width + x + (at % width)] ?? black,
    );
  };

/** What somebody in front of the wall says, word by word. */
export function readOff(test: TraceTest, own: KnownPanel, state: WallState, look: Look): string[] {
  const { wall, panel } = own;
  const module = moduleSize(panel);
  const { width, height } = state;
  switch (test) {
    case 'numbers':
      // receivers show their own numbers by themselves: whatever is sent to them
      return [
        inPlace(wall.parts)
          .map((part) => numberAt(state, part.x * panel.width, part.y * panel.height))
          .join(', '),
      ];
    case 'corners':
      return [
        [0, 0],
        [width - 1, 0],
        [0, height - 1],
        [width - 1, height - 1],
      ].map(([x = 0, y = 0]) => colourWord(look({ x, y, width: 1, height: 1 }, 0)[0] ?? black));
    case 'red_then_green':
      return ([0, 1] as const).map((picture) => firstLight(modulesOf(own), look, picture));
    case 'frame':
      return edges(state, module).map((edge) => (firstIn(edge, look, 0) ? 'a line' : 'none'));
    case 'top_row':
      return topRow(modulesOf(own), module, look);
    case 'point':
      return pointSeen(modulesOf(own).slice(0, countedAtMost), look);
  }
}

/** The module at the top left of the first panel of each part. */
const modulesOf = memoFor(({ wall, panel }: KnownPanel): readonly Rect[] =>
  inPlace(wall.parts).flatMap((part) => {
    const [top] = panelsIn(wall, part);
    return top ? [{ x: top[0] * panel.width, y: top[1] * panel.height, ...moduleSize(panel) }] : [];
  }),
);

/** The rows of a rectangle, from its bottom up. */
const rowsUp = ({ x, y, width, height }: Rect): Rect[] =>
  Array.from({ length: height }, (_, at) => ({ x, y: y + height - 1 - at, width, height: 1 }));

interface Light {
  readonly at: number;
  readonly word: number;
}

/** The first pixel of a rectangle that is lit, and how. */
function firstIn(within: Rect, look: Look, picture: 0 | 1): Light | undefined {
  const words = look(within, picture);
  for (let at = 0; at < words.length; at += 1) {
    const word = (words[at] ?? black) >>> 0;
    if (word !== black) return { at, word };
  }
  return undefined;
}

/** More receivers than that nobody counts at a glance. */
const countedAtMost = 6;

/** Where the point is in the first module that shows it, and on how many receivers it is seen. */
function pointSeen(modules: readonly Rect[], look: Look): string[] {
  const points = modules.flatMap((place) => {
    for (const row of rowsUp(place)) {
      const light = firstIn(row, look, 0);
      if (light) return [{ ...light, row: row.y - place.y, isLeft: light.at < place.width / 2 }];
    }
    return [];
  });
  const [first] = points;
  if (!first) return ['dark', 'none', 'none', '0'];
  return [colourWord(first.word), first.isLeft ? 'left' : 'right', String(first.row + 1), String(points.length)];
}

/** A line across a module is seen in any of its columns. */
const column = (place: Rect): Rect => ({ ...place, x: place.x + (place.width >> 1), width: 1 });

/** How many rows of the first module are lit, and the topmost of them. */
function topRow(modules: readonly Rect[], { height }: Size, look: Look): string[] {
  for (const place of modules) {
    const lit = [...Array.from(look(column(place), 0)).entries()].filter(([, word]) => word >>> 0 !== black);
    const [top] = lit;
    if (top) return [lit.length === height ? 'all' : String(lit.length), String(top[0] + 1)];
  }
  return ['0', 'none'];
}

/** The light of the first module that is lit. */
function firstLight(modules: readonly Rect[], look: Look, picture: 0 | 1): string {
  for (const place of modules) {
    const light = firstIn(column(place), look, picture);
    if (light) return colourWord(light.word);
  }
  return 'dark';
}

/** Where a line along each edge has to cross the outermost module in its middle. */
function edges({ width, height }: Size, module: Size): Rect[] {
  const [x, y] = [Math.floor(width / 2), Math.floor(height / 2)];
  return [
    { x: 0, y, width: module.width, height: 1 },
    { x, y: 0, width: 1, height: module.height },
    { x: width - module.width, y, width: module.width, height: 1 },
    { x, y: height - module.height, width: 1, height: module.height },
  ];
}

/** A receiver shows its number while anything of what hangs on it is lit. */
function numberAt({ receivers, silent, empty, panel, isCutOff }: WallState, x: number, y: number): string {
  const at = receivers.find(({ hangs }) => hangs.x === x && hangs.y === y);
  if (!at) return 'none';
  const { hangs } = at;
  const isHere = ([column, row]: Place): boolean => {
    const [px, py] = [column * panel.width, row * panel.height];
    return px >= hangs.x && px < hangs.x + hangs.width && py >= hangs.y && py < hangs.y + hangs.height;
  };
  const unlit = [...silent, ...empty].filter(isHere).length;
  const panels = (hangs.width / panel.width) * (hangs.height / panel.height);
  if (isCutOff || unlit >= panels) return 'dark';
  return at.isTurned ? `${at.output} upside down` : String(at.output);
}

/** One colour outshines the others by so much that everybody calls it by its name. */
const clearly = 1.4;

function colourWord(word: number): string {
  const lights = [word & 255, (word >>> 8) & 255, (word >>> 16) & 255] as const;
  const [most = 0, next = 0] = [...lights].sort((a, b) => b - a);
  if (most === 0) return 'dark';
  if (most < next * clearly) return 'mixed';
  return ['red', 'green', 'blue'][lights.indexOf(most)] ?? 'mixed';
}
