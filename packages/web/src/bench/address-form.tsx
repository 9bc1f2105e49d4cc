import { type contract, addressing, type show as core } from '@deep-patch/core';
import { useState } from 'react';
import { Options } from '../parts/form-fields.tsx';
import { ChosenField, TypedField } from '../parts/typed-fields.tsx';
import type { DoOnBench } from './use-bench.ts';

interface Props {
  readonly device: core.Device;
  readonly type: core.DeviceType;
  readonly state: contract.StandinState;
  readonly act: DoOnBench;
}

type Method = 'static' | 'dhcp' | 'self';

interface Draft {
  readonly adapter: string;
  readonly method: Method;
  readonly ip: string;
  readonly gateway: string;
}
type Faults = Partial<Record<'ip' | 'gateway', string>>;

/** What is keyed in, or what is wrong with it; `usual` is the mask where none was typed. */
function readDraft({ adapter, method, ip, gateway }: Draft, usual: number) {
  const read = method === 'static' ? addressing.readIpEntry(ip) : undefined;
  const way = gateway.trim() === '' ? undefined : addressing.readIpEntry(gateway);
  const faults: Faults = {
    ...(read && !read.ok && { ip: read.text }),
    ...(way && !way.ok && { gateway: way.text }),
  };
  const change = {
    of: 'address' as const,
    adapter,
    method,
    ip: read?.ok ? addressing.formatIp(read.ip) : null,
    prefix: (read?.ok ? read.prefix : undefined) ?? usual,
    gateway: way?.ok ? addressing.formatIp(way.ip) : null,
  };
  return { faults, change: Object.keys(faults).length === 0 ? change : undefined };
}

/** The page of a unit's menu where an address is keyed in. */
export function AddressForm({ device, type, state, act }: Props) {
  const first = state.settings.addresses[0];
  const [draft, setDraft] = useState<Draft>({
    adapter: first?.adapter ?? type.adapters[0]?.key ?? '',
    method: first?.method ?? 'static',
    ip: first?.ip ? `${first.ip}/${first.prefix}` : '',
    gateway: first?.gateway ?? '',
  });
  const [faults, setFaults] = useState<Faults>({});
  const put = (patch: Partial<Draft>) => setDraft((before) => ({ ...before, ...patch }));
  return (
    <form
      className="grid gap-1 rounded-field border border-line p-2.5"
      onSubmit={(event) => {
        event.preventDefault();
        const { faults: found, change } = readDraft(draft, first?.prefix ?? 24);
        setFaults(found);
        if (change) void act({ act: 'key_in', deviceId: device.id, change });
      }}
    >
      {type.adapters.length > 1 && (
        <ChosenField label="Adapter" value={draft.adapter} onChoose={(adapter) => put({ adapter })}>
          <Options of={type.adapters.map(({ key, label }) => [key, label] as const)} />
        </ChosenField>
      )}
      <ChosenField
        label="How it gets its address"
        value={draft.method}
        onChoose={(method) => put({ method: method as Method })}
      >
        <option value="static">fixed</option>
        <option value="dhcp">by DHCP</option>
        <option value="self">self-assigned</option>
      </ChosenField>
      {draft.method === 'static' && (
        <>
          <TypedField
            label="Address and mask"
            error={faults.ip}
            hint="such as 10.61.20.31/24"
            value={draft.ip}
            onType={(ip) => put({ ip })}
            look="key"
          />
          <TypedField
            label="Gateway"
            error={faults.gateway}
            hint="empty: none"
            value={draft.gateway}
            onType={(gateway) => put({ gateway })}
            look="key"
          />
        </>
      )}
      <button type="submit" className="act btn-xs justify-self-start">
        Key it in
      </button>
    </form>
  );
}
