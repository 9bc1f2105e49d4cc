import type { addressing } from '@deep-patch/core';
import type { ScaleLinear } from 'd3-scale';
import type { KeyboardEvent } from 'react';

interface Props {
  readonly spot: addressing.Spot;
  readonly host: number;
  readonly size: number;
  readonly x: ScaleLinear<number, number>;
  readonly top: number;
  readonly baseline: number;
  readonly onMove: (host: number) => void;
  readonly onPlace: () => void;
}

const obstacles: Readonly<Record<NonNullable<addressing.Spot['obstacle']>, string>> = {
  outside: 'no host can have it',
  not_granted: 'not granted to us',
  gateway: 'the gateway',
  pool: 'handed out automatically',
  reserved: 'kept free',
  factory: 'a factory address',
  taken: 'taken',
};

/** What one address of the ruler is, and whom a click or Enter would put there. */
export function spotWords({ ip, block, obstacle, next }: addressing.Spot): string {
  const where = block ? ` in ${block}` : '';
  if (obstacle) return `${ip}${where}: ${obstacles[obstacle]}`;
  return next ? `${ip}${where}: place ${next.device.name} here` : `${ip}${where}: free, and nobody waits for it`;
}

const stepOf = (key: string): number | undefined =>
  ({ ArrowRight: 1, ArrowLeft: -1, ArrowUp: 1, ArrowDown: -1, PageUp: 10, PageDown: -10 })[key];

/** The cursor along the ruler for the keyboard: arrows move it, Enter places the next unit. */
export function RulerCaret({ spot, host, size, x, top, baseline, onMove, onPlace }: Props) {
  const onKeyDown = (event: KeyboardEvent) => {
    const step = stepOf(event.key);
    if (step !== undefined) onMove(Math.max(0, Math.min(size - 1, host + step)));
    else if (event.key === 'Home') onMove(1);
    else if (event.key === 'End') onMove(size - 2);
    else if (event.key === 'Enter') onPlace();
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  return (
    <g
      role="slider"
      tabIndex={0}
      aria-label="Place on the ruler"
      aria-valuemin={0}
      aria-valuemax={size - 1}
      aria-valuenow={host}
      aria-valuetext={spotWords(spot)}
      onKeyDown={onKeyDown}
      className="outline-none [&:focus-visible>path]:opacity-100"
    >
      <path
        d={`M${x(host + 0.5)} ${top - 4}V${baseline + 3}m-4 5 4 -5 4 5z`}
        className="fill-primary stroke-primary stroke-2 opacity-0"
      />
    </g>
  );
}
