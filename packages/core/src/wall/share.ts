import { pictureRate } from '../onair/index.ts';
import type { DeviceType, Wall } from '../show/index.ts';

export type Capacity = NonNullable<DeviceType['drivesWall']>;
type Depth = Pick<Wall, 'bits' | 'rate'>;

/** What a capacity is given at. */
const usualBits = 8;
const usualRate = 60;

/** Which share of an output so many pixels take: more bits and more pictures a second take more of it (C77). */
export const shareOf = (pixels: number, { bits, rate }: Depth, capacity: Capacity): number =>
  (pixels * (bits / usualBits) * (pictureRate(rate) / usualRate)) / capacity.pixels;
