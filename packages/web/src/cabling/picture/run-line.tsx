import type { cabling } from '@deep-patch/core';
import { notchAt, size, type Layout, type Point } from './layout.ts';

interface Tone {
  readonly stroke: string;
  readonly fill: string;
}

/** One colour for what a run carries; several networks on one run are a trunk. */
export function tone({ networks, layer }: Pick<cabling.PictureRun, 'networks' | 'layer'>): Tone {
  if (layer === 'picture') return tones['video'] ?? plain;
  if (layer === 'led') return tones['led'] ?? plain;
  const [only, ...more] = networks;
  if (!only) return plain;
  if (more.length > 0) return { stroke: 'stroke-base-content', fill: 'fill-base-content' };
  return tones[only.carries] ?? { stroke: 'stroke-primary', fill: 'fill-primary' };
}
const plain: Tone = { stroke: 'stroke-faint', fill: 'fill-faint' };
const tones: Readonly<Record<string, Tone>> = {
  control: { stroke: 'stroke-success', fill: 'fill-success' },
  audio: { stroke: 'stroke-info', fill: 'fill-info' },
  led: { stroke: 'stroke-led', fill: 'fill-led' },
  video: { stroke: 'stroke-warning', fill: 'fill-warning' },
};

/** Where a run runs: its corners within a place, else a curve between the notches of its two ends. */
export function pathOf(
  run: cabling.PictureRun,
  layout: Layout,
  placeAt: (unitId: string, socket: string) => number,
): { readonly d: string; readonly middle: Point } | undefined {
  const bends = layout.bends.get(run.id);
  if (bends && bends.length > 1) {
    const d = bends.map(({ x, y }, at) => `${at === 0 ? 'M' : 'L'}${x} ${y}`).join(' ');
    return { d, middle: bends[Math.floor(bends.length / 2)] ?? { x: 0, y: 0 } };
  }
  const ends = [run.upper, run.lower].map(({ unitId, socket }) => {
    const unit = layout.units.get(unitId);
    const notch = notchAt(placeAt(unitId, socket));
    return unit && { x: unit.x + notch.x + size.notch / 2, y: unit.y + size.unit };
  });
  const [a, b] = ends;
  if (!a || !b) return undefined;
  // down out of both, so that the curve never crosses its own unit
  const dip = 40 + Math.abs(b.x - a.x) / 8;
  const d = `M${a.x} ${a.y} C${a.x} ${a.y + dip} ${b.x} ${b.y + dip} ${b.x} ${b.y}`;
  return { d, middle: { x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 + dip * 0.75 } };
}

export interface RunLook {
  readonly isFaint: boolean;
  readonly isStrong: boolean;
  readonly withLength: boolean;
  /** It is the one that goes. */
  readonly isLost: boolean;
}

export function RunLine({
  run,
  path,
  look: { isFaint, isStrong, isLost, withLength },
  words,
  onPoint,
  onChoose,
}: {
  readonly run: cabling.PictureRun;
  readonly path: NonNullable<ReturnType<typeof pathOf>>;
  readonly look: RunLook;
  readonly words: string;
  readonly onPoint: (runId: string | undefined) => void;
  readonly onChoose: () => void;
}) {
  const dashes = run.isShut ? '7 5' : run.medium === 'wireless' ? '1.5 5' : undefined;
  return (
    <g
      opacity={isFaint ? 0.15 : 1}
      className="cursor-pointer"
      onClick={onChoose}
      onPointerEnter={() => onPoint(run.id)}
      onPointerLeave={() => onPoint(undefined)}
    >
      <title>{words}</title>
      <path d={path.d} fill="none" className="stroke-transparent" strokeWidth={12} />
      <path
        d={path.d}
        fill="none"
        className={tone(run).stroke}
        strokeWidth={isStrong ? 4 : run.networks.length > 1 ? 2.6 : 1.8}
        strokeDasharray={dashes}
        strokeLinecap="round"
      />
      {isLost && (
        <path
          d={`M${path.middle.x - 8} ${path.middle.y - 8}l16 16m0 -16l-16 16`}
          className="stroke-error"
          strokeWidth={4}
          strokeLinecap="round"
        />
      )}
      {withLength && run.lengthM !== null && (
        <text x={path.middle.x + 5} y={path.middle.y - 3} className="fill-mute font-mono text-[12px]">
          {run.lengthM} m
        </text>
      )}
    </g>
  );
}
