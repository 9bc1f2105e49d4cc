import { rig, type contract, type show as core } from '@deep-patch/core';
import { useQuery } from '@tanstack/react-query';
import { api } from '../live/api.ts';
import { useWorkspace } from '../live/workspace.tsx';
import { Mark } from '../parts/mark.tsx';

/** By which of its ways it can be set now, and what the others need. */
export function WaysIn({ device, type }: { readonly device: core.Device; readonly type: core.DeviceType }) {
  const { showId } = useWorkspace();
  const { data } = useQuery({
    queryKey: ['ways', showId, device.id],
    queryFn: () => api.get<contract.WayNow[]>(`/bench/${showId}/units/${device.id}/ways`),
    // cables and addresses change meanwhile
    staleTime: 0,
  });
  if (!data || data.length === 0) return null;
  return (
    <ul aria-label="Ways to set it" className="grid gap-0.5 text-[13px]">
      {data.map(({ way, works, from, needs }, at) => {
        const known = type.ways[at];
        return (
          <li key={`${way} ${at}`} className={works ? '' : 'text-mute'}>
            <Mark state={works ? 'pass' : 'waits'} size={11} /> {known ? rig.wayWords(known) : way}:{' '}
            {works ? `works now${from === null ? '' : `, from ${from}`}` : `not now: ${needs}`}
          </li>
        );
      })}
    </ul>
  );
}
