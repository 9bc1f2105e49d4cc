import { type contract, addressing, type show as core } from '@deep-patch/core';
import { useState } from 'react';
import { Field } from '../parts/field.tsx';
import type { DoOnBench } from './use-bench.ts';

interface Props {
  readonly device: core.Device;
  readonly type: core.DeviceType;
  readonly state: contract.StandinState;
  readonly act: DoOnBench;
}

/** The page of a unit's menu where an address is keyed in. */
export function AddressForm({ device, type, state, act }: Props) {
  const first = state.settings.addresses[0];
  const [adapter, setAdapter] = useState(first?.adapter ?? type.adapters[0]?.key ?? '');
  const [method, setMethod] = useState<'static' | 'dhcp' | 'self'>(first?.method ?? 'static');
  const [ip, setIp] = useState(first?.ip ? `${first.ip}/${first.prefix}` : '');
  const [gateway, setGateway] = useState(first?.gateway ?? '');
  const [faults, setFaults] = useState<{ ip?: string; gateway?: string }>({});
  const keyIn = () => {
    const read = method === 'static' ? addressing.readIpEntry(ip) : undefined;
    const way = gateway.trim() === '' ? undefined : addressing.readIpEntry(gateway);
    const found = {
      ...(read && !read.ok ? { ip: read.text } : {}),
      ...(way && !way.ok ? { gateway: way.text } : {}),
    };
    setFaults(found);
    if (Object.keys(found).length > 0) return;
    void act({
      act: 'key_in',
      deviceId: device.id,
      change: {
        of: 'address',
        adapter,
        method,
        ip: read?.ok ? addressing.formatIp(read.ip) : null,
        prefix: (read?.ok ? read.prefix : undefined) ?? first?.prefix ?? 24,
        gateway: way?.ok ? addressing.formatIp(way.ip) : null,
      },
    });
  };
  return (
    <form
      className="grid gap-1 rounded-field border border-line p-2.5"
      onSubmit={(event) => {
        event.preventDefault();
        keyIn();
      }}
    >
      {type.adapters.length > 1 && (
        <Field label="Adapter">
          {(ids) => (
            <select
              {...ids}
              className="field-select"
              value={adapter}
              onChange={(event) => setAdapter(event.target.value)}
            >
              {type.adapters.map(({ key, label }) => (
                <option key={key} value={key}>
                  {label}
                </option>
              ))}
            </select>
          )}
        </Field>
      )}
      <Field label="How it gets its address">
        {(ids) => (
          <select
            {...ids}
            className="field-select"
            value={method}
            onChange={(event) => setMethod(event.target.value as typeof method)}
          >
            <option value="static">fixed</option>
            <option value="dhcp">by DHCP</option>
            <option value="self">self-assigned</option>
          </select>
        )}
      </Field>
      {method === 'static' && (
        <>
          <Field label="Address and mask" error={faults.ip} hint="such as 10.61.20.31/24">
            {(ids) => (
              <input {...ids} className="field key-num" value={ip} onChange={(event) => setIp(event.target.value)} />
            )}
          </Field>
          <Field label="Gateway" error={faults.gateway} hint="empty: none">
            {(ids) => (
              <input
                {...ids}
                className="field key-num"
                value={gateway}
                onChange={(event) => setGateway(event.target.value)}
              />
            )}
          </Field>
        </>
      )}
      <button type="submit" className="act btn-xs justify-self-start">
        Key it in
      </button>
    </form>
  );
}
