import type { Wall } from '../show/index.ts';
import { mirrored, panelsIn, type Part } from './parts.ts';
import { emptyPlaces, wallSize, type Panel, type Place } from './size.ts';

/** Red, green, blue and 255 of each pixel, row by row from the top left: as a canvas has them. */
export interface Picture {
  readonly width: number;
  readonly height: number;
  readonly data: Uint8Array;
}

/** How the rows and colours of a module are addressed: as it is built, or as somebody entered it. */
export type Module = Pick<Panel, 'scan' | 'colours' | 'dataFrom'>;

export interface Rect {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

/** One receiver: the pixels of the wall that hang on it, and the part of the picture that it was told to show. */
export interface Receiver {
  readonly output: number;
  readonly hangs: Rect;
  readonly shows: Rect;
}

/** No light: nobody drives the pixel, or from outside the picture. */
export const dark = -1;

/** Size of one module of a panel. */
export const moduleSize = ({
  width,
  height,
  across,
  down,
}: Panel): { readonly width: number; readonly height: number } => ({
  width: width / across,
  height: height / down,
});

/** Parts of a wall as pixels. */
export const rectOf = ({ x, y, width, height }: Part, panel: Panel): Rect => ({
  ...{ x: x * panel.width, y: y * panel.height, width: width * panel.width, height: height * panel.height },
});

/** Receivers as they hang, each told to show what `told` gives its output. */
export function receiversOf(panel: Panel, hangs: readonly Part[], told: readonly Part[] = hangs): Receiver[] {
  return hangs.map((part) => ({
    output: part.output,
    hangs: rectOf(part, panel),
    shows: rectOf(told.find(({ output }) => output === part.output) ?? part, panel),
  }));
}

/**
 * From which pixel of a module's picture each of its pixels takes its light, when it is built one way and was entered
 * as another. Rows that are lit together share an address: at 1/s these are the rows s apart. A line of data holds the
 * rows of one address after the other, each from the side at which it comes in.
 */
export function moduleMap(
  size: { readonly width: number; readonly height: number },
  built: Module,
  entered: Module,
): Int32Array {
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
function lineOf(
  { width, height }: { readonly width: number; readonly height: number },
  { scan, dataFrom }: Module,
): number[] {
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
  readonly believed: { readonly width: number; readonly height: number };
  /** Panels that nothing gets to. */
  readonly silent: readonly Place[];
  /** Places of the rectangle in which no panel hangs. */
  readonly empty: readonly Place[];
}

/** The wall as it is planned and set right, or with something else entered. */
export function wallState(
  wall: Wall,
  panel: Panel,
  {
    told = wall.parts,
    entered = panel,
    believed,
    silent = [],
  }: {
    readonly told?: readonly Part[];
    readonly entered?: Module;
    readonly believed?: WallState['believed'];
    readonly silent?: readonly Place[];
  } = {},
): WallState {
  const { width, height } = wallSize(wall, panel);
  const receivers = receiversOf(panel, wall.parts, told).filter(({ output }) =>
    wall.parts.some((part) => part.output === output && panelsIn(wall, part).length > 0),
  );
  const empty = emptyPlaces(wall);
  return { width, height, panel, receivers, entered, silent, empty, believed: believed ?? { width, height } };
}

/** The wall with what stands in the set-up program, as far as somebody wrote it down, and with strings that end too early. */
export function enteredState(wall: Wall, panel: Panel): WallState {
  const { program, numberedFrom, parts, strings, found } = wall;
  const { width, height } = wallSize(wall, panel);
  const counts = new Map(found.map(({ output, panels }) => [output, panels]));
  return wallState(wall, panel, {
    entered: enteredModule(wall, panel),
    told: numberedFrom === 'back' ? mirrored(parts) : parts,
    believed: { width: program.width ?? width, height: program.height ?? height },
    silent: strings.flatMap(({ output, path }) => path.slice(counts.get(output) ?? path.length)),
  });
}

/** How the modules were entered; what nobody wrote down is taken to be right. */
export const enteredModule = ({ program }: Pick<Wall, 'program'>, panel: Panel): Module => ({
  scan: program.scan ?? panel.scan,
  colours: program.colours ?? panel.colours,
  dataFrom: program.dataFrom ?? panel.dataFrom,
});

/** Does every pixel of the wall show what is sent for it? */
export function isAsSent(state: WallState): boolean {
  const { width, height, panel, entered, believed, silent, receivers } = state;
  const isRight =
    panel.scan === entered.scan && panel.colours === entered.colours && panel.dataFrom === entered.dataFrom;
  const isWhole = believed.width === width && believed.height === height && silent.length === 0;
  return isRight && isWhole && receivers.every(({ hangs, shows }) => hangs.x === shows.x && hangs.y === shows.y);
}

/** From which pixel of a picture of such a size each pixel of the wall takes its light; `dark` where from none. */
export function sourceMap(
  { width, height, panel, receivers, entered, believed, silent, empty }: WallState,
  sent: { readonly width: number; readonly height: number },
): Int32Array {
  const map = new Int32Array(width * height).fill(dark);
  const size = moduleSize(panel);
  const inModule = moduleMap(size, panel, entered);
  const across = stretched(believed.width, sent.width);
  const down = stretched(believed.height, sent.height);
  for (const { hangs, shows } of receivers)
    // a part may be drawn beyond the wall: nothing hangs there
    for (let y = 0; y < Math.min(hangs.height, height - hangs.y); y += 1) {
      const [topOf, inY] = [Math.floor(y / size.height) * size.height, y % size.height];
      for (let x = 0; x < Math.min(hangs.width, width - hangs.x); x += 1) {
        const from = inModule[inY * size.width + (x % size.width)] ?? dark;
        if (from === dark) continue;
        const px = Math.floor(x / size.width) * size.width + (from % size.width);
        const py = topOf + Math.floor(from / size.width);
        if (px >= shows.width || py >= shows.height) continue;
        const [sx, sy] = [across[shows.x + px], down[shows.y + py]];
        if (sx !== undefined && sy !== undefined) map[(hangs.y + y) * width + hangs.x + x] = sy * sent.width + sx;
      }
    }
  for (const [column, row] of [...silent, ...empty])
    for (let y = row * panel.height; y < (row + 1) * panel.height; y += 1)
      map.fill(dark, y * width + column * panel.width, y * width + (column + 1) * panel.width);
  return map;
}

/** From which pixel of what is sent each pixel of a stretched line comes. */
const stretched = (believed: number, sent: number): Int32Array =>
  Int32Array.from({ length: believed }, (_, at) => Math.floor((at * sent) / believed));

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

/** What the audience sees of a picture that is sent. */
export function seen(state: WallState, sent: Picture, map: Int32Array = sourceMap(state, sent)): Picture {
  const { width, height, panel, entered } = state;
  const [red, green, blue] = colourMap(panel.colours, entered.colours).map((byte) => byte * 8);
  const data = new Uint8Array(width * height * 4);
  const [from, to] = [wordsOf(sent), new Uint32Array(data.buffer)];
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
  return { width, height, data };
}
