import { cabling } from '@deep-patch/core';
import { useMemo, useState } from 'react';
import { useShow, useWorkspace } from '../../live/workspace.tsx';
import { Empty, Loading } from '../../parts/empty.tsx';
import { Drawn } from './drawn.tsx';
import { PictureTools, type Question } from './picture-tools.tsx';
import type { IfLost } from './if-lost.ts';
import { Legend } from './legend.tsx';
import type { Shown } from './standing.ts';
import { useLayout } from './use-layout.ts';
import { usePan } from './use-pan.ts';
import { useWalk } from './use-walk.ts';

interface Asked {
  readonly filter: string;
  readonly shown?: Shown | undefined;
  /** What would stop without a run that is pointed at, or with what was chosen. */
  readonly lost?: IfLost | undefined;
}

/** The cabling as a picture that is worked out: places as columns, units with their sockets, every run between them. */
export function PictureView({ filter, shown, lost }: Asked) {
  const show = useShow();
  const { analysis } = useWorkspace();
  const addressing = analysis?.addressing;
  const picture = useMemo(
    () => (addressing ? cabling.pictureOf(show, cabling.cablingFacts(show), addressing) : undefined),
    [show, addressing],
  );
  if (!picture) return <Loading />;
  if (picture.runs.length === 0)
    return <Empty text="Nothing is plugged in yet: with the first run there is something to see." />;
  return <Picture {...{ picture, filter, shown, lost }} />;
}

function Picture({ picture, filter, shown, lost }: Asked & { readonly picture: cabling.Picture }) {
  const places = useMemo(
    () => [...new Set(picture.units.map(({ place }) => place))].sort((a, b) => a.localeCompare(b)),
    [picture],
  );
  const layout = useLayout(picture, places);
  const [question, setQuestion] = useState<Question>({ networkId: '', fromId: '', toId: '' });
  const whole = layout === 'failed' ? undefined : layout;
  const { svg, view, whole: showAll, by } = usePan(whole);
  const walk = useWalk(picture);
  const way =
    question.fromId && question.toId ? cabling.wayBetween(picture, question.fromId, question.toId) : undefined;
  return (
    <div className="flex min-w-0 flex-1 flex-col">
      <PictureTools
        picture={picture}
        question={question}
        way={way}
        layout={whole}
        pan={{ svg, whole: showAll, by }}
        onAsk={setQuestion}
      />
      {layout === 'failed' && <Empty text="The picture could not be laid out. The table shows the same runs." />}
      <div className="relative min-h-48 flex-1">
        {layout === undefined && <p className="absolute p-4 text-mute">Laying it out</p>}
        <svg
          ref={svg}
          tabIndex={0}
          role="application"
          aria-label="Picture of the cabling. Arrow keys walk along the runs, plus and minus zoom."
          className="absolute inset-0 size-full touch-none bg-base-100"
          onKeyDown={(event) => {
            if (event.key === '+') by(1.25);
            else if (event.key === '-') by(0.8);
            else if (event.key === '0') showAll();
            else walk.onKeyDown(event);
          }}
        >
          <g data-moved transform={view.toString()}>
            {whole && (
              <Drawn {...{ picture, layout: whole, filter, question, way, walk, shown, lost }} scale={view.k} />
            )}
          </g>
        </svg>
      </div>
      <div className="flex flex-wrap gap-x-4 border-t border-rule px-3 py-1.5 text-[13px] text-mute">
        <p className="mr-auto" aria-live="polite">
          {walk.words || 'Arrow keys walk along the runs; wheel, drag or plus and minus move and zoom.'}
        </p>
        <Legend picture={picture} />
      </div>
    </div>
  );
}
