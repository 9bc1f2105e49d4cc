import type { Wall } from '../show/index.ts';
import { holdsPanels, type Part } from './parts.ts';
import { emptyPlaces, wallSize, type Panel, type Place } from './size.ts';

/** Red, green, blue and 255 of each pixel, row by row from the top left: as a canvas has them. */
export interface Picture {
  readonly width: number;
  readonly height: number;
  readonly data: Uint8Array;
}

/** How the rows and colours of a module are addressed: as it is built, or as somebody entered it. */
export type Module = Pick<Panel, 'scan' | 'colours' | 'dataFrom'>;

export interface Size {
  readonly width: number;
  readonly height: number;
}
export interface Rect extends Size {
  readonly x: number;
  readonly y: number;
}

/** One receiver: the pixels of the wall that hang on it, and the part of the picture that it was told to show. */
export interface Receiver {
  readonly output: number;
  readonly hangs: Rect;
  readonly shows: Rect;
  /** Its panels hang upside down. */
  readonly isTurned: boolean;
}

/** No light: nobody drives the pixel, or from outside the picture. */
export const dark = -1;

/** Size of one module of a panel. */
export const moduleSize = ({ width, height, across, down }: Panel): Size => ({
  width: width / across,
  height: height / down,
});

/** Parts of a wall as pixels. */
export const rectOf = ({ x, y, width, height }: Part, panel: Panel): Rect => ({
  ...{ x: x * panel.width, y: y * panel.height, width: width * panel.width, height: height * panel.height },
});

/** Receivers as they hang, each told to show what `told` gives its output. */
export function receiversOf(
  panel: Panel,
  hangs: readonly Part[],
  told: readonly Part[] = hangs,
  upsideDown: readonly number[] = [],
): Receiver[] {
  return hangs.map((part) => ({
    output: part.output,
    hangs: rectOf(part, panel),
    shows: rectOf(told.find(({ output }) => output === part.output) ?? part, panel),
    isTurned: upsideDown.includes(part.output),
  }));
}

/**
 * From which pixel of a module's picture each of its pixels takes its light, when it is built one way and was entered
 * as another. Rows that are lit together share an address: at 1/s these are the rows s apart. A line of data holds the
 * rows of one address after the other, each from the side at which it comes in.
 */
export function moduleMap(size: Size, built: Module, entered: Module): Int32Array {
  const { width, height } = size;
  const map = new Int32Array(width * height).fill(dark);
  const [groups, believed] = [height / built.scan, height / entered.scan];
  // rows that do not come out even: told one after the other
  if (!Number.isInteger(groups) || !Number.isInteger(believed)) {
    const told = lineOf(size, entered);
    lineOf(size, built).forEach((at, place) => (map[at] = told[place] ?? dark));
    return map;
  }
  const along = (x: number, { dataFrom }: Module) => (dataFrom === 'left' ? x : width - 1 - x);
  for (let y = 0; y < height; y += 1)
    for (let x = 0; x < width; x += 1) {
      const [address, group] = [y % built.scan, Math.floor(y / built.scan)];
      const at = (address * groups + group) * width + along(x, built);
      const row = Math.floor(at / width);
      const [told, block] = [Math.floor(row / believed), row % believed];
      map[y * width + x] = (block * entered.scan + told) * width + along(at % width, entered);
    }
  return map;
}

/** The pixels of a module in the order in which its line of data has them. */
function lineOf({ width, height }: Size, { scan, dataFrom }: Module): number[] {
  const line: number[] = [];
  for (let address = 0; address < scan; address += 1)
    for (let y = address; y < height; y += scan)
      for (let at = 0; at < width; at += 1) line.push(y * width + (dataFrom === 'left' ? at : width - 1 - at));
  return line;
}

export interface WallState {
  readonly width: number;
  readonly height: number;
  readonly panel: Panel;
  readonly receivers: readonly Receiver[];
  readonly entered: Module;
  /** The size that the sender was told: it stretches what comes to that, and what is beyond the wall is lost. */
  readonly believed: Size;
  /** Panels that nothing gets to. */
  readonly silent: readonly Place[];
  /** Places of the rectangle in which no panel hangs. */
  readonly empty: readonly Place[];
  /** Whoever sends begins at another corner than the top left one. */
  readonly turned: { readonly across: boolean; readonly down: boolean };
  /** Nothing of what is sent gets to the receivers. */
  readonly isCutOff: boolean;
}

