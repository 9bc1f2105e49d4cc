import { rig, show as core, type show } from '@deep-patch/core';
import { useId, useMemo, useState, type ReactNode } from 'react';
import { useShow, useSaving, useWorkspace } from '../live/workspace.tsx';
import { Options } from '../parts/form-fields.tsx';
import { ChosenField, Tick, TypedField } from '../parts/typed-fields.tsx';

type TypeContent = show.Content<'types'>;

interface Props {
  readonly content: TypeContent;
  /** The saved row; none for a new type. */
  readonly type: show.DeviceType | undefined;
  readonly onSave: (content: TypeContent) => Promise<void>;
  readonly onRemoved: () => void;
}

/**
 * One type: the fields that people change most as a form, all of it as JSON below, both on one draft. Faults appear
 * as they are made, each with its place; a draft with faults is not saved.
 */
export function TypeEditor({ content, type, onSave, onRemoved }: Props) {
  const { values, text, broken, issues, patch, typeJson } = useTypeDraft(content);
  const isDirty = text !== asText(content) || type === undefined;
  return (
    <div className="grid content-start gap-3">
      <Head
        name={values.name}
        type={type}
        isReady={issues.size === 0 && broken === undefined && isDirty}
        onSave={() => onSave({ ...values, id: content.id, libraryId: content.libraryId })}
        onRemoved={onRemoved}
      />
      <Basics values={values} issues={issues} patch={patch} />
      <Factory values={values} issues={issues} patch={patch} />
      <Behaviour values={values} issues={issues} patch={patch} />
      <JsonField text={text} broken={broken} issues={issues} onType={typeJson} />
    </div>
  );
}

/** The draft as an object and as text; text that is no JSON leaves the object as it was. */
function useTypeDraft(content: TypeContent) {
  const [draft, setDraft] = useState<unknown>(content);
  const [text, setText] = useState(() => asText(content));
  const [broken, setBroken] = useState<string>();
  const issues = useMemo(
    () => rig.typeIssues({ ...(draft as object), id: content.id, libraryId: content.libraryId }),
    [draft, content],
  );
  const values = draft as TypeContent;
  return {
    values,
    text,
    broken,
    issues,
    patch: (change: Partial<TypeContent>) => {
      const next = { ...values, ...change };
      setDraft(next);
      setText(asText(next));
      setBroken(undefined);
    },
    typeJson: (typed: string) => {
      setText(typed);
      const read = readBraces(typed);
      setBroken(read.fault);
      if (read.value) setDraft(read.value);
    },
  };
}

function readBraces(typed: string): { readonly value?: object; readonly fault?: string } {
  try {
    const parsed: unknown = JSON.parse(typed);
    const isObject = typeof parsed === 'object' && parsed !== null && !Array.isArray(parsed);
    return isObject ? { value: parsed } : { fault: 'A type stands in braces' };
  } catch (error) {
    return { fault: error instanceof Error ? error.message : 'This is no JSON' };
  }
}

function Head({
  name,
  type,
  isReady,
  onSave,
  onRemoved,
}: Pick<Props, 'type' | 'onRemoved'> & {
  readonly name: string;
  readonly isReady: boolean;
  readonly onSave: () => Promise<void>;
}) {
  const show = useShow();
  const { save } = useWorkspace();
  const saving = useSaving();
  const isShipped = type !== undefined && type.libraryId !== rig.ownLibraryId;
  const units = type ? core.rowsOf(show, 'devices').filter(({ typeId }) => typeId === type.id).length : 0;
  const removal = type && rig.planRemoveType(show, type);
  return (
    <div className="flex flex-wrap items-center gap-2">
      <h3 className="text-[15px] font-bold">{name || 'Without a name'}</h3>
      <span className="text-mute">{units > 0 && `${units} in the rig`}</span>
      <button type="button" className="act-main ml-auto" disabled={!isReady || saving} onClick={() => void onSave()}>
        {isShipped ? 'Save as our own' : 'Save the type'}
      </button>
      {type && !isShipped && (
        <button
          type="button"
          className="act-quiet text-error"
          disabled={!removal}
          title={removal ? undefined : 'Units of the show need it'}
          onClick={() => void save(removal).then((done) => done && onRemoved())}
        >
          Remove
        </button>
      )}
    </div>
  );
}

const asText = (draft: unknown): string => {
  const { id: _id, libraryId: _library, ...rest } = draft as Record<string, unknown>;
  return JSON.stringify(rest, null, 2);
};

interface Part {
  readonly values: TypeContent;
  readonly issues: ReadonlyMap<string, string>;
  readonly patch: (change: Partial<TypeContent>) => void;
}

const Row = ({ title, children }: { title: string; children: ReactNode }) => (
  <fieldset className="grid grid-cols-4 gap-x-3">
    <legend className="pb-1 text-xs font-semibold text-mute">{title}</legend>
    {children}
  </fieldset>
);

