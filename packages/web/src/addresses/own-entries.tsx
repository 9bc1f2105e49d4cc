import { addressing, show as core, type show } from '@deep-patch/core';
import { useState, type SyntheticEvent } from 'react';
import { useSaveAndGo } from '../live/use-save-and-go.ts';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import { Options } from '../parts/form-fields.tsx';
import { ChosenField, TypedField } from '../parts/typed-fields.tsx';

interface Props {
  readonly item: addressing.Planned;
}

/** On which network the address is: moved to another one, or taken off. */
export function NetworkOfAddress({ item }: Props) {
  const show = useShow();
  const { showId } = useWorkspace();
  const saveAndGo = useSaveAndGo();
  const { address, network } = item;
  const networks = core.rowsOf(show, 'networks').sort(core.byName);
  const move = async (networkId: string) => {
    const change = addressing.planChangeNetwork(show, [item], networkId);
    await saveAndGo(change, `/shows/${showId}/addresses/${networkId}/${address.id}`);
  };
  const leave = async () => {
    await saveAndGo(addressing.planLeave(show, address), `/shows/${showId}/addresses/${network.id}`);
  };
  return (
    <div className="grid grid-cols-[1fr_auto] items-start gap-2">
      <ChosenField
        label="On network"
        hint={networks.length > 1 ? 'moved, it keeps its last figure where that is free' : undefined}
        value={network.id}
        onChoose={(id) => void move(id)}
      >
        <Options of={networks.map(({ id, name }) => [id, name] as const)} />
      </ChosenField>
      <button type="button" className="act-quiet mt-5" onClick={() => void leave()}>
        Take it off
      </button>
    </div>
  );
}

/** Mask and gateway that this unit has for itself; empty, they are those of its network. */
export function OwnEntries({ item }: Props) {
  const show = useShow();
  const { save } = useWorkspace();
  const { address } = item;
  const [mask, setMask] = useState(maskText(address));
  const [gateway, setGateway] = useState(address.gateway ?? '');
  const prefix = mask.trim() === '' ? null : addressing.readMask(mask);
  const way = gateway.trim() === '' ? null : addressing.readIpEntry(gateway, subnetOf(item));
  const faults = {
    mask: typeof prefix === 'string' ? 'A mask such as 255.255.255.0, or /24' : undefined,
    gateway: way !== null && !way.ok ? addressing.entryWords(way) : undefined,
  };
  const isOther = mask !== maskText(address) || gateway !== (address.gateway ?? '');
  const submit = (event: SyntheticEvent) => {
    event.preventDefault();
    if (typeof prefix === 'string' || (way !== null && !way.ok)) return;
    const entries = { prefix, gateway: way === null ? null : addressing.formatIp(way.ip) };
    void save(addressing.planOwnEntries(show, address, entries));
  };
  return (
    <details open={address.prefix !== null || address.gateway !== null} className="border-t border-rule pt-2">
      <summary className="cursor-pointer text-[13px] text-mute">A mask or gateway of its own</summary>
      <form onSubmit={submit} className="grid grid-cols-2 gap-x-3 pt-2">
        <TypedField
          label="Mask"
          error={faults.mask}
          hint="empty: the network’s"
          value={mask}
          onType={setMask}
          look="key"
        />
        <TypedField
          label="Gateway"
          error={faults.gateway}
          hint="empty: the network’s"
          value={gateway}
          onType={setGateway}
          look="key"
        />
        <button type="submit" className="act justify-self-start" disabled={!isOther}>
          Save both
        </button>
      </form>
    </details>
  );
}

const maskText = ({ prefix }: show.Address): string =>
  prefix === null ? '' : addressing.formatIp(addressing.maskOf(prefix));
const subnetOf = ({ network }: addressing.Planned): addressing.Subnet => ({
  network: addressing.mustIp(network.network),
  prefix: network.prefix,
});
