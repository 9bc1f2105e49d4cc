import { addressing } from '@deep-patch/core';
import { useEffect, useState } from 'react';
import { useShow, useSaving, useWorkspace } from '../live/workspace.tsx';
import { Dialog } from '../parts/dialog.tsx';
import { UnderWay } from '../parts/under-way.tsx';
import { PlainTable } from '../parts/plain-table.tsx';
import { usePlacement } from './use-placement.ts';

/** What placing would do, row by row, before anything is done; where there is no room, why and the ways out. */
export function PlacementDialog({ onClose }: { onClose: () => void }) {
  const show = useShow();
  const { save } = useWorkspace();
  const saving = useSaving();
  const [faulty, setFaulty] = useState(false);
  const state = usePlacement(show, faulty ? 'faulty' : 'waiting');
  const slow = useSlow(state.kind === 'working');
  const apply = async () => {
    if (state.kind === 'placed' && (await save(state.placement.change))) onClose();
  };
  return (
    <Dialog title="Place addresses" onClose={onClose} wide unsaved={false}>
      <div className="grid gap-4">
        <label className="flex items-center gap-2">
          <input
            type="checkbox"
            className="checkbox checkbox-sm"
            checked={faulty}
            onChange={(event) => setFaulty(event.target.checked)}
          />
          Also move those that cannot work where they are (held ones stay)
        </label>
        {state.kind === 'working' ? (
          slow && <UnderWay label="Placing" share={state.share} onStop={onClose} />
        ) : (
          <>
            <Outcome placement={state.placement} />
            <NoRoom causes={state.causes} waysOut={state.waysOut} />
            {state.placement.placed.length > 0 && <Steps placed={state.placement.placed} />}
            <div className="flex justify-end gap-2">
              <button type="button" className="act" onClick={onClose}>
                Cancel
              </button>
              <button
                type="button"
                className="act-main"
                disabled={!state.placement.change || saving}
                onClick={() => void apply()}
              >
                {state.placement.change ? state.placement.change.label : 'Nothing to place'}
              </button>
            </div>
          </>
        )}
      </div>
    </Dialog>
  );
}

/** Progress is shown only for work that takes long enough to be noticed. */
function useSlow(working: boolean): boolean {
  const [slow, setSlow] = useState(false);
  useEffect(() => {
    const timer = setTimeout(() => setSlow(working), working ? 200 : 0);
    return () => clearTimeout(timer);
  }, [working]);
  return slow;
}

function Outcome({ placement: { placed, noRoom, cost } }: { placement: addressing.Placement }) {
  const moved = placed.filter(({ item }) => item.ip !== null).length;
  const parts = [
    `${placed.length - moved} placed`,
    moved > 0 && `${moved} moved`,
    cost.offNumber > 0 && `${cost.offNumber} not at their unit number`,
    cost.offFigure > 0 && `${cost.offFigure} with another last figure than elsewhere`,
    noRoom.length > 0 && `${noRoom.length} without room`,
  ];
  return <p className="text-mute">{parts.filter(Boolean).join(' · ')}</p>;
}

function NoRoom({
  causes,
  waysOut,
}: {
  causes: readonly addressing.Cause[];
  waysOut: ReturnType<typeof addressing.waysOut>;
}) {
  const { save } = useWorkspace();
  const saving = useSaving();
  if (causes.length === 0) return null;
  return (
    <div role="status" className="border-l-3 border-warning bg-warning/10 px-3 py-2.5 text-[13px]">
      {causes.map(({ code, network, block, units, room, squatters }) => (
        <p key={`${network} ${block}`}>
          <b>
            {code === 'block_full' ? `${block} on ${network}` : network} has room for {room} of {units}.
          </b>{' '}
          {squatters.length > 0 &&
            `${squatters.join(', ')} ${squatters.length === 1 ? 'sits' : 'sit'} in it without belonging there.`}
        </p>
      ))}
      {waysOut.length > 0 ? (
        <div className="mt-2 flex flex-wrap gap-2">
          {waysOut.slice(0, 5).map(({ label, change }) => (
            <button key={label} type="button" className="act" disabled={saving} onClick={() => void save(change)}>
              {label}
            </button>
          ))}
        </div>
      ) : (
        <p>Make another network for some of them, or take units off this one.</p>
      )}
    </div>
  );
}

const Steps = ({ placed }: { placed: readonly addressing.Placed[] }) => (
  <PlainTable
    label="What changes"
    heads={['Unit', 'Network', 'Now', 'Then', 'Because']}
    rows={placed.map((step) => ({
      id: step.item.address.id,
      cells: [
        step.item.device.name,
        <span className="text-mute">{step.item.network.name}</span>,
        <code className="text-mute">{step.item.address.ip ?? 'waits'}</code>,
        <code>{addressing.formatIp(step.ip)}</code>,
        <span className="text-mute">{reasonOf(step)}</span>,
      ],
    }))}
  />
);

const reasonOf = ({ item, because }: addressing.Placed): string =>
  ({
    unit: `unit ${item.device.unit ?? ''}`,
    figure: 'the same last figure as on its other network',
    next: 'the next free one',
  })[because];
