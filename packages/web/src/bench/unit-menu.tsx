import { addressing, rig, type show as core } from '@deep-patch/core';
import { useState } from 'react';
import { Field } from '../parts/field.tsx';
import type { Act } from './use-bench.ts';

interface Props {
  readonly device: core.Device;
  readonly type: core.DeviceType;
  readonly state: core.StandinState;
  readonly act: Act;
}

/** A unit's own menu on the bench: what stands in it, keying something in, and the acts that make it count. */
export function UnitMenu({ device, type, state, act }: Props) {
  const [open, setOpen] = useState(false);
  const canKey = state.status !== 'no power' && state.status !== 'fault' && state.status !== 'starting';
  return (
    <section className="grid gap-2">
      <h3 className="text-xs font-semibold text-mute">
        Its own menu{' '}
        <span className="font-normal">{state.settings.followsPlan ? 'as planned' : 'keyed in at the unit'}</span>
      </h3>
      <dl className="grid grid-cols-[auto_1fr] gap-x-4 gap-y-1.5 rounded-box border border-line bg-base-100 px-3 py-2 font-mono text-[13px]">
        {state.menu.map(([label, value], at) => (
          <div key={`${label} ${at}`} className="contents">
            <dt className="text-mute">{label}</dt>
            <dd>{value}</dd>
          </div>
        ))}
      </dl>
      {state.pending && <PendingActs deviceId={device.id} pending={state.pending} act={act} />}
      <div className="flex flex-wrap gap-1.5">
        <button
          type="button"
          className="act btn-xs"
          aria-expanded={open}
          disabled={!canKey}
          onClick={() => setOpen(!open)}
        >
          {open ? 'Leave the menu' : 'Key something in'}
        </button>
        {!state.settings.followsPlan && (
          <button
            type="button"
            className="act btn-xs"
            onClick={() => void act({ act: 'follow_plan', deviceIds: [device.id] })}
          >
            As planned again
          </button>
        )}
        {state.powered && (
          <button
            type="button"
            className="act btn-xs"
            onClick={() => void act({ act: 'restart', deviceIds: [device.id] })}
          >
            Restart
          </button>
        )}
      </div>
      {open && canKey && state.settings.addresses.length + type.adapters.length > 0 && (
        <AddressForm device={device} type={type} state={state} act={act} />
      )}
      {open &&
        canKey &&
        state.settings.services.map((service) => (
          <ServiceForm
            key={`${service.key} ${service.enabled} ${service.receivePort}`}
            deviceId={device.id}
            label={type.services.find(({ key }) => key === service.key)?.label ?? service.key}
            service={service}
            act={act}
          />
        ))}
    </section>
  );
}

function PendingActs({
  deviceId,
  pending,
  act,
}: {
  deviceId: string;
  pending: NonNullable<core.StandinState['pending']>;
  act: Act;
}) {
  const [next, ...rest] = pending.acts;
  if (!next) return null;
  return (
    <div className="grid gap-1.5 rounded-field border border-warning px-2.5 py-2">
      <p>
        Keyed in, not in force yet. First {actWord(next)}
        {rest.length > 0 && `, then ${rest.map(actWord).join(', then ')}`}. Without power it is lost.
      </p>
      <button
        type="button"
        className="act-main btn-xs justify-self-start"
        onClick={() => void act({ act: 'commit', deviceId, step: next })}
      >
        {capital(actWord(next))}
      </button>
    </div>
  );
}

function AddressForm({ device, type, state, act }: Props) {
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

function ServiceForm({
  deviceId,
  label,
  service,
  act,
}: {
  deviceId: string;
  label: string;
  service: core.StandinSettings['services'][number];
  act: Act;
}) {
  const [port, setPort] = useState(String(service.receivePort));
  const isPort = /^\d{1,5}$/.test(port) && Number(port) >= 1 && Number(port) <= 65_535;
  const keyIn = (change: Partial<typeof service>) =>
    void act({ act: 'key_in', deviceId, change: { of: 'service', key: service.key, ...change } });
  return (
    <form
      className="flex items-end gap-2 rounded-field border border-line p-2.5"
      onSubmit={(event) => {
        event.preventDefault();
        if (isPort) keyIn({ receivePort: Number(port) });
      }}
    >
      <label className="grid gap-1 text-xs text-mute">
        {label}: receiving port
        <input
          className="field key-num w-24"
          value={port}
          inputMode="numeric"
          aria-invalid={!isPort}
          onChange={(event) => setPort(event.target.value)}
        />
      </label>
      <button type="submit" className="act btn-xs" disabled={!isPort} aria-label={`Key in the port of ${label}`}>
        Key it in
      </button>
      <button type="button" className="act btn-xs ml-auto" onClick={() => keyIn({ enabled: !service.enabled })}>
        {service.enabled ? `Turn ${label} off` : `Turn ${label} on`}
      </button>
    </form>
  );
}

const actWord = (act: core.CommitAct): string => rig.actWords([{ act, seconds: null }]);
const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);
