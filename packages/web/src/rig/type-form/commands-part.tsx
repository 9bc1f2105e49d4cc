import { links, type show } from '@deep-patch/core';
import { Tick } from '../../parts/typed-fields.tsx';
import { freeKey, numberOf, textOf } from './form-part.ts';
import { ChoiceCell, Rows, TextCell } from './rows.tsx';

type Service = show.DeviceType['services'][number];
type Command = Service['commands'][number];
type Argument = Command['args'][number];

const argumentTypes = [
  ['i', 'whole number'],
  ['f', 'number'],
  ['s', 'text'],
  ['T', 'true or false'],
] as const;
const triggerTexts = [
  ['any', 'any value triggers'],
  ['true', 'only true triggers'],
  ['rising', 'only a rise triggers'],
] as const;
const methods = ['GET', 'PUT', 'POST'].map((method) => [method, method] as const);
const addressLabels: Readonly<Record<Service['protocol'], string>> = {
  osc: 'OSC address',
  http: 'Path',
  text: 'Line',
  midi: 'Message',
};
const addressExamples: Readonly<Record<Service['protocol'], string>> = {
  osc: '/desk/cue/{cue}/start',
  http: '/lamp/{lit}',
  text: 'play {clip}',
  midi: 'control-change 1 7 {level}',
};
const examples: Readonly<Record<Argument['type'], Argument['example']>> = { i: 1, f: 0.5, s: 'text', T: true };

const blank = (commands: readonly Command[]): Command => ({
  key: freeKey('command', commands),
  label: `Command ${commands.length + 1}`,
  address: '',
  args: [],
  sets: [],
  reply: null,
});

interface Props {
  readonly service: Service;
  /** The lists of names that the unit keeps. */
  readonly lists: show.DeviceType['lists'];
  readonly path: string;
  readonly issues: ReadonlyMap<string, string>;
  readonly onChange: (commands: Command[]) => void;
}

/** What a service understands, each with what goes out for its example. */
export function CommandRows({ service, lists, path, issues, onChange }: Props) {
  const { commands, protocol } = service;
  return (
    <Rows
      what="command"
      isBlock
      items={commands}
      path={path}
      issues={onlyOwn(issues)}
      make={() => blank(commands)}
      onChange={onChange}
    >
      {(command, put, at) => (
        <div className="grid flex-1 gap-1 border-l-2 border-rule pl-2">
          <div className="flex flex-wrap items-end gap-1.5">
            <TextCell
              label={`Command ${at + 1}`}
              caption="Command"
              value={textOf(command.label)}
              width="w-44"
              onType={(label) => put({ label })}
            />
            {protocol === 'http' && (
              <ChoiceCell
                label={`Method of command ${at + 1}`}
                caption="Method"
                value={command.method ?? 'PUT'}
                options={methods}
                width="w-20"
                onChoose={(method) => put({ method: method as NonNullable<Command['method']> })}
              />
            )}
            <TextCell
              label={`${addressLabels[protocol]} of command ${at + 1}`}
              caption={addressLabels[protocol]}
              placeholder={addressExamples[protocol]}
              value={textOf(command.address)}
              width="w-72"
              look="key"
              onType={(address) => put({ address })}
            />
            <ChoiceCell
              label={`What triggers command ${at + 1}`}
              caption="Does it on"
              value={command.trigger ?? 'any'}
              options={triggerTexts}
              width="w-44"
              onChoose={(trigger) => put({ trigger: trigger as NonNullable<Command['trigger']> })}
            />
          </div>
          <Weight {...{ command, commands, put }} n={at + 1} />
          <Arguments {...{ command, lists, path: `${path}.${at}.args`, issues, put }} />
          <Effects {...{ command, path: `${path}.${at}.sets`, issues, put }} />
          <Reply {...{ command, protocol, put }} />
          <Written command={command} />
        </div>
      )}
    </Rows>
  );
}

/** Faults of arguments and effects stand at their own lines. */
const onlyOwn = (issues: ReadonlyMap<string, string>): ReadonlyMap<string, string> =>
  new Map([...issues].filter(([path]) => !/\.commands\.\d+\.(args|sets)\./.test(path)));

interface Part {
  readonly command: Command;
  readonly put: (change: Partial<Command>) => void;
}
type ListPart = Part & Pick<Props, 'path' | 'issues'>;

/** The first name in braces that has no argument yet. */
function nextName({ address, args }: Command): string {
  const named = Array.from(textOf(address).matchAll(/\{(\w+)\}/g), ([, name = '']) => name);
  const isFree = (name: string) => args.every((argument) => argument.name !== name);
  return named.find(isFree) ?? (isFree('value') ? 'value' : `value${args.length + 1}`);
}

/** Whether a show needs it, and what undoes it: a start without a stop is told. */
function Weight({ command, commands, put, n }: Part & { readonly commands: readonly Command[]; readonly n: number }) {
  const others = commands.filter(({ key }) => key !== command.key).map(({ key, label }) => [key, label] as const);
  return (
    <span className="flex flex-wrap items-center gap-3 text-[13px]">
      <Tick size="xs" checked={command.essential === true} onTick={(on) => put({ essential: on ? true : undefined })}>
        no show runs without it
      </Tick>
      {others.length > 0 && (
        <span className="flex items-center gap-1.5">
          undone by
          <ChoiceCell
            label={`What undoes command ${n}`}
            value={command.counterpart ?? ''}
            options={[['', 'nothing'], ...others]}
            width="w-44"
            onChoose={(key) => put({ counterpart: key || undefined })}
          />
        </span>
      )}
    </span>
  );
}

