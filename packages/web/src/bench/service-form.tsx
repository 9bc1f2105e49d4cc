import { type contract, addressing, type show as core } from '@deep-patch/core';
import { useState } from 'react';
import { Field } from '../parts/field.tsx';
import { readPort } from '../parts/rules.ts';
import type { DoOnBench } from './use-bench.ts';

type Service = contract.StandinSettings['services'][number];

interface Props {
  readonly deviceId: string;
  readonly type: core.ServiceType | undefined;
  readonly service: Service;
  readonly act: DoOnBench;
}

const loginWords: Readonly<Record<core.LoginMethod, string>> = {
  none: 'none',
  basic: 'basic',
  digest: 'digest',
};

/** The page of a unit's menu for one function: its ports, where it sends, and its login. */
export function ServiceForm({ deviceId, type, service, act }: Props) {
  const label = type?.label ?? service.key;
  const [port, setPort] = useState(String(service.receivePort));
  const [sendTo, setSendTo] = useState(service.sendTo ?? '');
  const [sendPort, setSendPort] = useState(service.sendPort === null ? '' : String(service.sendPort));
  const [login, setLogin] = useState(service.login ?? type?.logins[0] ?? 'none');
  const [account, setAccount] = useState(service.account ?? '');
  const [password, setPassword] = useState('');
  const [faults, setFaults] = useState<{ port?: string; sendTo?: string; sendPort?: string }>({});
  const sends = type?.protocol === 'osc' && type.transport === 'udp';
  const logsIn = type?.logins.some((method) => method !== 'none') ?? false;
  const keyIn = (change: object) =>
    void act({ act: 'key_in', deviceId, change: { of: 'service', key: service.key, ...change } });
  const submit = () => {
    const own = readPort(port);
    const out = sendPort.trim() === '' ? null : readPort(sendPort);
    const to = sendTo.trim() === '' ? undefined : addressing.readIpEntry(sendTo);
    const found = {
      ...(own === undefined ? { port: 'A port is a number from 1 to 65535' } : {}),
      ...(out === undefined ? { sendPort: 'A port is a number from 1 to 65535' } : {}),
      ...(to && !to.ok ? { sendTo: to.text } : {}),
    };
    setFaults(found);
    if (Object.keys(found).length > 0) return;
    keyIn({
      receivePort: own,
      ...(sends ? { sendTo: to?.ok ? addressing.formatIp(to.ip) : null, sendPort: out } : {}),
      ...(logsIn
        ? {
            login,
            account: login === 'none' || account.trim() === '' ? null : account.trim(),
            ...(password === '' ? {} : { password }),
          }
        : {}),
    });
  };
  return (
    <form
      aria-label={label}
      className="grid gap-1 rounded-field border border-line p-2.5"
      onSubmit={(event) => {
        event.preventDefault();
        submit();
      }}
    >
      <p className="flex items-center gap-2 font-medium">
        {label}
        <button
          type="button"
          className="act btn-xs ml-auto"
          aria-label={service.enabled ? `Turn ${label} off` : `Turn ${label} on`}
          onClick={() => keyIn({ enabled: !service.enabled })}
        >
          {service.enabled ? 'Turn off' : 'Turn on'}
        </button>
      </p>
      <Field label="Receiving port" error={faults.port}>
        {(ids) => (
          <input
            {...ids}
            className="field key-num"
            inputMode="numeric"
            value={port}
            onChange={(event) => setPort(event.target.value)}
          />
        )}
      </Field>
      {sends && (
        <div className="grid grid-cols-[1fr_6rem] gap-2">
          <Field label="Sends to" error={faults.sendTo} hint="empty: whoever asked">
            {(ids) => (
              <input
                {...ids}
                className="field key-num"
                value={sendTo}
                onChange={(event) => setSendTo(event.target.value)}
              />
            )}
          </Field>
          <Field label="Its port" error={faults.sendPort}>
            {(ids) => (
              <input
                {...ids}
                className="field key-num"
                inputMode="numeric"
                value={sendPort}
                onChange={(event) => setSendPort(event.target.value)}
              />
            )}
          </Field>
        </div>
      )}
      {logsIn && (
        <div className="grid grid-cols-2 gap-2">
          <Field label="Login">
            {(ids) => (
              <select
                {...ids}
                className="field-select"
                value={login}
                onChange={(event) => setLogin(event.target.value as core.LoginMethod)}
              >
                {type?.logins.map((method) => (
                  <option key={method} value={method}>
                    {loginWords[method]}
                  </option>
                ))}
              </select>
            )}
          </Field>
          {login !== 'none' && (
            <>
              <Field label="Account">
                {(ids) => (
                  <input
                    {...ids}
                    className="field"
                    autoComplete="off"
                    value={account}
                    onChange={(event) => setAccount(event.target.value)}
                  />
                )}
              </Field>
              <Field label="Password" hint={service.hasPassword ? 'one is set; empty keeps it' : 'none set'}>
                {(ids) => (
                  <input
                    {...ids}
                    className="field"
                    type="password"
                    autoComplete="new-password"
                    value={password}
                    onChange={(event) => setPassword(event.target.value)}
                  />
                )}
              </Field>
            </>
          )}
        </div>
      )}
      <button type="submit" className="act btn-xs justify-self-start" aria-label={`Key in ${label}`}>
        Key it in
      </button>
    </form>
  );
}
