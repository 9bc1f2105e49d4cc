import type { cabling } from '@deep-patch/core';
import Elk from 'elkjs/lib/elk.bundled.js';
import { graphOf, placed, type Layout } from './layout.ts';

export interface LayoutJob {
  readonly places: readonly string[];
  readonly units: readonly cabling.PictureUnit[];
  readonly runs: readonly cabling.PictureRun[];
}
export type LayoutAnswer = { readonly ok: true; readonly layout: Layout } | { readonly ok: false };

const elk = new Elk();
self.onmessage = ({ data }: MessageEvent<LayoutJob>) => {
  const graphs = data.places.map((place) =>
    elk.layout(
      graphOf(
        place,
        data.units.filter((unit) => unit.place === place),
        data.runs,
      ),
    ),
  );
  Promise.all(graphs).then(
    (columns) => self.postMessage({ ok: true, layout: placed(columns) } satisfies LayoutAnswer),
    () => self.postMessage({ ok: false } satisfies LayoutAnswer),
  );
};
