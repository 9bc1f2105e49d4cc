import type { Wall } from '../show/index.ts';
import { panelsIn, type Part } from './parts.ts';
import { shareOf, type Capacity } from './share.ts';
import type { Panel } from './size.ts';

export interface OutputLoad {
  readonly part: Part;
  readonly panels: number;
  readonly pixels: number;
  readonly share: number;
  /** With a loop, the output that the data comes back to. */
  readonly back: number | undefined;
}

export interface WallLoad {
  readonly outputs: readonly OutputLoad[];
  /** Outputs that are needed, as it is planned: twice as many with a loop. */
  readonly wanted: number;
  readonly wantedWithLoop: number;
  readonly processors: number;
  readonly processorsWithLoop: number;
}

/** Share of each output, and how many processors that takes, with the loop and without (needs 10.11 and 10.12, C77). */
export function wallLoad(wall: Wall, panel: Panel, capacity: Capacity): WallLoad {
  const parts = wall.parts.toSorted((a, b) => a.output - b.output);
  const wanted = parts.length;
  const processors = (outputs: number) => Math.ceil(outputs / capacity.outputs);
  return {
    outputs: parts.map((part) => {
      const panels = panelsIn(wall, part).length;
      const pixels = panels * panel.width * panel.height;
      return {
        part,
        panels,
        pixels,
        share: shareOf(pixels, wall, capacity),
        back: wall.loop ? part.output + wanted : undefined,
      };
    }),
    ...{ wanted, wantedWithLoop: wanted * 2 },
    ...{ processors: processors(wanted), processorsWithLoop: processors(wanted * 2) },
  };
}
