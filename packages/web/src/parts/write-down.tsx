import { addressing } from '@deep-patch/core';
import { useShown } from '../live/use-shown.ts';
import { useShow, useWorkspace } from '../live/workspace.tsx';

/** Units that give themselves addresses show them once they are on: read them off, and the plan knows them. */
export function WriteDown({ deviceIds }: { readonly deviceIds: readonly string[] }) {
  const show = useShow();
  const { save } = useWorkspace();
  const shown = useShown(deviceIds);
  const [first] = shown;
  if (!first) return null;
  const what = shown.length === 1 ? first.ip : `what ${shown.length} units show`;
  return (
    <button
      type="button"
      className="act justify-self-start"
      onClick={() => void save(addressing.planShown(show, shown))}
    >
      Write down {what}
    </button>
  );
}
