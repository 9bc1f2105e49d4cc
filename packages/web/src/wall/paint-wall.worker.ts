import { wall as core, type show } from '@deep-patch/core';

type Known = { readonly wall: show.Wall; readonly panel: core.Panel };
/** A wall of the bench, and who sends to it. */
export interface Shown {
  readonly running: core.Running;
  readonly sender: core.Sender;
}

/** A picture of a wall is wanted: as it is sent, as it is seen with what is entered, on the bench, or with one thing otherwise. */
export interface PaintJob extends Known {
  readonly do: 'paint';
  readonly kind: show.TestPicture;
  readonly as: 'sent' | 'seen' | Shown;
  /** A line moves on with every picture. */
  readonly isMoving: boolean;
}
/** Small pictures of everything that may be wrong. */
export interface CausesJob extends Known {
  readonly do: 'causes';
}
/** What somebody in front of a wall of the bench would say of a test. */
export interface ReadJob extends Known {
  readonly do: 'read';
  readonly test: core.TraceTest;
  readonly shown: Shown;
}
/** Everything that may be true of a wall, with what would be seen of each test. */
export interface GuessJob extends Known {
  readonly do: 'guess';
}
export type WallJob =
  | { readonly do: 'draw_on'; readonly canvas: OffscreenCanvas }
  | PaintJob
  | CausesJob
  | ReadJob
  | GuessJob
  | ({ readonly do: 'save'; readonly kind: show.TestPicture } & Known);

export type WallAnswer =
  | { readonly did: 'painted'; readonly width: number; readonly height: number; readonly pictures: number }
  | { readonly did: 'cause'; readonly key: string; readonly picture: ImageData }
  | { readonly did: 'guessed'; readonly guesses: readonly core.Guess[] }
  | { readonly did: 'read'; readonly answer: readonly string[] }
  | { readonly did: 'saved'; readonly width: number; readonly height: number; readonly blob: Blob };

const self = globalThis as unknown as Worker;
const tell = (answer: WallAnswer) => self.postMessage(answer);

let canvas: OffscreenCanvas | undefined;
let job: PaintJob | undefined;

self.addEventListener('message', ({ data }: MessageEvent<WallJob>) => {
  switch (data.do) {
    case 'draw_on':
      canvas = data.canvas;
      break;
    case 'paint':
      job = data;
      paint(data);
      break;
    case 'causes':
      causes(data);
      break;
    case 'guess':
      tell({ did: 'guessed', guesses: core.guessesOf(data) });
      break;
    case 'read':
      tell({ did: 'read', answer: read(data) });
      break;
    case 'save':
      void save(data);
  }
});

const stateOf = ({ wall, panel }: Known, { running, sender }: Shown): core.WallState =>
  core.runningState(wall, panel, running, sender);

/** How far a line goes from one picture to the next, in pixels. */
const step = 4;

/** Paints, and where a line moves goes on for as long as this is what is wanted: only what changes is painted again. */
function paint(own: PaintJob): void {
  const { wall, panel, kind, as, isMoving } = own;
  const state = as === 'sent' ? undefined : as === 'seen' ? core.enteredState(wall, panel) : stateOf(own, as);
  const light = state && core.coloured(state);
  const sent = core.testPicture(kind, wall, panel, 0, light);
  const way = state && core.sourceMap(state, sent);
  // in the colours that are seen it was painted already
  const shown = state ? core.seen({ ...state, entered: state.panel }, sent, way) : sent;
  const { width, height } = sent;
  const image = imageOf(shown);
  if (canvas && (canvas.width !== width || canvas.height !== height)) Object.assign(canvas, { width, height });
  const context = canvas?.getContext('2d');
  context?.putImageData(image, 0, 0);
  tell({ did: 'painted', width, height, pictures: 1 });
  if (!isMoving) return;
  const spread = way && core.spreader(way, sent);
  let pictures = 1;
  const next = () => {
    if (job !== own) return;
    const [before, now] = [(pictures - 1) * step, pictures * step];
    core.moveLine(sent, before, now, light);
    const touched = [before, now].map((tick) => {
      const line = core.linePixels(sent, tick);
      return spread ? spread(line, sent, shown) : line;
    });
    for (const [x, y] of tilesOf(touched, width)) context?.putImageData(image, 0, 0, x, y, tile, tile);
    pictures += 1;
    tell({ did: 'painted', width, height, pictures });
    requestAnimationFrame(next);
  };
  requestAnimationFrame(next);
}

/** The canvas takes what is new in squares of so many pixels. */
const tile = 64;

function tilesOf(touched: readonly Int32Array[], width: number): (readonly [x: number, y: number])[] {
  const across = Math.ceil(width / tile);
  const tiles = new Set<number>();
  for (const places of touched)
    for (const at of places) {
      const y = Math.trunc(at / width);
      tiles.add(Math.trunc(y / tile) * across + Math.trunc((at - y * width) / tile));
    }
  return [...tiles].map((at) => [(at % across) * tile, Math.trunc(at / across) * tile]);
}

const imageOf = ({ data, width, height }: core.Picture): ImageData =>
  new ImageData(new Uint8ClampedArray(data.buffer as ArrayBuffer), width, height);

function causes({ wall, panel }: Known): void {
  const small = smallPanel(panel);
  const sent = core.testPicture('orientation', wall, small);
  for (const { key, state } of core.causesOf({ wall, panel }, small))
    tell({ did: 'cause', key, picture: imageOf(core.seen(state, sent)) });
}

function read({ wall, panel, test, shown }: ReadJob): string[] {
  const own = { wall, panel };
  const state = stateOf(own, shown);
  const painted = (picture: 0 | 1) => core.seen(state, core.tracePicture(test, own, picture));
  return core.readOff(test, own, state, core.pictureLook([painted(0), painted(1)]));
}

async function save({ wall, panel, kind }: Known & { readonly kind: show.TestPicture }): Promise<void> {
  const picture = core.testPicture(kind, wall, panel);
  const { width, height } = picture;
  const sheet = new OffscreenCanvas(width, height);
  sheet.getContext('2d')?.putImageData(imageOf(picture), 0, 0);
  tell({ did: 'saved', width, height, blob: await sheet.convertToBlob({ type: 'image/png' }) });
}

/** The same panel with as few pixels as its modules allow: rows that are lit together stay as many. */
function smallPanel(panel: core.Panel): core.Panel {
  const { height } = core.moduleSize(panel);
  const rows = [16, 32, 64].find((least) => least >= panel.scan && height % least === 0) ?? height;
  return { ...panel, width: rows * panel.across, height: rows * panel.down };
}
