import { contentWith, type Content, type Wall } from '../show/index.ts';
import type { Panel } from './size.ts';

/** A small panel of two modules, whose every number differs from the others. */
export const panelOf = (patch: Partial<Panel> = {}): Panel => ({
  ...{
    width: 8,
    height: 8,
    widthMm: 500,
    heightMm: 400,
    kg: 7.5,
    watts: 150,
    startAmps: 3,
    across: 2,
    down: 1,
    scan: 4,
  },
  ...{ chip: 'A1', colours: 'GRB', dataFrom: 'left', ...patch },
});

export const wallOf = (columns: readonly number[], patch: Partial<Content<'walls'>> = {}): Wall => ({
  ...contentWith('walls', {
    ...{ id: 'w', name: 'Quay wall', panel: 'tile' },
    columns: columns.map((panels) => ({ panels, drop: 0, gapMm: 0, angle: 0 })),
    ...patch,
  }),
  rev: 1,
});
