import { memoFor, type DeviceType, type Wall } from '../show/index.ts';

export type Panel = NonNullable<DeviceType['panel']>;
/** Column and row of a panel, from 0, top left, seen by the audience. */
export type Place = readonly [column: number, row: number];

/** What a wall is, in every measure that somebody asks for (needs 10.1, C72). */
export interface WallSize {
  readonly across: number;
  readonly down: number;
  readonly panels: number;
  /** Of the whole rectangle; where columns are unequal, not all of it is lit. */
  readonly width: number;
  readonly height: number;
  readonly litPixels: number;
  readonly widthM: number;
  readonly heightM: number;
  /** From one end to the other in a straight line, where it is bent. */
  readonly chordM: number;
  readonly kg: number;
  readonly watts: number;
  /** Of one phase, with all of it white, and for a moment when everything starts at once. */
  readonly amps: number;
  readonly startAmps: number | null;
  /** Metres from which two pixels beside each other are seen as one. */
  readonly distanceM: number;
  readonly spares: number;
}

/** Two points one minute of arc apart are just told apart by a healthy eye (ISO 8596, visual acuity 1.0). */
const metresPerMm = 1 / 1000 / Math.tan(Math.PI / 180 / 60);
const spareShare = 0.03;

/** Every panel of a wall, column by column, from the top. */
export const placesOf = ({ columns }: Pick<Wall, 'columns'>): Place[] =>
  columns.flatMap(({ panels, drop }, column) => Array.from({ length: panels }, (_, at): Place => [column, drop + at]));

/** Places of the whole rectangle in which no panel hangs. */
export const emptyPlaces = ({ columns }: Pick<Wall, 'columns'>): readonly Place[] => emptyIn(columns);

const emptyIn = memoFor((columns: Wall['columns']): readonly Place[] => {
  const down = downOf({ columns });
  return columns.flatMap(({ panels, drop }, column) =>
    Array.from({ length: down }, (_, row): Place => [column, row]).filter(
      ([, row]) => row < drop || row >= drop + panels,
    ),
  );
});

/** Rows that take turns, as panels are built: 16 is 1/16. */
export const scans = [1, 2, 4, 8, 16, 32, 64] as const;

export const downOf = ({ columns }: Pick<Wall, 'columns'>): number =>
  columns.reduce((most, { panels, drop }) => Math.max(most, panels + drop), 0);

export function wallSize(wall: Pick<Wall, 'columns' | 'volts' | 'phases'>, panel: Panel): WallSize {
  const { columns, volts, phases } = wall;
  const [across, down] = [columns.length, downOf(wall)];
  const panels = columns.reduce((sum, column) => sum + column.panels, 0);
  const watts = panels * panel.watts;
  const widthMm = columns.reduce((sum, { gapMm }) => sum + gapMm, across * panel.widthMm);
  return {
    ...{ across, down, panels, width: across * panel.width, height: down * panel.height },
    litPixels: panels * panel.width * panel.height,
    ...{ widthM: widthMm / 1000, heightM: (down * panel.heightMm) / 1000, chordM: chordOf(wall, panel) / 1000 },
    ...{ kg: panels * panel.kg, watts, amps: watts / volts / phases },
    startAmps: panel.startAmps === null ? null : Math.ceil(panels / phases) * panel.startAmps,
    distanceM: (panel.widthMm / panel.width) * metresPerMm,
    spares: Math.max(1, Math.ceil(panels * spareShare)),
  };
}

/** Millimetres between its two ends: each column goes on in the direction that it turned to. */
function chordOf({ columns }: Pick<Wall, 'columns'>, { widthMm }: Panel): number {
  let [x, y, heading] = [0, 0, 0];
  for (const { angle, gapMm } of columns) {
    heading += (angle * Math.PI) / 180;
    x += Math.cos(heading) * (widthMm + gapMm);
    y += Math.sin(heading) * (widthMm + gapMm);
  }
  return Math.hypot(x, y);
}

/** By how much content grows with another pitch on the same metres (need 10.17, C80). */
export const growth = (before: Pick<WallSize, 'litPixels'>, after: Pick<WallSize, 'litPixels'>): number =>
  after.litPixels / before.litPixels;
