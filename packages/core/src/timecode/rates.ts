import type { RateKey } from '../show/index.ts';

/**
 * A rate at which time code counts (SMPTE ST 12-1 section 4, and ST 12-3 above 30). `counts`: frame numbers in a second
 * of the code; `over` / `under`: frames in a true second; `drops`: numbers left out at each minute but every tenth.
 */
export interface Rate {
  readonly key: RateKey;
  readonly label: string;
  readonly counts: number;
  readonly over: number;
  readonly under: number;
  readonly drops: number;
}

/** Those that linear time code and MIDI time code can carry: no more than 30 numbers in a second. */
export const carriedRates = ['23.976', '24', '25', '29.97', '29.97df', '30'] as const satisfies readonly RateKey[];

const rate = (key: RateKey, counts: number, isSlower: boolean, drops = 0): Rate => ({
  key,
  label: drops > 0 ? `${key.replace('df', '')} drop-frame` : key,
  counts,
  over: isSlower ? counts * 1000 : counts,
  under: isSlower ? 1001 : 1,
  drops,
});

export const rates: Readonly<Record<RateKey, Rate>> = {
  '23.976': rate('23.976', 24, true),
  '24': rate('24', 24, false),
  '25': rate('25', 25, false),
  '29.97': rate('29.97', 30, true),
  '29.97df': rate('29.97df', 30, true, 2),
  '30': rate('30', 30, false),
  '47.952': rate('47.952', 48, true),
  '48': rate('48', 48, false),
  '50': rate('50', 50, false),
  '59.94': rate('59.94', 60, true),
  '59.94df': rate('59.94df', 60, true, 4),
  '60': rate('60', 60, false),
};

export const framesPerSecond = ({ over, under }: Rate): number => over / under;

/** Frames in 24 hours of the code. */
export function framesPerDay({ counts, drops }: Rate): number {
  return counts * 86_400 - drops * (24 * 60 - 24 * 6);
}