/** The wall as it is planned and set right, or with something else entered. */
export function wallState(
  wall: Wall,
  panel: Panel,
  {
    hangs = wall.parts,
    told = wall.parts,
    entered = panel,
    believed,
    silent = [],
    upsideDown = [],
    turned = { across: false, down: false },
    isCutOff = false,
  }: {
    readonly hangs?: readonly Part[];
    readonly told?: readonly Part[];
    readonly upsideDown?: readonly number[];
  } & Partial<Pick<WallState, 'entered' | 'believed' | 'silent' | 'turned' | 'isCutOff'>> = {},
): WallState {
  const { width, height } = wallSize(wall, panel);
  const receivers = receiversOf(
    panel,
    hangs.filter((part) => holdsPanels(wall, part)),
    told,
    upsideDown,
  );
  const size = { width, height };
  return {
    ...{ ...size, panel, receivers, entered, silent, empty: emptyPlaces(wall) },
    ...{ believed: believed ?? size, turned, isCutOff },
  };
}

/** How the modules were entered; what nobody wrote down is taken to be right. */
export const enteredModule = ({ program }: Pick<Wall, 'program'>, panel: Panel): Module => ({
  scan: program.scan ?? panel.scan,
  colours: program.colours ?? panel.colours,
  dataFrom: program.dataFrom ?? panel.dataFrom,
});

/** Does every pixel of the wall show what is sent for it? */
export function isAsSent(state: WallState): boolean {
  const { width, height, panel, entered, believed, silent, receivers, turned, isCutOff } = state;
  const isRight =
    panel.scan === entered.scan && panel.colours === entered.colours && panel.dataFrom === entered.dataFrom;
  const isWhole = believed.width === width && believed.height === height && silent.length === 0;
  if (isCutOff || turned.across || turned.down) return false;
  return (
    isRight &&
    isWhole &&
    receivers.every(({ hangs, shows, isTurned }) => !isTurned && hangs.x === shows.x && hangs.y === shows.y)
  );
}

/**
 * From which pixel of a picture of such a size each pixel of the wall takes its light, row by row; `dark` where from
 * none. Of the whole wall, or of a part of it.
 */
export function sourceMap(
  state: WallState,
  sent: Size,
  within: Rect = { x: 0, y: 0, ...sizeOf(state) },
  ways: Ways = knownWays(),
): Int32Array {
  const { panel, receivers, entered, believed, silent, empty, turned, isCutOff } = state;
  const map = new Int32Array(within.width * within.height).fill(dark);
  if (isCutOff) return map;
  const size = moduleSize(panel);
  const inModule = ways.inModule(size, panel, entered);
  const across = ways.along(believed.width, sent.width, turned.across);
  const down = ways.along(believed.height, sent.height, turned.down);
  for (const { hangs, shows, isTurned } of receivers) {
    if (!meet(hangs, within)) continue;
    // a part may be drawn beyond the wall: nothing hangs there
    const seen = overlap(hangs, overlap(within, { x: 0, y: 0, ...sizeOf(state) }));
    for (let wy = seen.y; wy < seen.y + seen.height; wy += 1) {
      const y = isTurned ? hangs.y + hangs.height - 1 - wy : wy - hangs.y;
      const inY = y % size.height;
      const topOf = y - inY;
      const row = (wy - within.y) * within.width - within.x;
      for (let wx = seen.x; wx < seen.x + seen.width; wx += 1) {
        const x = isTurned ? hangs.x + hangs.width - 1 - wx : wx - hangs.x;
        const inX = x % size.width;
        const from = inModule[inY * size.width + inX] ?? dark;
        if (from === dark) continue;
        const fromY = Math.trunc(from / size.width);
        const px = x - inX + from - fromY * size.width;
        const py = topOf + fromY;
        if (px >= shows.width || py >= shows.height) continue;
        const [sx, sy] = [across[shows.x + px], down[shows.y + py]];
        if (sx !== undefined && sy !== undefined) map[row + wx] = sy * sent.width + sx;
      }
    }
  }
  for (const [column, row] of [...silent, ...empty]) {
    const place = { x: column * panel.width, y: row * panel.height, width: panel.width, height: panel.height };
    if (!meet(place, within)) continue;
    const off = overlap(within, place);
    for (let y = off.y - within.y; y < off.y - within.y + off.height; y += 1)
      map.fill(dark, y * within.width + off.x - within.x, y * within.width + off.x - within.x + off.width);
  }
  return map;
}

/** Parts of the way that many walls have in common, for whoever looks at small pieces of many of them. */
export interface Ways {
  readonly inModule: typeof moduleMap;
  readonly along: typeof stretched;
}

export function knownWays(): Ways {
  const modules = new Map<string, Int32Array>();
  const lines = new Map<string, Int32Array>();
  const kept = <Item>(of: Map<string, Item>, key: string, make: () => Item): Item => {
    const item = of.get(key) ?? make();
    of.set(key, item);
    return item;
  };
  return {
    inModule: (size, built, entered) =>
      kept(
        modules,
        `${built.scan} ${built.dataFrom} ${entered.scan} ${entered.dataFrom} ${size.width} ${size.height}`,
        () => moduleMap(size, built, entered),
      ),
    along: (believed, sent, isTurned) =>
      kept(lines, `${believed} ${sent} ${isTurned}`, () => stretched(believed, sent, isTurned)),
  };
}

