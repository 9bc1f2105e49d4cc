import { useState } from 'react';

export interface RulerWindow {
  readonly from: number;
  readonly to: number;
}

/** Up to a /20 the whole network is drawn; below this many hosts a window cannot be narrowed further. */
const least = 32;

/** A wide network opens on the part that is in use; the overview shows how much more there is. */
const firstWidth = (size: number, used: number): number =>
  size <= 4096 ? size : Math.min(size, Math.max(256, 2 ** Math.ceil(Math.log2(used + 1))));

/** Which part of a network the ruler draws: all of it, or a window that zooms by halves and moves by quarters. */
export function useRulerWindow(size: number, used: number) {
  const [window, setWindow] = useState<RulerWindow>(() => ({ from: 0, to: firstWidth(size, used) }));
  const fits = window.to <= size ? window : { from: 0, to: size };
  const width = fits.to - fits.from;
  const show = (from: number, wanted: number) => {
    const next = Math.max(Math.min(least, size), Math.min(size, wanted));
    const start = Math.max(0, Math.min(size - next, Math.round(from)));
    setWindow({ from: start, to: start + next });
  };
  const zoom = (factor: number, around = (fits.from + fits.to) / 2) => {
    const next = width * factor;
    show(around - ((around - fits.from) / width) * next, next);
  };
  return {
    window: fits,
    isWhole: width >= size,
    canNarrow: width > Math.min(least, size),
    zoom,
    move: (steps: number) => show(fits.from + (steps * width) / 4, width),
    centre: (host: number) => show(host - width / 2, width),
    reset: () => setWindow({ from: 0, to: size }),
  };
}
