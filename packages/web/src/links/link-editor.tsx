import { links as linkRoom, show as core, surfaces, type show } from '@deep-patch/core';
import { useRef } from 'react';
import { asProblem } from '../live/api.ts';
import { useNotices } from '../live/notices.tsx';
import { secretIdOf } from '../live/secret-id.ts';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import { Options, SaveRow, TextField } from '../parts/form-fields.tsx';
import { LoginFields, type LoginValues } from '../parts/login-fields.tsx';
import { afterOptions } from './chains-view.tsx';
import { addressRule, optionalPortRule, portRule, textRule, wholeRule } from '../parts/rules.ts';
import { ChosenField, Tick } from '../parts/typed-fields.tsx';
import { useRowForm, type RowForm } from '../parts/use-row-form.ts';

interface Values extends LoginValues {
  label: string;
  slot: string;
  slotGroup: string;
  host: string;
  port: string;
  replyPort: string;
  command: string;
  args: string;
  typed: string;
  mustHold: boolean;
  after: string;
  role: show.Link['role'];
}

const valuesOf = (row: show.Link): Values => ({
  label: row.label,
  slot: row.slot === null ? '' : String(row.slot),
  slotGroup: row.slotGroup === null ? '' : String(row.slotGroup),
  host: row.host ?? '',
  port: String(row.port),
  replyPort: row.replyPort === null ? '' : String(row.replyPort),
  account: row.account ?? '',
  password: '',
  command: row.command ?? '',
  args: linkRoom.writtenValues(row.args),
  typed: row.typed,
  mustHold: row.mustHold,
  after: row.after ?? '',
  role: row.role,
});

const patchOf = (values: Values, command: show.Command | undefined, secretId: string | null) => ({
  label: values.label.trim(),
  slot: values.slot.trim() === '' ? null : Number(values.slot),
  slotGroup: values.slotGroup.trim() === '' ? null : Number(values.slotGroup),
  host: values.host.trim() || null,
  port: Number(values.port),
  replyPort: values.replyPort.trim() === '' ? null : Number(values.replyPort),
  account: values.account.trim() || null,
  secretId,
  mustHold: values.mustHold,
  after: values.after || null,
  role: values.role,
  ...messageOf(values, command),
});

/** What is kept where the message was typed and no command reads so. */
const typedKey = 'typed';

const messageOf = (values: Values, command: show.Command | undefined) =>
  values.command === typedKey
    ? { command: typedKey, typed: values.typed.trim(), args: [] }
    : { command: values.command || null, typed: '', args: command ? linkRoom.argumentsFrom(command, values.args) : [] };

/** The controller's own entry for this target: slot, address, ports, login and the message to test with. */
export function LinkEditor({ link }: { link: show.Link }) {
  const show = useShow();
  const { save, showId } = useWorkspace();
  const { tell } = useNotices();
  const type = core.serviceTypeOf(show, show.devices[link.targetId], link.serviceKey);
  const form = useRowForm(link, valuesOf, `${showId} link ${link.id}`);
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
      <CalledThere form={form} link={link} />
      <LinkFields form={form} type={type} command={command} />
      <Follows form={form} link={link} />
      {type && <LoginFields form={form} type={type} hasPassword={link.secretId !== null} />}
      <SaveRow form={form} label="Save settings" />
    </form>
  );
}

/** What the controller's list says for it, and the name that would tell a stranger which machine is meant (need 5.2). */
function CalledThere({ form, link }: { readonly form: RowForm<show.Link, Values>; readonly link: show.Link }) {
  const show = useShow();
  const telling = surfaces.destinationName(show, link);
  return (
    <>
      <TextField
        form={form}
        name="label"
        label="Called there"
        hint={`empty: ${show.devices[link.targetId]?.name ?? 'as the target'}`}
        rule={textRule(core.limits.name)}
      />
      {telling !== '' && form.watch('label').trim() !== telling && (
        <button
          type="button"
          className="link mb-2 justify-self-start text-left text-xs"
          onClick={() => form.setValue('label', telling, { shouldDirty: true })}
        >
          Call it “{telling}”
        </button>
      )}
    </>
  );
}