const sizeOf = ({ width, height }: Size): Size => ({ width, height });

const meet = (a: Rect, b: Rect): boolean =>
  a.x < b.x + b.width && b.x < a.x + a.width && a.y < b.y + b.height && b.y < a.y + a.height;

function overlap(a: Rect, b: Rect): Rect {
  const [x, y] = [Math.max(a.x, b.x), Math.max(a.y, b.y)];
  const width = Math.max(0, Math.min(a.x + a.width, b.x + b.width) - x);
  return { x, y, width, height: Math.max(0, Math.min(a.y + a.height, b.y + b.height) - y) };
}

/** From which pixel of what is sent each pixel of a stretched line comes. */
const stretched = (believed: number, sent: number, isTurned: boolean): Int32Array =>
  Int32Array.from({ length: believed }, (_, at) => {
    const from = Math.floor((at * sent) / believed);
    return isTurned ? sent - 1 - from : from;
  });

/** Which byte of a pixel each colour of light shows: the first on the line drives whatever is built first. */
export function colourMap(
  built: Module['colours'],
  entered: Module['colours'],
): readonly [red: number, green: number, blue: number] {
  const of = (light: string) => 'RGB'.indexOf(entered[built.indexOf(light)] ?? light);
  return [of('R'), of('G'), of('B')];
}

/** What a pixel is that nobody lights, as one number: the lowest byte is red (both ends of every canvas are little-endian). */
export const black = 0xff00_0000;

/** The pixels of a picture as one number each, over the same bytes. */
export const wordsOf = ({ data, width, height }: Picture): Uint32Array =>
  new Uint32Array(data.buffer, data.byteOffset, width * height);

/** What becomes of a colour on its way through panels whose order of colours was entered otherwise. */
export function coloured({ panel, entered }: Pick<WallState, 'panel' | 'entered'>): (word: number) => number {
  if (panel.colours === entered.colours) return (word) => word;
  const [red, green, blue] = colourMap(panel.colours, entered.colours).map((byte) => byte * 8) as [
    number,
    number,
    number,
  ];
  return (word) =>
    (((word >>> red) & 255) | (((word >>> green) & 255) << 8) | (((word >>> blue) & 255) << 16) | black) >>> 0;
}

/** What the audience sees of a picture that is sent. */
export function seen(state: WallState, sent: Picture, map: Int32Array = sourceMap(state, sent)): Picture {
  const { panel, entered } = state;
  const shown = emptyPicture(state);
  const [red, green, blue] = colourMap(panel.colours, entered.colours).map((byte) => byte * 8);
  const [from, to] = [wordsOf(sent), wordsOf(shown)];
  // up to nine million times for a picture: two plain loops
  if (panel.colours === entered.colours)
    for (let at = 0; at < to.length; at += 1) {
      const source = map[at] as number;
      to[at] = source === dark ? black : (from[source] as number);
    }
  else
    for (let at = 0; at < to.length; at += 1) {
      const source = map[at] as number;
      const word = source === dark ? 0 : (from[source] as number);
      to[at] =
        (((word >>> (red as number)) & 255) |
          (((word >>> (green as number)) & 255) << 8) |
          (((word >>> (blue as number)) & 255) << 16) |
          black) >>>
        0;
    }
  return shown;
}

export const emptyPicture = ({ width, height }: Size): Picture => ({
  width,
  height,
  data: new Uint8Array(width * height * 4),
});

/**
 * For pictures of which little changes: by the pixel of what is sent, the pixels of the wall that show it. What comes back
 * puts those that changed where they are seen, and tells where that is. Colours stay as they are: whoever paints what is
 * sent paints it in the colours that are seen.
 */
export function spreader(
  map: Int32Array,
  sent: Size,
): (changed: Int32Array, sent: Picture, into: Picture) => Int32Array {
  const starts = new Int32Array(sent.width * sent.height + 1);
  for (const from of map) if (from !== dark) starts[from + 1] = (starts[from + 1] ?? 0) + 1;
  for (let at = 1; at < starts.length; at += 1) starts[at] = (starts[at] as number) + (starts[at - 1] as number);
  const next = starts.slice();
  const shownAt = new Int32Array(starts.at(-1) ?? 0);
  map.forEach((from, at) => {
    if (from === dark) return;
    shownAt[next[from] as number] = at;
    next[from] = (next[from] as number) + 1;
  });
  return (changed, picture, into) => {
    const [words, shown] = [wordsOf(picture), wordsOf(into)];
    const touched: number[] = [];
    for (const from of changed)
      for (let at = starts[from] as number; at < (starts[from + 1] as number); at += 1) {
        const place = shownAt[at] as number;
        shown[place] = words[from] as number;
        touched.push(place);
      }
    return Int32Array.from(touched);
  };
}
