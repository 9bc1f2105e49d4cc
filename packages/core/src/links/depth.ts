import {
  layerNames,
  rowsOf,
  type LayerName,
  type LayerState,
  type MeasuredSounding,
  type Show,
} from '../show/index.ts';
import type { Sounding } from './forecast.ts';

/** The eight marks of a link as a row shows them: measured where a sounding still holds, else forecast. */
export interface Depth {
  readonly marks: readonly { readonly layer: LayerName; readonly state: LayerState }[];
  readonly depth: number;
  readonly measured: boolean;
  /** A measurement exists, but something it depends on was changed afterwards. */
  readonly stale: boolean;
  readonly rttMs: number | null;
  readonly stopsAt: LayerName | undefined;
}

export function depthOf(sounding: Sounding, seen: MeasuredSounding | undefined, touched: LastTouched): Depth {
  const { link } = sounding;
  const revs = [link.rev, touched.get(link.controllerId) ?? 0, touched.get(link.targetId) ?? 0];
  const stale = seen !== undefined && seen.rev < Math.max(...revs);
  const measured = seen !== undefined && !stale;
  const risks = new Set(sounding.risks.map(({ layer }) => layer));
  const marks = measured
    ? seen.layers.map(({ layer, state }) => ({
        layer,
        state: state === 'pass' && risks.has(layer) ? ('risky' as const) : state,
      }))
    : sounding.layers.map(({ layer, state }) => ({ layer, state }));
  const stop = marks.find(({ state }) => state === 'fail' || state === 'waits');
  const depth = stop ? layerNames.indexOf(stop.layer) : marks.length;
  return { marks, depth, measured, stale, rttMs: measured ? seen.rttMs : null, stopsAt: stop?.layer };
}

/** When anything that a link depends on was last changed, by the unit that it belongs to. */
export type LastTouched = ReadonlyMap<string, number>;

/** The newest revision among each unit's own row, services, addresses and cables. */
export function lastTouched(show: Show): LastTouched {
  const newest = new Map<string, number>();
  const touch = (deviceId: string | undefined, rev: number) => {
    if (deviceId !== undefined) newest.set(deviceId, Math.max(rev, newest.get(deviceId) ?? 0));
  };
  for (const row of rowsOf(show, 'devices')) touch(row.id, row.rev);
  for (const row of rowsOf(show, 'services')) touch(row.deviceId, row.rev);
  for (const row of rowsOf(show, 'addresses')) touch(show.interfaces[row.interfaceId]?.deviceId, row.rev);
  for (const row of rowsOf(show, 'cables')) {
    touch(row.fromDevice, row.rev);
    touch(row.toDevice, row.rev);
  }
  return newest;
}
