import type { show, wall as core } from '@deep-patch/core';
import { useEffect, useRef, useState, type ReactNode } from 'react';
import { saveFile } from '../parts/save-file.ts';
import type { PaintJob, Painted } from './paint-wall.worker.ts';

interface Props {
  readonly wall: show.Wall;
  readonly panel: core.Panel;
  readonly kind: core.TestPicture;
  readonly as: PaintJob['as'];
  readonly label: ReactNode;
  readonly name: string;
}

/** A picture at the wall's own pixels, painted in a worker; pressed, it fills the screen that the page is on. */
export function WallCanvas({ wall, panel, kind, as, label, name }: Props) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const fault = usePainted(canvas, { wall, panel, kind, as });
  return (
    <figure className="grid min-w-0 gap-1">
      <figcaption className="flex items-center gap-2 text-[13px] text-mute">
        {label}
        <button
          type="button"
          className="act-quiet ml-auto"
          onClick={() => void canvas.current?.requestFullscreen().catch(() => undefined)}
        >
          Full screen
        </button>
      </figcaption>
      <canvas ref={canvas} role="img" aria-label={name} className="w-full bg-black [image-rendering:pixelated]" />
      {fault && <p className="text-[13px] text-error">{fault}</p>}
    </figure>
  );
}

/** The same without anything around it, as small as it is drawn. */
export function WallThumb({ wall, panel, kind, as, name }: Omit<Props, 'label'>) {
  const canvas = useRef<HTMLCanvasElement>(null);
  usePainted(canvas, { wall, panel, kind, as });
  return <canvas ref={canvas} role="img" aria-label={name} className="w-full bg-black [image-rendering:pixelated]" />;
}

/** Paints again whenever what is shown changes; a line that moves, as often as it is painted. */
function usePainted(
  canvas: { readonly current: HTMLCanvasElement | null },
  { wall, panel, kind, as }: Pick<Props, 'wall' | 'panel' | 'kind' | 'as'>,
): string | undefined {
  const [fault, setFault] = useState<string>();
  // said as text, what is asked for is the same as long as it says the same
  const key = JSON.stringify(as);
  useEffect(() => {
    const worker = new Worker(new URL('./paint-wall.worker.ts', import.meta.url), { type: 'module' });
    let tick = 0;
    const ask = () =>
      worker.postMessage({
        id: tick,
        wall,
        panel,
        kind,
        tick,
        as: JSON.parse(key) as PaintJob['as'],
      } satisfies PaintJob);
    worker.onmessage = ({ data }: MessageEvent<Painted>) => {
      const here = canvas.current;
      if (!here) return;
      Object.assign(here, { width: data.width, height: data.height });
      const image = new ImageData(new Uint8ClampedArray(data.pixels), data.width, data.height);
      here.getContext('2d')?.putImageData(image, 0, 0);
      if (kind !== 'line') return;
      tick += 4;
      requestAnimationFrame(ask);
    };
    worker.onerror = () => setFault('The picture could not be painted: load the page anew.');
    ask();
    return () => worker.terminate();
  }, [canvas, wall, panel, kind, key]);
  return fault;
}

/** Saves a picture at the wall's exact size. */
export function savePicture({ wall, panel, kind }: Pick<Props, 'wall' | 'panel' | 'kind'>): Promise<void> {
  const worker = new Worker(new URL('./paint-wall.worker.ts', import.meta.url), { type: 'module' });
  return new Promise((done, fail) => {
    worker.onerror = () => fail(new Error('not painted'));
    worker.onmessage = ({ data }: MessageEvent<Painted>) => {
      worker.terminate();
      const canvas = new OffscreenCanvas(data.width, data.height);
      canvas
        .getContext('2d')
        ?.putImageData(new ImageData(new Uint8ClampedArray(data.pixels), data.width, data.height), 0, 0);
      void canvas.convertToBlob({ type: 'image/png' }).then((blob) => {
        saveFile(`${wall.name} ${kind} ${data.width}x${data.height}.png`, blob, 'image/png');
        done();
      }, fail);
    };
    worker.postMessage({ id: 0, wall, panel, kind, tick: 0, as: 'sent' } satisfies PaintJob);
  });
}
