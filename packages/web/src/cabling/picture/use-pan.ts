import { select } from 'd3-selection';
import { zoom, zoomIdentity, type ZoomTransform } from 'd3-zoom';
import { useCallback, useEffect, useRef, useState } from 'react';
import type { Layout } from './layout.ts';

/** Panning and zooming by wheel, pointer, touch and keys; it begins with all of it in sight. */
export function usePan(layout: Pick<Layout, 'width' | 'height'> | undefined) {
  const svg = useRef<SVGSVGElement>(null);
  const isWhole = useRef(true);
  const [view, setView] = useState<ZoomTransform>(zoomIdentity);
  const [behaviour] = useState(() => zoom<SVGSVGElement, unknown>().scaleExtent([0.05, 4]));
  useEffect(() => {
    if (!svg.current) return undefined;
    const on = select(svg.current);
    const moved = ({ transform, sourceEvent }: { transform: ZoomTransform; sourceEvent: unknown }) => {
      if (sourceEvent) isWhole.current = false;
      setView(transform);
    };
    on.call(behaviour.on('zoom', moved));
    return () => void on.on('.zoom', null);
  }, [behaviour]);
  const whole = useCallback(() => {
    if (!svg.current || !layout || layout.width === 0) return;
    const { clientWidth, clientHeight } = svg.current;
    const scale = Math.min(1.4, (clientWidth - 32) / layout.width, (clientHeight - 32) / layout.height);
    const at = zoomIdentity.translate((clientWidth - layout.width * scale) / 2, 16).scale(Math.max(0.05, scale));
    behaviour.transform(select(svg.current), at);
    isWhole.current = true;
  }, [behaviour, layout]);
  const { width, height } = layout ?? { width: 0, height: 0 };
  // a picture of another size is shown whole; one that only changed stays where somebody looks
  // oxlint-disable-next-line react/exhaustive-deps
  useEffect(whole, [width, height]);
  // a panel that opens beside it takes room: what was in sight as a whole stays so
  useEffect(() => {
    if (!svg.current) return undefined;
    const observer = new ResizeObserver(() => isWhole.current && whole());
    observer.observe(svg.current);
    return () => observer.disconnect();
  }, [whole]);
  const by = useCallback(
    (factor: number) => {
      isWhole.current = false;
      if (svg.current) behaviour.scaleBy(select(svg.current), factor);
    },
    [behaviour],
  );
  return { svg, view, whole, by };
}
