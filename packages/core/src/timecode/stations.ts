import { groupBy, rowsOf, typeOf, type Device, type DeviceType, type Show } from '../show/index.ts';

/** Stations that read time code and want a computer each, against the computers that there are (need 11.9, C70). */
export interface StationPlan {
  readonly stations: readonly Device[];
  /** By the systems that they run on, none where nobody has said. */
  readonly wanted: readonly {
    readonly systems: readonly DeviceType['runsOn'][number]['system'][];
    readonly count: number;
  }[];
  /** Computers that they are on now. */
  readonly computers: readonly Device[];
  /** Stations that share one with another station. */
  readonly sharing: readonly Device[];
  /** Stations that are on none. */
  readonly homeless: readonly Device[];
  /** Computers that are still to be found: one for each station that has none, or is not alone. */
  readonly missing: number;
}

export function stationPlan(show: Show): StationPlan {
  const stations = rowsOf(show, 'devices').filter((device) => {
    const type = typeOf(show, device);
    return type?.form === 'program' && type.ownComputer && (type.timecode?.takes.length ?? 0) > 0;
  });
  const systemsOf = (device: Device) => [...new Set((typeOf(show, device)?.runsOn ?? []).map(({ system }) => system))];
  const wanted = [...groupBy(stations, (device) => systemsOf(device).sort().join(' '))].map(([, alike]) => ({
    systems: alike[0] ? systemsOf(alike[0]).sort() : [],
    count: alike.length,
  }));
  const homed = groupBy(
    stations.filter(({ runsOn }) => runsOn !== null && show.devices[runsOn]),
    ({ runsOn }) => runsOn ?? '',
  );
  const computers = [...homed.keys()].flatMap((id) => show.devices[id] ?? []);
  const sharing = [...homed.values()].flatMap((together) => (together.length > 1 ? together : []));
  const homeless = stations.filter(({ runsOn }) => runsOn === null || !show.devices[runsOn]);
  return { stations, wanted, computers, sharing, homeless, missing: stations.length - computers.length };
}
