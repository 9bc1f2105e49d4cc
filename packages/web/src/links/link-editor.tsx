import { links as linkRoom, show as core, type show } from '@deep-patch/core';
import { asProblem } from '../live/api.ts';
import { useNotices } from '../live/notices.tsx';
import { secretIdOf } from '../live/secret-id.ts';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import { Options, SaveRow, SelectField, TextField } from '../parts/form-fields.tsx';
import { LoginFields, type LoginValues } from '../parts/login-fields.tsx';
import { addressRule, optionalPortRule, portRule, wholeRule } from '../parts/rules.ts';
import { useRowForm, type RowForm } from '../parts/use-row-form.ts';

interface Values extends LoginValues {
  slot: string;
  host: string;
  port: string;
  replyPort: string;
  command: string;
  args: string;
}

const valuesOf = (row: show.Link): Values => ({
  slot: row.slot === null ? '' : String(row.slot),
  host: row.host ?? '',
  port: String(row.port),
  replyPort: row.replyPort === null ? '' : String(row.replyPort),
  account: row.account ?? '',
  password: '',
  command: row.command ?? '',
  args: row.args.map(String).join(', '),
});

const patchOf = (values: Values, command: show.Command | undefined, secretId: string | null) => ({
  slot: values.slot.trim() === '' ? null : Number(values.slot),
  host: values.host.trim() || null,
  port: Number(values.port),
  replyPort: values.replyPort.trim() === '' ? null : Number(values.replyPort),
  account: values.account.trim() || null,
  secretId,
  command: values.command || null,
  args: command ? readArgs(command, values.args) : [],
});

/** The controller's own entry for this target: slot, address, ports, login and the message to test with. */
export function LinkEditor({ link }: { link: show.Link }) {
  const show = useShow();
  const { save, showId } = useWorkspace();
  const { tell } = useNotices();
  const type = core.serviceTypeOf(show, show.devices[link.targetId], link.serviceKey);
  const form = useRowForm(link, valuesOf);
  const command = type?.commands.find(({ key }) => key === form.watch('command'));
  const submit = form.handleSubmit(async (values) => {
    try {
      const secretId = await secretIdOf(showId, values, form.opened.secretId);
      if (await save(linkRoom.planEditLink(show, form.opened, patchOf(values, command, secretId))))
        form.settle(values, { password: '' });
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
      <LinkFields form={form} type={type} command={command} />
      {type && <LoginFields form={form} type={type} hasPassword={link.secretId !== null} />}
      <SaveRow form={form} label="Save settings" />
    </form>
  );
}

function LinkFields({
  form,
  type,
  command,
}: {
  readonly form: RowForm<show.Link, Values>;
  readonly type: show.ServiceType | undefined;
  readonly command: show.Command | undefined;
}) {
  const asked = command?.args.map(({ name, unit }) => (unit ? `${name} in ${unit}` : name)).join(', ');
  return (
    <div className="grid grid-cols-2 gap-x-3">
      <TextField
        form={form}
        name="host"
        label="Address entered"
        hint="empty: follows the plan"
        rule={addressRule('10.61.20.33')}
        look="key"
      />
      <TextField form={form} name="slot" label="Slot" rule={wholeRule(0, core.limits.slot)} look="number" />
      <TextField form={form} name="port" label="Sends to port" rule={portRule} look="number" />
      <TextField form={form} name="replyPort" label="Hears replies on port" rule={optionalPortRule} look="number" />
      <SelectField form={form} name="command" label="Test message">
        <option value="">none</option>
        <Options of={(type?.commands ?? []).map(({ key, label }) => [key, label] as const)} />
      </SelectField>
      <TextField form={form} name="args" label="Arguments" hint={command ? asked || 'none needed' : ''} look="key" />
    </div>
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
