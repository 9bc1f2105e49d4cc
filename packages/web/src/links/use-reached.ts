import { links, show as core } from '@deep-patch/core';
import { useShow, useWorkspace } from '../live/workspace.tsx';

/** Where a controller reaches a service, as its own list says it: address and port (need 6.11); undefined without a link. */
export function useReached(controllerId: string, targetId: string, serviceKey: string): string | undefined {
  const show = useShow();
  const { analysis } = useWorkspace();
  const own = core.rowsBy(show, 'links', 'controllerId').get(controllerId);
  const link = own?.find((row) => row.targetId === targetId && row.serviceKey === serviceKey);
  return analysis && link && links.reachedAt(factsOf(analysis.addressing, show), link);
}

type Addressing = Parameters<typeof links.linkFacts>[1];
/** Every message on a screen asks, and all of them the same: worked out once for what was found of the addresses. */
const known = new WeakMap<Addressing, links.LinkFacts>();

function factsOf(addressing: Addressing, show: core.Show): links.LinkFacts {
  const before = known.get(addressing);
  if (before) return before;
  const facts = links.linkFacts(show, addressing);
  known.set(addressing, facts);
  return facts;
}
