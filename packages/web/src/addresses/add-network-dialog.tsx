import { addressing, show as core } from '@deep-patch/core';
import { useState, type SyntheticEvent } from 'react';
import { useSteadyIds } from '../live/steady-ids.ts';
import { useSaveAndGo } from '../live/use-save-and-go.ts';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import { Dialog } from '../parts/dialog.tsx';
import { Tick, TypedField } from '../parts/typed-fields.tsx';

interface Draft {
  readonly range: string;
  readonly name: string;
  readonly vlan: string;
  readonly joinLoose: boolean;
  readonly withBlocks: boolean;
}
const empty = (show: core.Show): Draft => ({
  range: '',
  name: freeName(show),
  vlan: '',
  joinLoose: true,
  withBlocks: true,
});

/** The first is for control; no two are called alike, or nobody could tell them apart in a list. */
function freeName(show: core.Show): string {
  const taken = new Set(core.rowsOf(show, 'networks').map(({ name }) => name));
  for (let count = 1; ; count += 1) {
    const name = count === 1 ? 'Control' : `Network ${count}`;
    if (!taken.has(name)) return name;
  }
}

const subnetIn = (entry: addressing.IpEntry): addressing.Subnet | undefined =>
  entry.ok && entry.prefix !== null ? addressing.subnetOf(entry.ip, entry.prefix) : undefined;

/** A network from whatever people type: `10.61.20.0/24`, an address inside it and a mask, with or without spaces. */
export function AddNetworkDialog({ onClose }: { onClose: () => void }) {
  const show = useShow();
  const [draft, setDraft] = useState(() => empty(show));
  const [fault, setFault] = useState<string>();
  const add = useAdding();
  const loose = addressing.looseInterfaces(show);
  const put = (patch: Partial<Draft>) => setDraft((before) => ({ ...before, ...patch }));
  const submit = (event: SyntheticEvent) => {
    event.preventDefault();
    const entry = addressing.readIpEntry(draft.range);
    const subnet = subnetIn(entry);
    const refusal = refusalOf(entry, subnet);
    setFault(refusal);
    if (refusal === undefined && subnet) void add(draft, subnet);
  };
  return (
    <Dialog title="Add a network" onClose={onClose}>
      <form onSubmit={submit} className="grid gap-1">
        <RangeField
          range={draft.range}
          fault={fault}
          onType={(range) => {
            put({ range });
            setFault(undefined);
          }}
        />
        <div className="grid grid-cols-[1fr_7rem] gap-3">
          <TypedField label="Name" value={draft.name} onType={(name) => put({ name })} most={core.limits.name} />
          <TypedField label="VLAN" hint="if any" value={draft.vlan} onType={(vlan) => put({ vlan })} look="number" />
        </div>
        <Tick checked={draft.withBlocks} onTick={(withBlocks) => put({ withBlocks })}>
          Lay out blocks for the kinds of gear in the rig
        </Tick>
        {loose.length > 0 && (
          <Tick checked={draft.joinLoose} onTick={(joinLoose) => put({ joinLoose })}>
            Put the {loose.length} units that are on no network on it
          </Tick>
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

function useAdding() {
  const show = useShow();
  const { showId } = useWorkspace();
  const saveAndGo = useSaveAndGo();
  const steady = useSteadyIds();
  return async ({ name, vlan, joinLoose, withBlocks }: Draft, subnet: addressing.Subnet) => {
    const nextId = steady.begin();
    const id = nextId();
    const loose = joinLoose ? addressing.looseInterfaces(show) : [];
    const members = [...new Set(loose.map(({ deviceId }) => deviceId))];
    const change = addressing.planNetwork({
      id,
      name: name.trim() || 'Network',
      ip: subnet.network,
      prefix: subnet.prefix,
      vlan: /^\d{1,4}$/.test(vlan.trim()) ? Number(vlan) : null,
      purpose: '',
      join: loose.map((row) => ({ id: nextId(), interfaceId: row.id })),
      blocks: withBlocks ? addressing.proposeBlocks(show, { networkId: id, subnet, members }, nextId) : [],
    });
    await saveAndGo(change, `/shows/${showId}/addresses/${id}`);
  };
}

/** The range as typed, with what it comes to, and what could be meant. */
function RangeField({
  range,
  fault,
  onType,
}: {
  readonly range: string;
  readonly fault: string | undefined;
  readonly onType: (range: string) => void;
}) {
  const suggestion = addressing.suggestRange(useShow());
  const entry = addressing.readIpEntry(range);
  const subnet = subnetIn(entry);
  const guess = fault !== undefined && !entry.ok ? entry.guess : undefined;
  return (
    <>
      <TypedField
        label="Range"
        error={fault}
        hint={subnet ? rangeWords(subnet) : 'such as 10.61.20.0/24, or an address and a mask'}
        value={range}
        onType={onType}
        placeholder="10.61.20.0/24"
        look="key"
      />
      {range === '' && suggestion && (
        <button type="button" className="act mb-2 justify-self-start" onClick={() => onType(suggestion)}>
          Take {suggestion}, which is free
        </button>
      )}
      {guess && (
        <button type="button" className="act mb-2 justify-self-start" onClick={() => onType(guess)}>
          Use {guess}
        </button>
      )}
    </>
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
