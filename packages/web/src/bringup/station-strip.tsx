import { addressing, type bringup, type Show } from '@deep-patch/core';

interface Props {
  readonly show: Show;
  readonly plan: bringup.BringUp;
  readonly chosen: number;
  readonly onChoose: (at: number) => void;
}

/** The moves of the computer across the top, each as wide as there is to do there. */
export function StationStrip({ show, plan, chosen, onChoose }: Props) {
  return (
    <div
      role="tablist"
      aria-label="Where your computer is"
      className="flex shrink-0 overflow-x-auto border-y border-rule"
    >
      {plan.stations.map((station, at) => (
        <button
          key={at}
          type="button"
          role="tab"
          aria-selected={at === chosen}
          onClick={() => onChoose(at)}
          style={{ flexGrow: Math.max(1, station.steps.length) }}
          className={`max-w-80 min-w-36 border-r border-b-3 border-r-rule px-3 py-2 text-left max-sm:min-w-28 max-sm:py-1 text-xs ${at === chosen ? 'border-b-primary bg-base-300' : 'border-b-transparent hover:bg-base-200'}`}
        >
          <span className="block text-mute max-sm:hidden">
            {station.places.length === 0 ? 'computer as it is' : 'computer at'}
          </span>
          {station.places.length === 0 && <span className="block font-semibold sm:hidden">as it is</span>}
          {station.places.map(([label, place]) => (
            <code key={`${label} ${place.ip}`} className="block font-semibold">
              {addressing.formatIp(place.ip)}
            </code>
          ))}
          {station.lead && (
            <span className="block truncate text-mute max-sm:hidden">
              cable to {show.devices[station.lead.deviceId]?.name}
            </span>
          )}
          <span className="block">
            {station.steps.length} {station.steps.length === 1 ? 'step' : 'steps'}
            {station.units.length > 0 && ` · ${station.units.length} ${station.units.length === 1 ? 'unit' : 'units'}`}
          </span>
        </button>
      ))}
    </div>
  );
}
