import { show, wall } from '@deep-patch/core';
import { quayTile } from './models/led.ts';

const { panel } = quayTile;
const columns = Array.from({ length: 12 }, () => ({ panels: 6, drop: 0, gapMm: 0, angle: 0 }));
const parts = wall.equalParts({ columns }, 4);
const entered = { height: 960, scan: 16, colours: 'GRB', dataFrom: 'left', chip: panel?.chip ?? '' } as const;

/** The wall on the quay as somebody left it: the profile was loaded last, the player never set, and one panel is silent. */
export const walls: show.Content<'walls'>[] = [
  show.contentWith('walls', {
    ...{ id: 'quay-wall', name: 'Quay wall', panel: quayTile.model, processorId: 'led-quay', columns, parts },
    strings: parts.map((part) => wall.stringOf({ columns }, part)),
    rate: '50',
    program: { ...entered, width: 2048 },
    profile: { ...entered, width: 2048 },
    player: { ...entered, width: 1920, colours: 'RGB' },
    captured: { x: 0, y: 0, width: 1920, height: 960 },
    found: parts.map(({ output }) => ({ output, panels: output === 3 ? 17 : 18, version: '3.4', errors: 0 })),
  }),
];
