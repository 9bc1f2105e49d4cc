import { addressing, links, show as core, type show } from '@deep-patch/core';
import { api, asProblem } from '../live/api.ts';
import { useNotices } from '../live/notices.tsx';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import { Field } from '../parts/field.tsx';
import { LoginFields, type LoginValues } from '../parts/login-fields.tsx';
import { MovedOn } from '../parts/moved-on.tsx';
import { portRule } from '../parts/port-rule.ts';
import { useRowForm } from '../parts/use-row-form.ts';

interface Values extends LoginValues {
  enabled: boolean;
  receivePort: string;
  sendPort: string;
  sendTo: string;
}

/** One service of a unit as its own menu has it: on or off, ports, where replies go, login. */
export function ServiceEditor({ service }: { service: show.Service }) {
  const show = useShow();
  const { save, showId } = useWorkspace();
  const { tell } = useNotices();
  const type = core.serviceTypeOf(show, show.devices[service.deviceId], service.key);
  const form = useRowForm(service, (row): Values => ({
    enabled: row.enabled,
    receivePort: String(row.receivePort),
    sendPort: row.sendPort === null ? '' : String(row.sendPort),
    sendTo: row.sendTo ?? '',
    account: row.account ?? '',
    password: '',
  }));
  const { register, handleSubmit, formState, opened, movedOn, settle, adopt } = form;
  if (!type) return null;
  const { errors, isDirty, isSubmitting } = formState;
  const replies = type.sendPort !== null;
  const submit = handleSubmit(async (values) => {
    const { enabled, receivePort, sendPort, sendTo, account, password } = values;
    try {
      const secretId = password
        ? (await api.post<{ id: string }>(`/shows/${showId}/secrets`, { password })).id
        : account
          ? opened.secretId
          : null;
      const saved = await save(
        links.planEditService(show, opened, {
          enabled,
          receivePort: Number(receivePort),
          sendPort: replies && sendPort ? Number(sendPort) : opened.sendPort,
          sendTo: sendTo.trim() || null,
          account: account.trim() || null,
          secretId,
        }),
      );
      if (saved) settle(values, { password: '' });
    } catch (error) {
      tell({ problem: asProblem(error) });
    }
  });
  return (
    <form onSubmit={(event) => void submit(event)} className="grid gap-x-3 border-t border-rule pt-3">
      <div className="mb-2 flex items-center gap-2">
        <h3 className="text-[13px] font-semibold">
          {type.label}{' '}
          <span className="font-normal text-mute">{`${type.protocol.toUpperCase()} over ${type.transport.toUpperCase()}`}</span>
        </h3>
        <label className="ml-auto flex items-center gap-2 text-xs">
          <input type="checkbox" className="toggle toggle-xs toggle-primary" {...register('enabled')} /> on
        </label>
      </div>
      <div className="grid grid-cols-2 gap-x-3">
        <Field label="Hears on port" error={errors.receivePort?.message}>
          {(ids) => (
            <input {...ids} {...register('receivePort', portRule)} inputMode="numeric" className="field key-num" />
          )}
        </Field>
        {replies && (
          <Field label="Sends replies from port" error={errors.sendPort?.message}>
            {(ids) => (
              <input {...ids} {...register('sendPort', portRule)} inputMode="numeric" className="field key-num" />
            )}
          </Field>
        )}
        {replies && (
          <Field label="Sends replies to" error={errors.sendTo?.message} hint="the controller">
            {(ids) => (
              <input
                {...ids}
                {...register('sendTo', {
                  validate: (text) =>
                    text.trim() === '' ||
                    addressing.parseIp(text.trim()) !== undefined ||
                    'An address such as 10.61.20.5',
                })}
                className="field key-num"
              />
            )}
          </Field>
        )}
      </div>
      {type.logins.some((method) => method !== 'none') && (
        <LoginFields register={register} errors={errors} hasPassword={service.secretId !== null} />
      )}
      {movedOn && <MovedOn onAdopt={adopt} />}
      <button type="submit" className="act justify-self-start" disabled={!isDirty || isSubmitting}>
        Save {type.label}
      </button>
    </form>
  );
}
