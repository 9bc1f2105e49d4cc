import { useEffect, useRef, useState, type RefObject } from 'react';

/** The width of an element in pixels as it changes; `otherwise` until it is known. */
export function useWidth<Shape extends HTMLElement>(otherwise: number): [number, RefObject<Shape | null>] {
  const box = useRef<Shape>(null);
  const [width, setWidth] = useState(otherwise);
  useEffect(() => {
    const here = box.current;
    if (!here) return;
    const watch = new ResizeObserver(([entry]) => setWidth(Math.round(entry?.contentRect.width ?? otherwise)));
    watch.observe(here);
    return () => watch.disconnect();
  }, [otherwise]);
  return [width, box];
}
