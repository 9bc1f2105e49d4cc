import { layerNames, type LayerName, type LayerState, type MeasuredSounding } from '../show/index.ts';
import type { Sounding } from './forecast.ts';
import type { LayerResult } from './layer.ts';

/** The eight marks of a link as a row shows them: measured where a sounding still holds, else forecast. */
export interface Depth {
  readonly marks: readonly { readonly layer: LayerName; readonly state: LayerState }[];
  readonly depth: number;
  readonly measured: boolean;
  /** A measurement exists, but something happened since, or the plan forecasts something else for the link now. */
  readonly stale: boolean;
  /** An answer came back: without one, some layers stand as the plan forecasts them. */
  readonly proven: boolean;
  readonly rttMs: number | null;
  readonly stopsAt: LayerName | undefined;
}

/** `basis` is what the plan forecasts for the link now; it is asked for only where something was measured. */
export function depthOf(sounding: Sounding, seen: MeasuredSounding | undefined, basis: () => string): Depth {
  const stale = seen !== undefined && (seen.aged === true || seen.basis !== basis());
  const measured = seen !== undefined && !stale;
  const marks = sounding.layers.map((forecast) => {
    const layer = measured ? seen.layers.find((one) => one.layer === forecast.layer) : undefined;
    return { layer: forecast.layer, state: markOf(forecast, layer?.state) };
  });
  const stop = marks.find(({ state }) => state === 'fail' || state === 'waits');
  const depth = stop ? layerNames.indexOf(stop.layer) : marks.length;
  return {
    marks,
    depth,
    measured,
    stale,
    proven: measured && seen.layers.every(({ state }) => state === 'pass'),
    rttMs: measured ? seen.rttMs : null,
    stopsAt: stop?.layer,
  };
}

type Measured = MeasuredSounding['layers'][number]['state'];

/** What nothing on the wire told stands as forecast; so does who on a machine takes what is sent to a port. */
function markOf(forecast: LayerResult, measured: Measured | undefined): LayerState {
  if (measured === undefined || measured === 'unseen') return forecast.state;
  if (measured !== 'pass') return measured;
  return forecast.state === 'risky' || isUnseenByNature(forecast) ? forecast.state : 'pass';
}

/** Packets do not tell which program of a machine answers at a port. */
const isUnseenByNature = ({ layer, state, facts }: LayerResult): boolean =>
  layer === 'port' && state === 'fail' && Boolean(facts['there'] || facts['other']);
