import type { show, wall as core } from '@deep-patch/core';
import { useEffect, useRef, useState, type ReactNode } from 'react';
import { saveFile } from '../parts/save-file.ts';
import type { PaintJob, WallAnswer, WallJob } from './paint-wall.worker.ts';

interface Props {
  readonly wall: show.Wall;
  readonly panel: core.Panel;
  readonly kind: show.TestPicture;
  readonly as: PaintJob['as'];
  readonly label: ReactNode;
  readonly name: string;
}

export const wallWorker = (): Worker =>
  new Worker(new URL('./paint-wall.worker.ts', import.meta.url), { type: 'module' });

/** One question to a worker of its own. */
export function askWall(job: WallJob): Promise<WallAnswer> {
  const worker = wallWorker();
  return new Promise<WallAnswer>((done, fail) => {
    worker.onerror = () => fail(new Error('the worker ended'));
    worker.onmessage = ({ data }: MessageEvent<WallAnswer>) => done(data);
    worker.postMessage(job);
  }).finally(() => worker.terminate());
}

/** A picture at the wall's own pixels, painted in a worker; pressed, it fills the screen that the page is on. */
export function WallCanvas({ wall, panel, kind, as, label, name }: Props) {
  const frame = useRef<HTMLDivElement>(null);
  const { fault, rate } = usePainted(frame, { wall, panel, kind, as }, name);
  return (
    <figure className="grid min-w-0 gap-1">
      <figcaption className="flex items-center gap-2 text-[13px] text-mute">
        {label}
        {rate !== undefined && <span className="key-num">{rate} a second</span>}
        <button
          type="button"
          className="act-quiet ml-auto"
          onClick={() =>
            void frame.current
              ?.querySelector('canvas')
              ?.requestFullscreen()
              .catch(() => undefined)
          }
        >
          Full screen
        </button>
      </figcaption>
      <div ref={frame} className="grid [&>canvas]:w-full [&>canvas]:bg-black [&>canvas]:[image-rendering:pixelated]" />
      {fault && <p className="text-[13px] text-error">{fault}</p>}
    </figure>
  );
}

/**
 * Paints again whenever what is shown changes. The canvas belongs to the worker, which draws on it by itself: the page
 * has nothing to do for a line that moves.
 */
function usePainted(
  frame: { readonly current: HTMLDivElement | null },
  { wall, panel, kind, as }: Pick<Props, 'wall' | 'panel' | 'kind' | 'as'>,
  name: string,
): { readonly fault: string | undefined; readonly rate: number | undefined } {
  const [fault, setFault] = useState<string>();
  const [rate, setRate] = useState<number>();
  const worker = useRef<Worker>(undefined);
  useEffect(() => {
    const here = frame.current;
    if (!here) return undefined;
    const own = wallWorker();
    worker.current = own;
    const canvas = document.createElement('canvas');
    canvas.setAttribute('role', 'img');
    canvas.setAttribute('aria-label', name);
    here.replaceChildren(canvas);
    const offscreen = canvas.transferControlToOffscreen();
    own.postMessage({ do: 'draw_on', canvas: offscreen } satisfies WallJob, [offscreen]);
    own.onerror = () => setFault('The picture could not be painted: load the page anew.');
    const painted = rates(setRate);
    own.onmessage = ({ data }: MessageEvent<WallAnswer>) => {
      if (data.did !== 'painted') return;
      canvas.dataset['size'] = `${data.width}x${data.height}`;
      painted(data.pictures);
    };
    return () => own.terminate();
  }, [frame, name]);
  // said as text, what is asked for is the same as long as it says the same
  const key = JSON.stringify(as);
  useEffect(() => {
    const isMoving = kind === 'line';
    const job: PaintJob = { do: 'paint', wall, panel, kind, as: JSON.parse(key) as PaintJob['as'], isMoving };
    worker.current?.postMessage(job);
  }, [wall, panel, kind, key, name]);
  return { fault, rate: kind === 'line' ? rate : undefined };
}

/** Tells once a second how many pictures there were in it. */
function rates(tell: (rate: number) => void): (pictures: number) => void {
  let [since, before] = [performance.now(), 0];
  return (pictures) => {
    const now = performance.now();
    if (pictures <= 1) [since, before] = [now, pictures];
    if (now - since < 1000) return;
    tell(Math.round(((pictures - before) * 1000) / (now - since)));
    [since, before] = [now, pictures];
  };
}

/** A small picture that is there already. */
export function Thumb({ picture, name }: { readonly picture: ImageData | undefined; readonly name: string }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    if (picture) canvas.current?.getContext('2d')?.putImageData(picture, 0, 0);
  }, [picture]);
  return (
    <canvas
      ref={canvas}
      role="img"
      aria-label={name}
      width={picture?.width ?? 160}
      height={picture?.height ?? 80}
      className="w-full bg-black [image-rendering:pixelated]"
    />
  );
}

/** Saves a picture at the wall's exact size. */
export async function savePicture({ wall, panel, kind }: Pick<Props, 'wall' | 'panel' | 'kind'>): Promise<void> {
  const answer = await askWall({ do: 'save', wall, panel, kind });
  if (answer.did !== 'saved') throw new Error('not painted');
  saveFile(`${wall.name} ${kind} ${answer.width}x${answer.height}.png`, answer.blob, 'image/png');
}
