import type { cabling } from '@deep-patch/core';
import type { ElkNode } from 'elkjs/lib/elk-api.js';

/** Where everything of a picture stands, in its own units. */
export interface Layout {
  readonly width: number;
  readonly height: number;
  readonly places: readonly Box[];
  readonly units: ReadonlyMap<string, Box>;
  /** The corners of a run within one place, by its id; a run between places is a curve from socket to socket. */
  readonly bends: ReadonlyMap<string, readonly Point[]>;
}
export interface Point {
  readonly x: number;
  readonly y: number;
}
export interface Box extends Point {
  readonly id: string;
  readonly width: number;
  readonly height: number;
}

export const size = {
  notch: 9,
  step: 12,
  side: 9,
  lamp: 14,
  unit: 46,
  least: 96,
  head: 26,
  gap: 16,
  between: 40,
} as const;

/** Where a socket's notch is on its unit, from the unit's own corner. */
export const notchAt = (index: number): Point => ({ x: size.side + index * size.step, y: 31 });

export const unitWidth = ({ name, sockets }: cabling.PictureUnit): number =>
  Math.max(size.least, name.length * 8 + 2 * size.side + size.lamp, sockets.length * size.step + 2 * size.side);

/** Most that hangs on one switch is a long row otherwise: so many units side by side, then the next row. */
const abreast = (units: number): number => Math.max(2, Math.min(6, Math.round(Math.sqrt(units * 0.8))));

const optionsFor = (units: number) => ({
  'elk.algorithm': 'layered',
  'elk.direction': 'DOWN',
  'elk.edgeRouting': 'ORTHOGONAL',
  'elk.layered.layering.strategy': 'COFFMAN_GRAHAM',
  'elk.layered.layering.coffmanGraham.layerBound': String(abreast(units)),
  'elk.spacing.nodeNode': '12',
  'elk.spacing.edgeNode': '7',
  'elk.spacing.edgeEdge': '6',
  'elk.layered.spacing.nodeNodeBetweenLayers': '26',
  'elk.layered.spacing.edgeNodeBetweenLayers': '8',
  'elk.layered.spacing.edgeEdgeBetweenLayers': '5',
  'elk.separateConnectedComponents': 'false',
  // tight rows rather than straight lines: a place is to fit a screen
  'elk.layered.nodePlacement.strategy': 'SIMPLE',
});

/** One place as a graph for the layout: units with their sockets in order, and the runs within it. */
export function graphOf(
  id: string,
  units: readonly cabling.PictureUnit[],
  runs: readonly cabling.PictureRun[],
): ElkNode {
  const here = new Set(units.map((unit) => unit.id));
  const inside = runs.filter(({ upper, lower }) => here.has(upper.unitId) && here.has(lower.unitId));
  const upperEnds = new Set(inside.map(({ upper }) => `${upper.unitId} ${upper.socket}`));
  const children = units.map((unit): ElkNode => {
    const ports = unit.sockets.map(({ key }, at) => {
      const isUpper = upperEnds.has(`${unit.id} ${key}`);
      return {
        id: `${unit.id} ${key}`,
        width: size.notch,
        height: size.notch,
        x: notchAt(at).x,
        y: isUpper ? size.unit : -size.notch,
        layoutOptions: { 'elk.port.side': isUpper ? 'SOUTH' : 'NORTH' },
      };
    });
    const layoutOptions = { 'elk.portConstraints': 'FIXED_POS' };
    return { id: unit.id, width: unitWidth(unit), height: size.unit, ports, layoutOptions };
  });
  const edges = inside.map((run) => ({
    id: run.id,
    sources: [`${run.upper.unitId} ${run.upper.socket}`],
    targets: [`${run.lower.unitId} ${run.lower.socket}`],
  }));
  return { id, children, edges, layoutOptions: optionsFor(units.length) };
}

/** Puts places side by side, as columns, in the order given. */
export function placed(columns: readonly ElkNode[]): Layout {
  const units = new Map<string, Box>();
  const bends = new Map<string, readonly Point[]>();
  const places: Box[] = [];
  let left = 0;
  for (const { id, width = 0, children = [], edges = [] } of columns) {
    const [dx, dy] = [left + size.gap, size.head + size.gap];
    const low = Math.max(0, ...children.map(({ y = 0, height = 0 }) => y + height));
    for (const { id: unitId, x = 0, y = 0, width: own = 0, height = 0 } of children)
      units.set(unitId, { id: unitId, x: x + dx, y: y + dy, width: own, height });
    for (const edge of edges)
      bends.set(
        edge.id,
        (edge.sections ?? []).flatMap(({ startPoint, bendPoints = [], endPoint }) =>
          [startPoint, ...bendPoints, endPoint].map(({ x, y }) => ({ x: x + dx, y: y + dy })),
        ),
      );
    const box = { id, x: left, y: 0, width: Math.max(width, 140) + 2 * size.gap, height: low + dy + size.gap };
    places.push(box);
    left += box.width + size.between;
  }
  const height = Math.max(0, ...places.map((box) => box.height));
  const even = places.map((box) => ({ ...box, height }));
  return { width: Math.max(0, left - size.between), height, places: even, units, bends };
}
