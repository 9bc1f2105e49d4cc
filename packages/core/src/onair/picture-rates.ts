import type { RateKey } from '../show/index.ts';

/** Pictures a second at each rate; drop-frame counts otherwise, and is as fast. */
export const ratesOfPictures: Readonly<Record<RateKey, number>> = {
  '23.976': 24_000 / 1001,
  '24': 24,
  '25': 25,
  '29.97': 30_000 / 1001,
  '29.97df': 30_000 / 1001,
  '30': 30,
  '47.952': 48_000 / 1001,
  '48': 48,
  '50': 50,
  '59.94': 60_000 / 1001,
  '59.94df': 60_000 / 1001,
  '60': 60,
};
