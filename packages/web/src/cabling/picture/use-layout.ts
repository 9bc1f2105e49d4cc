import type { cabling } from '@deep-patch/core';
import { useEffect, useState } from 'react';
import type { Layout } from './layout.ts';
import type { LayoutAnswer, LayoutJob } from './layout.worker.ts';

/**
 * The layout of a picture, worked out beside the screen. While a new one is made the last one stays; `undefined` before
 * the first, `failed` where none could be made.
 */
export function useLayout(picture: cabling.Picture, places: readonly string[]): Layout | 'failed' | undefined {
  const [layout, setLayout] = useState<Layout | 'failed'>();
  useEffect(() => {
    const worker = new Worker(new URL('./layout.worker.ts', import.meta.url), { type: 'module' });
    worker.onmessage = ({ data }: MessageEvent<LayoutAnswer>) => setLayout(data.ok ? data.layout : 'failed');
    worker.onerror = () => setLayout('failed');
    worker.postMessage({ places, units: picture.units, runs: picture.runs } satisfies LayoutJob);
    return () => worker.terminate();
  }, [picture, places]);
  return layout;
}
