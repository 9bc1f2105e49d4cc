import { wall as core, type show } from '@deep-patch/core';

/** A picture of a wall is wanted: as it is sent, or as it is seen with what is entered. */
export interface PaintJob {
  readonly id: number;
  readonly wall: show.Wall;
  readonly panel: core.Panel;
  readonly kind: core.TestPicture;
  readonly tick: number;
  /** What is sent, what is seen with what is entered, or what would be seen if one setting were otherwise, by its key. */
  readonly as: 'sent' | 'seen' | { readonly cause: string };
}
export interface Painted {
  readonly id: number;
  readonly width: number;
  readonly height: number;
  readonly pixels: ArrayBuffer;
}

globalThis.addEventListener('message', ({ data: job }: MessageEvent<PaintJob>) => {
  const { id } = job;
  const shown = pictureOf(job);
  const pixels = shown.data.buffer as ArrayBuffer;
  const painted: Painted = { id, width: shown.width, height: shown.height, pixels };
  (globalThis as unknown as Worker).postMessage(painted, [pixels]);
});

/** One worker paints one wall: whatever is sent goes the same way each time. */
let way: Int32Array | undefined;

function pictureOf({ wall, panel, kind, tick, as }: PaintJob): core.Picture {
  if (typeof as === 'object') {
    const small = smallPanel(panel);
    const sent = core.testPicture(kind, wall, small, tick);
    const cause = core.causesOf(wall, panel, small).find(({ key }) => key === as.cause);
    return cause ? core.seen(cause.state, sent) : sent;
  }
  const sent = core.testPicture(kind, wall, panel, tick);
  if (as === 'sent') return sent;
  const state = core.enteredState(wall, panel);
  way ??= core.sourceMap(state, sent);
  return core.seen(state, sent, way);
}

/** The same panel with as few pixels as its modules allow: rows that are lit together stay as many. */
function smallPanel(panel: core.Panel): core.Panel {
  const { height } = core.moduleSize(panel);
  const rows = [16, 32, 64].find((least) => least >= panel.scan && height % least === 0) ?? height;
  return { ...panel, width: rows * panel.across, height: rows * panel.down };
}
