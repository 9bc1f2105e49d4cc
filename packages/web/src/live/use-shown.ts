import { show as core, type addressing, type contract } from '@deep-patch/core';
import { useMemo } from 'react';
import { useBenchPart } from './bench-store.ts';
import { useShow } from './workspace.tsx';

export type Shown = Parameters<typeof addressing.planShown>[1][number];

const noStates: readonly contract.StandinState[] = [];

/** What units that give themselves addresses show on the bench, and the plan does not know yet. */
export function useShown(deviceIds: readonly string[]): readonly Shown[] {
  const show = useShow();
  const states = useBenchPart((known) => known?.standins) ?? noStates;
  return useMemo(() => {
    const wanted = new Set(deviceIds);
    const shown = new Map(
      states
        .filter(({ deviceId }) => wanted.has(deviceId))
        .flatMap(({ deviceId, has }) => has.map(({ adapter, ip }) => [`${deviceId} ${adapter}`, ip] as const)),
    );
    return core.rowsOf(show, 'addresses').flatMap((address) => {
      const its = show.interfaces[address.interfaceId];
      const ip = its && shown.get(`${its.deviceId} ${its.adapter}`);
      return address.method === 'self' && ip !== undefined && ip !== address.ip ? [{ address, ip }] : [];
    });
    // the ids are made anew each time they are asked for
    // oxlint-disable-next-line react/exhaustive-deps
  }, [show, states, deviceIds.join(' ')]);
}
