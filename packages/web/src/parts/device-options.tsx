import { show as core, type show } from '@deep-patch/core';
import { memo, useDeferredValue, useMemo } from 'react';
import { useShow } from '../live/workspace.tsx';

/** Units to choose from in a select that may list thousands: drawn anew only when they are others. */
export const DeviceOptions = memo(function DeviceOptions({
  devices,
  after = '',
}: {
  devices: readonly show.Device[];
  after?: string;
}) {
  return devices.map(({ id, name }) => (
    <option key={id} value={id}>
      {name}
      {after}
    </option>
  ));
});

/**
 * The units of a show by name that `may` lets through, worked out after what somebody waits for is on screen. `may`
 * stays the same function as long as it answers the same.
 */
export function useDevices(may: (device: show.Device, show: core.Show) => boolean): readonly show.Device[] {
  const late = useDeferredValue(useShow());
  return useMemo(() => core.devicesByName(late).filter((device) => may(device, late)), [late, may]);
}
