import { surfaces } from '@deep-patch/core';
import { useRef, type PointerEvent } from 'react';

interface Props {
  readonly controls: readonly surfaces.SurfaceControl[];
  readonly playing: boolean;
  readonly selected: string | undefined;
  readonly wordsOf: (control: surfaces.SurfaceControl) => string;
  readonly onMove: (control: string, value: number) => void;
  readonly onSelect: (control: string) => void;
}

/** Where a finger is, in the points of the screen that is drawn. */
function pointOf(
  event: PointerEvent,
  screen: SVGSVGElement | null,
  { screenWidth, screenHeight }: NonNullable<surfaces.SurfaceControl['region']>,
): { x: number; y: number } {
  const box = screen?.getBoundingClientRect() ?? { left: 0, top: 0, width: 1, height: 1 };
  return {
    x: ((event.clientX - box.left) / box.width) * screenWidth,
    y: ((event.clientY - box.top) / box.height) * screenHeight,
  };
}

/** A touch screen with its regions: where a finger comes down says which of them it triggers (need 8.24). */
export function RegionScreen({ controls, playing, selected, wordsOf, onMove, onSelect }: Props) {
  const screen = useRef<SVGSVGElement>(null);
  const down = useRef<string>(undefined);
  const regions = controls.filter(({ region }) => region !== null);
  const words = regions.map(wordsOf);
  const size = regions[0]?.region;
  if (!size) return null;
  const hit = (event: PointerEvent) => surfaces.regionAt(regions, pointOf(event, screen.current, size));
  const release = () => {
    const own = regions.find(({ key }) => key === down.current);
    down.current = undefined;
    if (own) onMove(own.key, own.least);
  };
  return (
    <svg
      ref={screen}
      viewBox={`0 0 ${size.screenWidth} ${size.screenHeight}`}
      className="mt-3 w-full max-w-xl touch-none rounded-field border-2 border-line bg-base-100"
      onPointerDown={(event) => {
        const own = hit(event);
        if (!own) return;
        onSelect(own.key);
        if (!playing) return;
        down.current = own.key;
        onMove(own.key, own.greatest);
      }}
      onPointerUp={release}
      onPointerLeave={release}
    >
      {regions.map(({ key, label, region, least, greatest }, at) => (
        <g
          key={key}
          role="button"
          tabIndex={0}
          aria-label={`${label}: ${words[at]}`}
          onKeyDown={(event) => {
            if (event.key !== 'Enter' && event.key !== ' ') return;
            event.preventDefault();
            onSelect(key);
            if (!playing) return;
            onMove(key, greatest);
            onMove(key, least);
          }}
        >
          <rect
            {...{ x: region?.x, y: region?.y, width: region?.width, height: region?.height }}
            className={`stroke-[4] ${key === selected ? 'fill-primary/30 stroke-primary' : 'fill-base-300 stroke-line'}`}
          />
          <text x={(region?.x ?? 0) + 16} y={(region?.y ?? 0) + 48} className="fill-base-content text-[36px]">
            {label}
          </text>
        </g>
      ))}
    </svg>
  );
}