function Arguments({ command, lists, path, issues, put }: ListPart & Pick<Props, 'lists'>) {
  const { args } = command;
  return (
    <Rows
      what="argument"
      items={args}
      path={path}
      issues={issues}
      make={(): Argument => ({ name: nextName(command), type: 'f', example: 0.5 })}
      onChange={(next) => put({ args: next })}
    >
      {(argument, change, at) => <ArgumentCells {...{ argument, lists, change, at }} />}
    </Rows>
  );
}

function ArgumentCells({
  argument,
  lists,
  change,
  at,
}: {
  readonly argument: Argument;
  readonly lists: Props['lists'];
  readonly change: (patch: Partial<Argument>) => void;
  readonly at: number;
}) {
  const n = at + 1;
  const isNumber = argument.type === 'i' || argument.type === 'f';
  return (
    <>
      <TextCell
        label={`Argument ${n}`}
        caption="Argument"
        value={textOf(argument.name)}
        width="w-28"
        onType={(name) => change({ name })}
      />
      <ChoiceCell
        label={`Type of argument ${n}`}
        caption="Type"
        value={argument.type}
        options={argumentTypes}
        onChoose={(type) => change({ type: type as Argument['type'], example: examples[type as Argument['type']] })}
      />
      {isNumber && <NumberCells {...{ argument, change, n }} />}
      {argument.type === 's' && lists.length > 0 && (
        <ChoiceCell
          label={`List that argument ${n} takes a name from`}
          caption="A name from"
          value={argument.list ?? ''}
          options={[['', 'any text'], ...lists.map(({ key, label }) => [key, label] as const)]}
          onChoose={(list) => change({ list: list || undefined })}
        />
      )}
      <Example {...{ argument, change, n }} />
    </>
  );
}

/** Within which limits a number is, in what it counts, and where it does nothing. */
function NumberCells({
  argument,
  change,
  n,
}: {
  readonly argument: Argument;
  readonly change: (patch: Partial<Argument>) => void;
  readonly n: number;
}) {
  return (
    <>
      {numbers.map(([key, caption, label]) => (
        <TextCell
          key={key}
          label={`${label} ${n}`}
          caption={caption}
          value={textOf(argument[key])}
          width="w-16"
          look="key"
          onType={(text) => change({ [key]: text.trim() === '' ? undefined : (numberOf(text) ?? undefined) })}
        />
      ))}
      <TextCell
        label={`Unit ${n}`}
        caption="Unit"
        value={textOf(argument.unit)}
        width="w-16"
        onType={(unit) => change({ unit: unit || undefined })}
      />
    </>
  );
}

const numbers = [
  ['min', 'From', 'From'],
  ['max', 'To', 'To'],
  ['neutral', 'Neutral', 'Neutral value'],
] as const;

function Example({
  argument,
  change,
  n,
}: {
  readonly argument: Argument;
  readonly change: (patch: Partial<Argument>) => void;
  readonly n: number;
}) {
  const isNumber = argument.type === 'i' || argument.type === 'f';
  return argument.type === 'T' ? (
    <ChoiceCell
      label={`Example ${n}`}
      caption="Example"
      value={String(argument.example)}
      options={[
        ['true', 'true'],
        ['false', 'false'],
      ]}
      width="w-24"
      onChoose={(text) => change({ example: text === 'true' })}
    />
  ) : (
    <TextCell
      label={`Example ${n}`}
      caption="Example"
      value={textOf(argument.example)}
      width="w-28"
      look="key"
      onType={(text) => change({ example: isNumber ? (numberOf(text) ?? 0) : text })}
    />
  );
}

/** What it does on the unit: that is what its stand-in shows. */
function Effects({ command: { sets }, path, issues, put }: ListPart) {
  return (
    <Rows
      what="effect"
      items={sets}
      path={path}
      issues={issues}
      make={() => ({ parameter: 'state', value: 'on' })}
      onChange={(next) => put({ sets: next })}
    >
      {(effect, change, at) => (
        <span className="flex items-center gap-1.5 text-[13px]">
          sets
          <TextCell
            label={`What effect ${at + 1} sets`}
            value={textOf(effect.parameter)}
            width="w-28"
            onType={(parameter) => change({ parameter })}
          />
          to
          <TextCell
            label={`Value of effect ${at + 1}`}
            value={textOf(effect.value)}
            width="w-28"
            look="key"
            onType={(value) => change({ value })}
          />
        </span>
      )}
    </Rows>
  );
}

function Reply({ command: { reply }, protocol, put }: Part & { readonly protocol: Service['protocol'] }) {
  if (reply === null)
    return (
      <button
        type="button"
        className="act-quiet justify-self-start"
        onClick={() => put({ reply: { address: protocol === 'osc' || protocol === 'http' ? '/' : 'ok', args: [] } })}
      >
        It replies
      </button>
    );
  return (
    <span className="flex flex-wrap items-center gap-1.5 text-[13px]">
      replies
      <TextCell
        label="Reply"
        value={textOf(reply.address)}
        width="w-56"
        look="key"
        onType={(address) => put({ reply: { ...reply, address } })}
      />
      with
      <TextCell
        label="Values of the reply, divided by blanks"
        value={reply.args.join(' ')}
        width="w-44"
        look="key"
        onType={(text) => put({ reply: { ...reply, args: text.trim() === '' ? [] : text.split(' ') } })}
      />
      <button type="button" className="act-quiet" onClick={() => put({ reply: null })}>
        It does not reply
      </button>
    </span>
  );
}

/** The message of the example as it goes out, so that a slip is seen here and not on the wire. */
function Written({ command }: { readonly command: Command }) {
  if (textOf(command.address).trim() === '') return null;
  return (
    <p className="text-xs text-mute">
      goes out as <code>{links.writtenCommand(command, links.exampleArgs(command))}</code>
    </p>
  );
}
