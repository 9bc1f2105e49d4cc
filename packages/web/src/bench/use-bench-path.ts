import { useLocation, type To } from 'react-router';
import { useWorkspace } from '../live/workspace.tsx';

/** Where a stand-in is, or the bench without one; what the tap is filtered by stays. */
export function useBenchPath(): (deviceId?: string) => To {
  const { showId } = useWorkspace();
  const { search } = useLocation();
  return (deviceId) => ({ pathname: `/shows/${showId}/bench${deviceId === undefined ? '' : `/${deviceId}`}`, search });
}
