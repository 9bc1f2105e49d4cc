import { wall as walls } from '@deep-patch/core';
import { useEffect, useMemo, useState } from 'react';
import { Dialog } from '../parts/dialog.tsx';
import { Mend } from './mend.tsx';
import type { WallAnswer, WallJob } from './paint-wall.worker.ts';
import { realWords } from './real-words.ts';
import { Thumb, wallWorker } from './wall-canvas.tsx';

/** From the picture to the cause: what this wall would look like if one setting were wrong, and what mends it. */
export function CausesDialog({ own, onClose }: { readonly own: walls.KnownWall; readonly onClose: () => void }) {
  const [chosen, setChosen] = useState<walls.Cause>();
  const causes = useMemo(() => walls.causesOf(own), [own]);
  const pictures = useCausePictures(own);
  return (
    <Dialog title={`What does ${own.wall.name} look like?`} onClose={onClose} wide="full" unsaved={false}>
      <p className="mb-3 text-mute">
        Send the orientation picture from the player, and choose what is seen. Each of these is this very wall with one
        thing that is otherwise than it is entered.
      </p>
      {chosen && (
        <section className="mb-4 grid gap-2 border border-rule p-3" aria-label="Then it is this">
          <p className="font-bold">Then {realWords(chosen.real).join(', and ')}.</p>
          <Mend own={own} real={chosen.real} onDone={onClose} />
        </section>
      )}
      <ul className="grid grid-cols-[repeat(auto-fill,minmax(13rem,1fr))] gap-4">
        {causes.map((cause) => {
          const words = realWords(cause.real).join(', ');
          return (
            <li key={cause.key}>
              <button
                type="button"
                aria-pressed={chosen?.key === cause.key}
                className="grid w-full gap-1 rounded-box border border-line p-1.5 text-left text-[13px] hover:border-primary aria-pressed:border-primary"
                onClick={() => setChosen(cause)}
              >
                <Thumb picture={pictures.get(cause.key)} name={words} />
                <span>{words}</span>
              </button>
            </li>
          );
        })}
      </ul>
    </Dialog>
  );
}

/** Small pictures by the key of their cause, as they come from the worker. */
function useCausePictures({ wall, panel }: walls.KnownWall): ReadonlyMap<string, ImageData> {
  const [pictures, setPictures] = useState<ReadonlyMap<string, ImageData>>(new Map());
  useEffect(() => {
    const worker = wallWorker();
    worker.onmessage = ({ data }: MessageEvent<WallAnswer>) => {
      if (data.did === 'cause') setPictures((known) => new Map(known).set(data.key, data.picture));
    };
    worker.postMessage({ do: 'causes', wall, panel } satisfies WallJob);
    return () => worker.terminate();
  }, [wall, panel]);
  return pictures;
}
