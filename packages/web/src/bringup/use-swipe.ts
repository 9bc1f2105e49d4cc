import { useRef, type TouchEvent } from 'react';

const farEnoughPx = 60;

/** A finger drawn across a sheet turns it: to the left goes on, to the right goes back. */
export function useSwipe(turn: (direction: 1 | -1) => void) {
  const from = useRef<{ x: number; y: number }>(undefined);
  return {
    onTouchStart: ({ touches }: TouchEvent) => {
      const finger = touches.item(0);
      from.current = touches.length === 1 ? { x: finger.clientX, y: finger.clientY } : undefined;
    },
    onTouchEnd: ({ changedTouches }: TouchEvent) => {
      const finger = changedTouches.item(0);
      if (!from.current || !finger) return;
      const [dx, dy] = [finger.clientX - from.current.x, finger.clientY - from.current.y];
      // whoever scrolls draws down more than across
      if (Math.abs(dx) > farEnoughPx && Math.abs(dx) > Math.abs(dy) * 2) turn(dx < 0 ? 1 : -1);
    },
  };
}
