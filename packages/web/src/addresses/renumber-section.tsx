import { addressing } from '@deep-patch/core';
import { useMemo, type SyntheticEvent } from 'react';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import { useDraft } from '../parts/drafts.ts';
import { TypedField } from '../parts/typed-fields.tsx';

/** The venue gives another range: what moves where, what has to be keyed in again and what falls away, before it is done. */
export function RenumberSection({ on }: { readonly on: addressing.NetworkFacts }) {
  const show = useShow();
  const { save, showId } = useWorkspace();
  const { network } = on;
  const [typed, setTyped] = useDraft(`${showId} range ${network.id}`, '');
  const entry = addressing.readIpEntry(typed);
  const plan = useMemo(() => {
    if (!entry.ok) return undefined;
    const prefix = entry.prefix ?? network.prefix;
    return addressing.planRenumber(show, network.id, { network: entry.ip, prefix });
    // oxlint-disable-next-line react/exhaustive-deps -- the entry follows from what was typed
  }, [show, network, typed]);
  const submit = (event: SyntheticEvent) => {
    event.preventDefault();
    if (plan?.change) void save(plan.change).then((done) => done && setTyped(''));
  };
  const fault = typed.trim() !== '' && !entry.ok ? addressing.entryWords(entry) : undefined;
  return (
    <details className="border-t border-rule pt-3">
      <summary className="cursor-pointer text-[13px] font-semibold">Another range</summary>
      <form onSubmit={submit} className="grid gap-2 pt-2">
        <TypedField
          label="Move the network to"
          error={fault}
          hint={`now ${network.network}/${network.prefix}; with or without a mask`}
          value={typed}
          onType={setTyped}
          look="key"
          placeholder="10.70.3.0/24"
        />
        {plan?.change && <Preview plan={plan} />}
        <button type="submit" className="act-main justify-self-start" disabled={!plan?.change}>
          Move it
        </button>
      </form>
    </details>
  );
}

function Preview({ plan }: { readonly plan: addressing.Renumbering }) {
  const { moves, keyIn, overlaps, dropped } = plan;
  const lost = moves.filter(({ to }) => to === null).length;
  return (
    <div className="grid gap-2 text-[13px]">
      {overlaps.length > 0 && (
        <p className="text-warning">It shares addresses with {overlaps.map(({ name }) => name).join(', ')}.</p>
      )}
      {dropped.length > 0 && <p className="text-warning">Falls away: {dropped.join(', ')}.</p>}
      {lost > 0 && (
        <p className="text-warning">
          {lost} {lost === 1 ? 'address has' : 'addresses have'} no place there and will wait.
        </p>
      )}
      <ul className="max-h-48 overflow-auto rounded-box border border-rule" tabIndex={0} aria-label="What moves">
        {moves.map(({ address, device, from, to }) => (
          <li key={address.id} className="grid grid-cols-[1fr_auto] gap-x-2 border-b border-rule px-2 py-0.5">
            <span className="truncate">{device.name}</span>
            <code className="text-xs">
              {from} → {to ?? 'waits'}
            </code>
          </li>
        ))}
      </ul>
      <p>
        To key in again: {keyIn.length} {keyIn.length === 1 ? 'unit' : 'units'}
        {keyIn.length > 0 && <span className="text-mute"> ({keyIn.map(({ name }) => name).join(', ')})</span>}.
      </p>
    </div>
  );
}
