import { type contract, addressing, links, show as core } from '@deep-patch/core';
import { useState } from 'react';
import { Options } from '../parts/form-fields.tsx';
import { OpenFor } from '../parts/open-for.tsx';
import { readPort } from '../parts/rules.ts';
import { ChosenField, TypedField } from '../parts/typed-fields.tsx';
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

interface Draft {
  readonly role: core.ConnectionRole;
  readonly port: string;
  readonly sendTo: string;
  readonly sendPort: string;
  readonly login: core.LoginMethod;
  readonly account: string;
  readonly password: string;
  readonly openFor: readonly core.DeviceKind[];
}
type Faults = Partial<Record<'port' | 'sendTo' | 'sendPort', string>>;

const draftOf = (service: Service, type: core.ServiceType | undefined): Draft => ({
  role: type ? core.roleOf(service, type) : 'waits',
  port: String(service.receivePort),
  sendTo: service.sendTo ?? '',
  sendPort: service.sendPort === null ? '' : String(service.sendPort),
  login: service.login ?? type?.logins[0] ?? 'none',
  account: service.account ?? '',
  password: '',
  openFor: service.openFor,
});

const doesSend = (type: core.ServiceType | undefined): boolean =>
  type?.protocol === 'osc' && type.transport === 'udp' && !links.answersSender(type);
/** Whether its menu leaves a choice of who opens the connection. */
const hasChoice = (type: core.ServiceType | undefined): boolean =>
  type !== undefined && core.isConnection(type) && (type.roles?.length ?? 1) > 1;
const doesLogIn = (type: core.ServiceType | undefined): boolean => type !== undefined && core.asksForLogin(type);

/** What is keyed in, or what is wrong with it. */
function readDraft(draft: Draft, type: core.ServiceType | undefined) {
  const { login, account, password } = draft;
  const own = readPort(draft.port);
  const out = draft.sendPort.trim() === '' ? null : readPort(draft.sendPort);
  const to = draft.sendTo.trim() === '' ? undefined : addressing.readIpEntry(draft.sendTo);
  const faults: Faults = {
    ...(own === undefined && { port: 'A port is a number from 1 to 65535' }),
    ...(out === undefined && { sendPort: 'A port is a number from 1 to 65535' }),
    ...(to && !to.ok && { sendTo: to.text }),
  };
  const change = {
    receivePort: own,
    ...(hasChoice(type) && { role: draft.role }),
    ...(type?.needsOpening && { openFor: draft.openFor }),
    ...((doesSend(type) || draft.role === 'opens') && {
      sendTo: to?.ok ? addressing.formatIp(to.ip) : null,
      sendPort: out,
    }),
    ...(doesLogIn(type) && {
      login,
      account: login === 'none' || account.trim() === '' ? null : account.trim(),
      ...(password !== '' && { password }),
    }),
  };
  return { faults, change: Object.keys(faults).length === 0 ? change : undefined };
}

/** The page of a unit's menu for one function: its ports, where it sends, and its login. */
export function ServiceForm({ deviceId, type, service, act }: Props) {
  const label = type?.label ?? service.key;
  const [draft, setDraft] = useState(() => draftOf(service, type));
  const [faults, setFaults] = useState<Faults>({});
  const put = (patch: Partial<Draft>) => setDraft((before) => ({ ...before, ...patch }));
  const keyIn = (change: object) =>
    void act({ act: 'key_in', deviceId, change: { of: 'service', key: service.key, ...change } });
  return (
    <form
      aria-label={label}
      className="grid gap-1 rounded-field border border-line p-2.5"
      onSubmit={(event) => {
        event.preventDefault();
        const read = readDraft(draft, type);
        setFaults(read.faults);
        if (read.change) keyIn(read.change);
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
      <TypedField
        label="Receiving port"
        error={faults.port}
        value={draft.port}
        onType={(port) => put({ port })}
        look="number"
      />
      {hasChoice(type) && (
        <ChosenField
          label="Connection"
          value={draft.role}
          onChoose={(role) => put({ role: role as core.ConnectionRole })}
        >
          <option value="waits">waits for it</option>
          <option value="opens">opens it</option>
        </ChosenField>
      )}
      {(doesSend(type) || draft.role === 'opens') && <SendFields draft={draft} faults={faults} put={put} />}
      <OpenFor type={type} openFor={draft.openFor} onChange={(openFor) => put({ openFor })} />
      {doesLogIn(type) && <LoginPart draft={draft} type={type} hasPassword={service.hasPassword} put={put} />}
      <button type="submit" className="act btn-xs justify-self-start" aria-label={`Key in ${label}`}>
        Key it in
      </button>
    </form>
  );
}

interface Part {
  readonly draft: Draft;
  readonly put: (patch: Partial<Draft>) => void;
}

function SendFields({ draft, faults, put }: Part & { readonly faults: Faults }) {
  return (
    <div className="grid grid-cols-[1fr_6rem] gap-2">
      <TypedField
        label="Sends to"
        error={faults.sendTo}
        hint="empty: whoever asked"
        value={draft.sendTo}
        onType={(sendTo) => put({ sendTo })}
        look="key"
      />
      <TypedField
        label="Its port"
        error={faults.sendPort}
        value={draft.sendPort}
        onType={(sendPort) => put({ sendPort })}
        look="number"
      />
    </div>
  );
}

function LoginPart({
  draft,
  type,
  hasPassword,
  put,
}: Part & { readonly type: core.ServiceType | undefined; readonly hasPassword: boolean }) {
  return (
    <div className="grid grid-cols-2 gap-2">
      <ChosenField label="Login" value={draft.login} onChoose={(login) => put({ login: login as core.LoginMethod })}>
        <Options of={(type?.logins ?? []).map((method) => [method, loginWords[method]] as const)} />
      </ChosenField>
      {draft.login !== 'none' && (
        <>
          <TypedField label="Account" value={draft.account} onType={(account) => put({ account })} secret="account" />
          <TypedField
            label="Password"
            hint={hasPassword ? 'one is set; empty keeps it' : 'none set'}
            value={draft.password}
            onType={(password) => put({ password })}
            secret="password"
          />
        </>
      )}
    </div>
  );
}