/** The link whose effect sets this one off; mostly plain, since its target is the controller here. */
function Follows({ form, link }: { readonly form: RowForm<show.Link, Values>; readonly link: show.Link }) {
  const show = useShow();
  return (
    <ChosenField
      label="Follows"
      value={form.watch('after')}
      onChoose={(id) => form.setValue('after', id, { shouldDirty: true })}
    >
      <option value="">whatever controls {show.devices[link.controllerId]?.name ?? 'it'}</option>
      <Options of={afterOptions(show, link)} />
    </ChosenField>
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
  const isConnection = type !== undefined && core.isConnection(type);
  const waits = isConnection && form.watch('role') === 'waits';
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
      <div className="grid grid-cols-2 gap-x-3">
        <TextField form={form} name="slot" label="Slot" rule={wholeRule(0, core.limits.slot)} look="number" />
        <TextField
          form={form}
          name="slotGroup"
          label="Group"
          rule={wholeRule(0, core.limits.slotGroup)}
          look="number"
        />
      </div>
      <TextField
        form={form}
        name="port"
        label={waits ? 'Waits on port' : 'Sends to port'}
        rule={portRule}
        look="number"
      />
      {isConnection ? (
        <ChosenField
          label="Connection"
          value={waits ? 'waits' : 'opens'}
          onChoose={(role) => form.setValue('role', role as show.Link['role'], { shouldDirty: true })}
        >
          <option value="opens">opens it</option>
          <option value="waits">waits for it</option>
        </ChosenField>
      ) : (
        <TextField form={form} name="replyPort" label="Hears replies on port" rule={optionalPortRule} look="number" />
      )}
      <MessageFields form={form} type={type} command={command} />
      <div className="col-span-2 pb-2">
        <Tick checked={form.watch('mustHold')} onTick={(on) => form.setValue('mustHold', on, { shouldDirty: true })}>
          must hold: no single loss may stop it
        </Tick>
      </div>
    </div>
  );
}

type MessageProps = Parameters<typeof LinkFields>[0];

/** The message to test with: from the command list, or typed whole. What was typed for a command comes back with it. */
function MessageFields({ form, type, command }: MessageProps) {
  const kept = useRef(new Map<string, string>());
  const [chosen, args] = [form.watch('command'), form.watch('args')];
  const choose = (key: string) => {
    kept.current.set(chosen, args);
    const next = type?.commands.find((each) => each.key === key);
    form.setValue('command', key, { shouldDirty: true });
    form.setValue('args', kept.current.get(key) ?? linkRoom.writtenValues(next ? linkRoom.exampleArgs(next) : []), {
      shouldDirty: true,
    });
  };
  const asked = command?.args.map(({ name, unit }) => (unit ? `${name} in ${unit}` : name)).join(', ');
  return (
    <>
      <ChosenField label="Test message" value={chosen} onChoose={choose}>
        <option value="">none</option>
        <Options of={(type?.commands ?? []).map(({ key, label }) => [key, label] as const)} />
        <option value={typedKey}>typed as it goes out</option>
      </ChosenField>
      {chosen === typedKey ? (
        <TypedMessage form={form} type={type} command={command} />
      ) : (
        <TextField form={form} name="args" label="Arguments" hint={command ? asked || 'none needed' : ''} look="key" />
      )}
      {command && <Written command={command} args={args} />}
    </>
  );
}

/** A whole message: as soon as a command of the list reads so, it is that command with these values. */
function TypedMessage({ form, type }: MessageProps) {
  const typed = form.watch('typed');
  const found = type && linkRoom.commandFrom(type, typed);
  const use = () => {
    if (!found) return;
    form.setValue('command', found.command.key, { shouldDirty: true });
    form.setValue('args', linkRoom.writtenValues(found.args), { shouldDirty: true });
  };
  return (
    <div className="col-span-2 grid content-start pb-2">
      <TextField
        form={form}
        name="typed"
        label="Message"
        hint={found || typed.trim() === '' ? '' : 'no command of its list reads so: it would be dropped without a word'}
        rule={textRule(core.limits.text)}
        look="key"
      />
      {found && (
        <button type="button" className="act-quiet justify-self-start" onClick={use}>
          It is “{found.command.label}”: use that
        </button>
      )}
    </div>
  );
}

/** The message as it goes out, and whether it does anything. */
function Written({ command, args }: { readonly command: show.Command; readonly args: string }) {
  const values = linkRoom.argumentsFrom(command, args);
  return (
    <p className="col-span-2 pb-2 text-xs text-mute">
      goes out as <code>{linkRoom.writtenCommand(command, values)}</code>
      {!linkRoom.doesTrigger(command, values) && (
        <span className="text-warning"> · this value does not trigger anything: the command acts on a true one</span>
      )}
      {command.args.some(({ type }) => type === 's') && ' · a text with a comma stands in quotation marks'}
    </p>
  );
}
