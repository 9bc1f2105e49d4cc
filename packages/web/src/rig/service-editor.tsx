import { links, show as core, type show } from '@deep-patch/core';
import type { ReactNode } from 'react';
import { asProblem } from '../live/api.ts';
import { useNotices } from '../live/notices.tsx';
import { secretIdOf } from '../live/secret-id.ts';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import { Options, SaveRow, TextField } from '../parts/form-fields.tsx';
import { LoginFields, type LoginValues } from '../parts/login-fields.tsx';
import { OpenFor } from '../parts/open-for.tsx';
import { addressesRule, addressRule, portRule } from '../parts/rules.ts';
import { ChosenField } from '../parts/typed-fields.tsx';
import { useRowForm, type RowForm } from '../parts/use-row-form.ts';

interface Values extends LoginValues {
  enabled: boolean;
  receivePort: string;
  sendPort: string;
  sendTo: string;
  alsoTo: string;
  role: string;
  openFor: readonly show.DeviceKind[];
}

const valuesOf = (row: show.Service): Values => ({
  enabled: row.enabled,
  receivePort: String(row.receivePort),
  sendPort: row.sendPort === null ? '' : String(row.sendPort),
  sendTo: row.sendTo ?? '',
  alsoTo: row.alsoTo.join(' '),
  role: row.role ?? '',
  openFor: row.openFor,
  account: row.account ?? '',
  password: '',
});

/** One service of a unit as its own menu has it: on or off, ports, where replies go, login. */
export function ServiceEditor({ service }: { service: show.Service }) {
  const show = useShow();
  const { save, showId } = useWorkspace();
  const { tell } = useNotices();
  const type = core.serviceTypeOf(show, show.devices[service.deviceId], service.key);
  const form = useRowForm(service, valuesOf, `${showId} service ${service.id}`);
  if (!type) return null;
  const { opened } = form;
  const opens = core.roleOf({ role: (form.watch('role') || null) as core.ConnectionRole | null }, type) === 'opens';
  const replies = type.sendPort !== null && !core.isConnection(type);
  const submit = form.handleSubmit(async (values) => {
    try {
      const patch = {
        enabled: values.enabled,
        receivePort: Number(values.receivePort),
        sendPort: (replies || opens) && values.sendPort ? Number(values.sendPort) : opened.sendPort,
        sendTo: values.sendTo.trim() || null,
        alsoTo: values.alsoTo.split(/[\s,;]+/).filter(Boolean),
        role: (values.role || null) as core.ConnectionRole | null,
        openFor: [...values.openFor],
        account: values.account.trim() || null,
        secretId: await secretIdOf(showId, values, opened.secretId),
      };
      if (await save(links.planEditService(show, opened, patch))) form.settle(values, { password: '' });
    } catch (error) {
      tell({ problem: asProblem(error) });
    }
  });
  return (
    <form onSubmit={(event) => void submit(event)} className="grid gap-x-3 border-t border-rule pt-3">
      <ServiceHead type={type}>
        <input type="checkbox" className="toggle toggle-xs toggle-primary" {...form.register('enabled')} />
      </ServiceHead>
      <div className="grid grid-cols-2 gap-x-3">
        <Role form={form} type={type} />
        {opens ? (
          <OpensTo form={form} />
        ) : (
          <TextField form={form} name="receivePort" label="Hears on port" rule={portRule} look="number" />
        )}
        {replies && (
          <>
            <TextField form={form} name="sendPort" label="Sends replies from port" rule={portRule} look="number" />
            <RepliesTo form={form} type={type} />
          </>
        )}
      </div>
      <OpenFor
        type={type}
        openFor={form.watch('openFor')}
        onChange={(openFor) => form.setValue('openFor', openFor, { shouldDirty: true })}
      />
      <LoginFields form={form} type={type} hasPassword={service.secretId !== null} />
      <SaveRow form={form} label={`Save ${type.label}`} />
    </form>
  );
}

interface Fields {
  readonly form: RowForm<show.Service, Values>;
}

/** Who opens a connection, where its menu leaves a choice. */
function Role({ form, type }: Fields & { readonly type: show.ServiceType }) {
  const roles = type.roles ?? ['waits'];
  if (!core.isConnection(type) || roles.length < 2) return null;
  const value = form.watch('role') || (roles[0] ?? 'waits');
  return (
    <ChosenField
      label="Connection"
      value={value}
      onChoose={(role) => form.setValue('role', role, { shouldDirty: true })}
    >
      <Options of={roles.map((role) => [role, role === 'waits' ? 'waits for it' : 'opens it'] as const)} />
    </ChosenField>
  );
}

const ControllerAt = ({ form, label }: Fields & { readonly label: string }) => (
  <TextField
    form={form}
    name="sendTo"
    label={label}
    hint="the controller"
    rule={addressRule('10.61.20.5')}
    look="key"
  />
);

const OpensTo = ({ form }: Fields) => (
  <>
    <ControllerAt form={form} label="Opens to" />
    <TextField form={form} name="sendPort" label="At its port" rule={portRule} look="number" />
  </>
);

/** Where replies go is entered, unless the type answers whoever asks. */
function RepliesTo({ form, type }: { readonly form: RowForm<show.Service, Values>; readonly type: show.ServiceType }) {
  if (links.answersSender(type))
    return (
      <p className="col-span-2 pb-2 text-xs text-mute">
        {type.replies === 'sender'
          ? 'Replies go to whoever asked.'
          : 'Replies go to everybody who asked within the last minute.'}
      </p>
    );
  return (
    <>
      <ControllerAt form={form} label="Sends replies to" />
      {type.replies === 'list' && (
        <TextField
          form={form}
          name="alsoTo"
          label="And also to"
          hint="further controllers"
          rule={addressesRule}
          look="key"
        />
      )}
    </>
  );
}

function ServiceHead({ type, children }: { readonly type: show.ServiceType; readonly children: ReactNode }) {
  return (
    <div className="mb-2 flex items-center gap-2">
      <h3 className="text-[13px] font-semibold">
        {type.label}{' '}
        <span className="font-normal text-mute">{`${type.protocol.toUpperCase()} over ${type.transport.toUpperCase()}`}</span>
      </h3>
      <label className="ml-auto flex items-center gap-2 text-xs">{children} on</label>
    </div>
  );
}
