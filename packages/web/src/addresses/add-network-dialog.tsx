import { addressing } from '@deep-patch/core';
import { useState, type SyntheticEvent } from 'react';
import { useNavigate } from 'react-router';
import { useSteadyIds } from '../live/steady-ids.ts';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import { Dialog } from '../parts/dialog.tsx';
import { Field } from '../parts/field.tsx';

/** A network from whatever people type: `10.61.20.0/24`, an address inside it and a mask, with or without spaces. */
export function AddNetworkDialog({ onClose }: { onClose: () => void }) {
  const show = useShow();
  const { save, showId } = useWorkspace();
  const navigate = useNavigate();
  const steady = useSteadyIds();
  const [name, setName] = useState('Control');
  const [range, setRange] = useState('');
  const [vlan, setVlan] = useState('');
  const [joinLoose, setJoinLoose] = useState(true);
  const [withBlocks, setWithBlocks] = useState(true);
  const [fault, setFault] = useState<string>();
  const loose = addressing.looseInterfaces(show);
  const suggestion = addressing.suggestRange(show);
  const entry = addressing.readIpEntry(range);
  const subnet = entry.ok && entry.prefix !== null ? addressing.subnetOf(entry.ip, entry.prefix) : undefined;

  const add = async (event: SyntheticEvent) => {
    event.preventDefault();
    const refusal = refusalOf(entry, subnet);
    setFault(refusal);
    if (refusal !== undefined || !subnet) return;
    const nextId = steady.begin();
    const id = nextId();
    const change = addressing.planNetwork({
      id,
      name: name.trim() || 'Network',
      ip: subnet.network,
      prefix: subnet.prefix,
      vlan: /^\d{1,4}$/.test(vlan.trim()) ? Number(vlan) : null,
      purpose: '',
      join: joinLoose ? loose.map((row) => ({ id: nextId(), interfaceId: row.id })) : [],
      blocks: withBlocks ? addressing.proposeBlocks(show, id, subnet, nextId) : [],
    });
    if (await save(change)) void navigate(`/shows/${showId}/addresses/${id}`);
  };
  return (
    <Dialog title="Add a network" onClose={onClose}>
      <form onSubmit={(event) => void add(event)} className="grid gap-1">
        <Field
          label="Range"
          error={fault}
          hint={subnet ? rangeWords(subnet) : 'such as 10.61.20.0/24, or an address and a mask'}
        >
          {(ids) => (
            <input
              {...ids}
              className="field key-num"
              value={range}
              onChange={(event) => {
                setRange(event.target.value);
                setFault(undefined);
              }}
              placeholder="10.61.20.0/24"
              spellCheck={false}
            />
          )}
        </Field>
        {range === '' && suggestion && (
          <button type="button" className="act mb-2 justify-self-start" onClick={() => setRange(suggestion)}>
            Take {suggestion}, which is free
          </button>
        )}
        {fault && !entry.ok && entry.guess && (
          <button
            type="button"
            className="act mb-2 justify-self-start"
            onClick={() => {
              setRange(entry.guess ?? '');
              setFault(undefined);
            }}
          >
            Use {entry.guess}
          </button>
        )}
        <div className="grid grid-cols-[1fr_7rem] gap-3">
          <Field label="Name">
            {(ids) => (
              <input
                {...ids}
                className="field"
                value={name}
                onChange={(event) => setName(event.target.value)}
                maxLength={80}
              />
            )}
          </Field>
          <Field label="VLAN" hint="if any">
            {(ids) => (
              <input
                {...ids}
                className="field key-num"
                value={vlan}
                onChange={(event) => setVlan(event.target.value)}
                inputMode="numeric"
              />
            )}
          </Field>
        </div>
        <label className="flex items-center gap-2">
          <input
            type="checkbox"
            className="checkbox checkbox-sm"
            checked={withBlocks}
            onChange={(event) => setWithBlocks(event.target.checked)}
          />
          Lay out blocks for the kinds of gear in the rig
        </label>
        {loose.length > 0 && (
          <label className="flex items-center gap-2">
            <input
              type="checkbox"
              className="checkbox checkbox-sm"
              checked={joinLoose}
              onChange={(event) => setJoinLoose(event.target.checked)}
            />
            Put the {loose.length} units that are on no network on it
          </label>
        )}
        <div className="mt-4 flex justify-end gap-2">
          <button type="button" className="act" onClick={onClose}>
            Cancel
          </button>
          <button type="submit" className="act-main">
            Add network
          </button>
        </div>
      </form>
    </Dialog>
  );
}

function refusalOf(entry: addressing.IpEntry, subnet: addressing.Subnet | undefined): string | undefined {
  if (!entry.ok) return addressing.entryWords(entry);
  if (!subnet) return 'Say how large it is: add /24 or a mask such as 255.255.255.0.';
  return subnet.prefix > 30 || subnet.prefix < 8 ? 'A network for a show is from /8 to /30.' : undefined;
}

function rangeWords(subnet: addressing.Subnet): string {
  const { first, last } = addressing.hostRange(subnet);
  return `${addressing.formatIp(first)} to ${addressing.formatIp(last)}, room for ${addressing.hostCount(subnet)} units, mask ${addressing.formatIp(addressing.maskOf(subnet.prefix))}`;
}