function Basics({ values, issues, patch }: Part) {
  return (
    <Row title="What it is">
      <TypedField
        label="Name"
        error={issues.get('name')}
        value={values.name ?? ''}
        onType={(name) => patch({ name })}
      />
      <TypedField
        label="Model"
        error={issues.get('model')}
        hint="the same in every library"
        value={values.model ?? ''}
        onType={(model) => patch({ model })}
        look="key"
      />
      <TypedField
        label="Version"
        error={issues.get('version')}
        value={values.version ?? ''}
        onType={(version) => patch({ version })}
        look="key"
      />
      <ChosenField
        label="Kind"
        error={issues.get('kind')}
        value={values.kind}
        onChoose={(kind) => patch({ kind: kind as TypeContent['kind'] })}
      >
        <Options of={core.deviceKinds.map((kind) => [kind, kind.replace('-', ' ')] as const)} />
      </ChosenField>
    </Row>
  );
}

const modes = { static: 'fixed', dhcp: 'from a server', self: 'by itself', none: 'none' } as const;
const logins = { none: 'none', preset: 'one all know', create: 'made at first' } as const;

const numberOf = (text: string): number | null => (text === '' ? null : Number(text));

function Factory({ values, issues, patch }: Part) {
  const { factory } = values;
  const put = (change: Partial<TypeContent['factory']>) => patch({ factory: { ...factory, ...change } });
  const fixAt = (text: string) =>
    put({ ip: text.trim() || null, prefix: text.trim() ? (factory?.prefix ?? 24) : null });
  return (
    <Row title="Straight from its box">
      <ChosenField
        label="Address"
        error={issues.get('factory.mode')}
        value={factory?.mode}
        onChoose={(mode) => put({ mode: mode as keyof typeof modes })}
      >
        <Options of={Object.entries(modes)} />
      </ChosenField>
      <TypedField
        label="Fixed at"
        error={issues.get('factory.ip')}
        value={factory?.ip ?? ''}
        onType={fixAt}
        look="key"
      />
      <TypedField
        label="Mask, as a prefix"
        error={issues.get('factory.prefix')}
        value={String(factory?.prefix ?? '')}
        onType={(text) => put({ prefix: numberOf(text) })}
        look="number"
      />
      <ChosenField
        label="Login"
        error={issues.get('factory.login')}
        value={factory?.login}
        onChoose={(login) => put({ login: login as keyof typeof logins })}
      >
        <Options of={Object.entries(logins)} />
      </ChosenField>
    </Row>
  );
}

const flags = [
  ['looksUpOnce', 'looks an address up once'],
  ['needsGateway', 'refuses an empty gateway'],
  ['forwards', 'forwards between its sockets'],
  ['managed', 'managed switch'],
] as const;

function Behaviour({ values, issues, patch }: Part) {
  const most = (key: 'sources' | 'controllers', label: string) => (
    <TypedField
      label={label}
      error={issues.get(`most.${key}`)}
      value={String(values.most?.[key] ?? '')}
      onType={(text) => patch({ most: { ...values.most, [key]: numberOf(text) } })}
      look="number"
    />
  );
  return (
    <Row title="How it behaves">
      {most('sources', 'Sources at most')}
      {most('controllers', 'Controllers at most')}
      <div className="col-span-2 grid grid-cols-2 content-start gap-x-3 gap-y-1 pt-4 text-[13px]">
        {flags.map(([key, label]) => (
          <Tick key={key} size="xs" checked={values[key] ?? false} onTick={(on) => patch({ [key]: on })}>
            {label}
          </Tick>
        ))}
      </div>
    </Row>
  );
}

interface JsonProps {
  readonly text: string;
  readonly broken: string | undefined;
  readonly issues: ReadonlyMap<string, string>;
  readonly onType: (text: string) => void;
}

function JsonField({ text, broken, issues, onType }: JsonProps) {
  const id = useId();
  return (
    <div className="grid gap-1">
      <label htmlFor={id} className="text-xs font-semibold text-mute">
        All of it: sockets and variants, ways to set it, restarts, services and commands, features, licences, power
      </label>
      <textarea
        id={id}
        className="textarea key-num h-72 w-full border-line bg-base-100 leading-snug"
        spellCheck={false}
        value={text}
        onChange={(event) => onType(event.target.value)}
        aria-invalid={broken !== undefined || issues.size > 0}
        aria-describedby={`${id}-faults`}
      />
      <ul id={`${id}-faults`} aria-live="polite" className="text-xs text-error">
        {broken !== undefined && <li>{broken}</li>}
        {[...issues].slice(0, 8).map(([path, message]) => (
          <li key={path}>
            <code className="text-xs">{path || 'the whole'}</code> {message}
          </li>
        ))}
        {issues.size > 8 && <li>and {issues.size - 8} more</li>}
      </ul>
    </div>
  );
}
