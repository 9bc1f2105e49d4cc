import { addressing, show as core } from '@deep-patch/core';
import type { ReactNode } from 'react';
import { useSaveAndGo } from '../live/use-save-and-go.ts';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import { BlockEditor } from './block-editor.tsx';
import { NetworkForm } from './network-form.tsx';
import { RenumberSection } from './renumber-section.tsx';

interface Props {
  readonly on: addressing.NetworkFacts;
  readonly cards: ReactNode;
}

/** The network itself: what it is for, its gateway and automatic pool, its blocks. */
export function NetworkPanel({ on, cards }: Props) {
  const show = useShow();
  const { showId } = useWorkspace();
  const saveAndGo = useSaveAndGo();
  const { network } = on;
  const remove = async () => {
    const change = core.planRemove(show, 'networks', [network.id], `Remove network ${network.name}`);
    await saveAndGo(change, `/shows/${showId}/addresses`);
  };
  return (
    <aside aria-label={`Network ${network.name}`} className="panel-below grid w-82 content-start gap-3.5 p-4">
      <div>
        <h2 className="text-[15px] font-bold">{network.name}</h2>
        <p className="text-mute">
          <code>{addressing.formatIp(addressing.maskOf(network.prefix))}</code> · room for{' '}
          {addressing.hostCount(on.subnet)} units
        </p>
      </div>
      {cards}
      <NetworkForm on={on} />
      <BlockEditor on={on} />
      <RenumberSection key={`${network.network}/${network.prefix}`} on={on} />
      <button type="button" className="act-quiet justify-self-start text-error" onClick={() => void remove()}>
        Remove {network.name}
      </button>
    </aside>
  );
}
