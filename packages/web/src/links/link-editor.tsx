import { addressing, links as linkRoom, show as core, type show } from '@deep-patch/core';
import { api, asProblem } from '../live/api.ts';
import { useNotices } from '../live/notices.tsx';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import { Field } from '../parts/field.tsx';
import { LoginFields, type LoginValues } from '../parts/login-fields.tsx';
import { MovedOn } from '../parts/moved-on.tsx';
import { useRowForm } from '../parts/use-row-form.ts';
import { optionalPortRule, portRule } from '../parts/port-rule.ts';

interface Values extends LoginValues {
  slot: string;
  host: string;
  port: string;
  replyPort: string;
  command: string;
  args: string;
}

/** The controller's own entry for this target: slot, address, ports, login and the message to test with. */
export function LinkEditor({ link }: { link: show.Link }) {
  const show = useShow();
  const { save, showId } = useWorkspace();
  const { tell } = useNotices();
  const type = core.serviceTypeOf(show, show.devices[link.targetId], link.serviceKey);
  const form = useRowForm(link, (row): Values => ({
    slot: row.slot === null ? '' : String(row.slot),
    host: row.host ?? '',
    port: String(row.port),
    replyPort: row.replyPort === null ? '' : String(row.replyPort),
    account: row.account ?? '',
    password: '',
    command: row.command ?? '',
    args: row.args.map(String).join(', '),
  }));
  const { register, handleSubmit, formState, watch, opened, movedOn, settle, adopt } = form;
  const { errors, isDirty, isSubmitting } = formState;
  const command = type?.commands.find(({ key }) => key === watch('command'));
  const submit = handleSubmit(async (values) => {
    try {
      const secretId = values.password
        ? (await api.post<{ id: string }>(`/shows/${showId}/secrets`, { password: values.password })).id
        : values.account
          ? opened.secretId
          : null;
      const saved = await save(
        linkRoom.planEditLink(show, opened, {
          slot: values.slot.trim() === '' ? null : Number(values.slot),
          host: values.host.trim() || null,
          port: Number(values.port),
          replyPort: values.replyPort.trim() === '' ? null : Number(values.replyPort),
          account: values.account.trim() || null,
          secretId,
          command: values.command || null,
          args: command ? readArgs(command, values.args) : [],
        }),
      );
      if (saved) settle(values, { password: '' });
    } catch (error) {
      tell({ problem: asProblem(error) });
    }
  });
  return (
    <form
      onSubmit={(event) => void submit(event)}
      className="mt-3 grid gap-x-3 border-t border-rule pt-3"
      aria-label="Settings of this link"
    >
      <div className="grid grid-cols-2 gap-x-3">
        <Field label="Address entered" error={errors.host?.message} hint="empty: follows the plan">
          {(ids) => (
            <input
              {...ids}
              {...register('host', {
                validate: (text) =>
                  text.trim() === '' ||
                  addressing.parseIp(text.trim()) !== undefined ||
                  'An address such as 10.61.20.33',
              })}
              className="field key-num"
            />
          )}
        </Field>
        <Field label="Slot" error={errors.slot?.message}>
          {(ids) => (
            <input
              {...ids}
              {...register('slot', { validate: (text) => /^\d{0,4}$/.test(text.trim()) || 'A whole number' })}
              className="field key-num"
              inputMode="numeric"
            />
          )}
        </Field>
        <Field label="Sends to port" error={errors.port?.message}>
          {(ids) => <input {...ids} {...register('port', portRule)} className="field key-num" inputMode="numeric" />}
        </Field>
        <Field label="Hears replies on port" error={errors.replyPort?.message}>
          {(ids) => (
            <input
              {...ids}
              {...register('replyPort', optionalPortRule)}
              className="field key-num"
              inputMode="numeric"
            />
          )}
        </Field>
        <Field label="Test message">
          {(ids) => (
            <select {...ids} {...register('command')} className="field-select">
              <option value="">none</option>
              {type?.commands.map(({ key, label }) => (
                <option key={key} value={key}>
                  {label}
                </option>
              ))}
            </select>
          )}
        </Field>
        <Field
          label="Arguments"
          hint={
            command
              ? command.args.map(({ name, unit }) => (unit ? `${name} in ${unit}` : name)).join(', ') || 'none needed'
              : ''
          }
        >
          {(ids) => <input {...ids} {...register('args')} className="field key-num" />}
        </Field>
      </div>
      {type?.logins.some((method) => method !== 'none') && (
        <LoginFields register={register} errors={errors} hasPassword={link.secretId !== null} />
      )}
      {movedOn && <MovedOn onAdopt={adopt} />}
      <button type="submit" className="act justify-self-start" disabled={!isDirty || isSubmitting}>
        Save settings
      </button>
    </form>
  );
}

/** Typed arguments by the dictionary: numbers where it asks for numbers; what does not fit stays text for the check to show. */
function readArgs(command: show.Command, text: string): (string | number | boolean)[] {
  const parts = text.trim() === '' ? [] : text.split(',').map((part) => part.trim());
  return parts.map((part, at) => {
    const wanted = command.args[at]?.type;
    if (wanted === 'T' && (part === 'true' || part === 'false')) return part === 'true';
    return wanted !== 's' && part !== '' && Number.isFinite(Number(part)) ? Number(part) : part;
  });
}
