import { rig, show as core, type show } from '@deep-patch/core';
import { useId, useMemo, useState, type ReactNode } from 'react';
import { useShow, useSaving, useWorkspace } from '../live/workspace.tsx';
import { Field } from '../parts/field.tsx';

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
  const show = useShow();
  const { save } = useWorkspace();
  const saving = useSaving();
  const [draft, setDraft] = useState<unknown>(content);
  const [text, setText] = useState(() => asText(content));
  const [broken, setBroken] = useState<string>();
  const issues = useMemo(
    () => rig.typeIssues({ ...(draft as object), id: content.id, libraryId: content.libraryId }),
    [draft, content],
  );
  const values = draft as TypeContent;
  const isDirty = text !== asText(content) || type === undefined;
  const isShipped = type !== undefined && type.libraryId !== rig.ownLibraryId;
  const units = type ? core.rowsOf(show, 'devices').filter(({ typeId }) => typeId === type.id).length : 0;
  const removal = type && rig.planRemoveType(show, type);

  const put = (next: unknown) => {
    setDraft(next);
    setText(asText(next));
    setBroken(undefined);
  };
  const patch = (change: Partial<TypeContent>) => put({ ...values, ...change });
  const type_ = (typed: string) => {
    setText(typed);
    try {
      const parsed: unknown = JSON.parse(typed);
      if (typeof parsed !== 'object' || parsed === null || Array.isArray(parsed))
        throw new Error('A type stands in braces');
      setDraft(parsed);
      setBroken(undefined);
    } catch (error) {
      setBroken(error instanceof Error ? error.message : 'This is no JSON');
    }
  };
  const isReady = issues.size === 0 && broken === undefined && isDirty && !saving;
  return (
    <div className="grid content-start gap-3">
      <div className="flex flex-wrap items-center gap-2">
        <h3 className="text-[15px] font-bold">{values.name || 'Without a name'}</h3>
        <span className="text-mute">{units > 0 && `${units} in the rig`}</span>
        <button
          type="button"
          className="act-main ml-auto"
          disabled={!isReady}
          onClick={() => void onSave({ ...values, id: content.id, libraryId: content.libraryId })}
        >
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
      <Basics values={values} issues={issues} patch={patch} />
      <Factory values={values} issues={issues} patch={patch} />
      <Behaviour values={values} issues={issues} patch={patch} />
      <JsonField text={text} broken={broken} issues={issues} onType={type_} />
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
      <Field label="Name" error={issues.get('name')}>
        {(ids) => (
          <input
            {...ids}
            className="field"
            value={values.name ?? ''}
            onChange={(event) => patch({ name: event.target.value })}
          />
        )}
      </Field>
      <Field label="Model" error={issues.get('model')} hint="the same in every library">
        {(ids) => (
          <input
            {...ids}
            className="field key-num"
            value={values.model ?? ''}
            onChange={(event) => patch({ model: event.target.value })}
          />
        )}
      </Field>
      <Field label="Version" error={issues.get('version')}>
        {(ids) => (
          <input
            {...ids}
            className="field key-num"
            value={values.version ?? ''}
            onChange={(event) => patch({ version: event.target.value })}
          />
        )}
      </Field>
      <Field label="Kind" error={issues.get('kind')}>
        {(ids) => (
          <select
            {...ids}
            className="field-select"
            value={values.kind}
            onChange={(event) => patch({ kind: event.target.value as TypeContent['kind'] })}
          >
            {core.deviceKinds.map((kind) => (
              <option key={kind} value={kind}>
                {kind.replace('-', ' ')}
              </option>
            ))}
          </select>
        )}
      </Field>
    </Row>
  );
}

const modes = { static: 'fixed', dhcp: 'from a server', self: 'by itself', none: 'none' } as const;
const logins = { none: 'none', preset: 'one all know', create: 'made at first' } as const;

function Factory({ values, issues, patch }: Part) {
  const { factory } = values;
  const put = (change: Partial<TypeContent['factory']>) => patch({ factory: { ...factory, ...change } });
  return (
    <Row title="Straight from its box">
      <Field label="Address" error={issues.get('factory.mode')}>
        {(ids) => (
          <select
            {...ids}
            className="field-select"
            value={factory?.mode}
            onChange={(event) => put({ mode: event.target.value as keyof typeof modes })}
          >
            {Object.entries(modes).map(([mode, label]) => (
              <option key={mode} value={mode}>
                {label}
              </option>
            ))}
          </select>
        )}
      </Field>
      <Field label="Fixed at" error={issues.get('factory.ip')}>
        {(ids) => (
          <input
            {...ids}
            className="field key-num"
            value={factory?.ip ?? ''}
            onChange={(event) =>
              put({
                ip: event.target.value.trim() || null,
                prefix: event.target.value.trim() ? (factory?.prefix ?? 24) : null,
              })
            }
          />
        )}
      </Field>
      <Field label="Mask, as a prefix" error={issues.get('factory.prefix')}>
        {(ids) => (
          <input
            {...ids}
            className="field key-num"
            inputMode="numeric"
            value={factory?.prefix ?? ''}
            onChange={(event) => put({ prefix: event.target.value === '' ? null : Number(event.target.value) })}
          />
        )}
      </Field>
      <Field label="Login" error={issues.get('factory.login')}>
        {(ids) => (
          <select
            {...ids}
            className="field-select"
            value={factory?.login}
            onChange={(event) => put({ login: event.target.value as keyof typeof logins })}
          >
            {Object.entries(logins).map(([login, label]) => (
              <option key={login} value={login}>
                {label}
              </option>
            ))}
          </select>
        )}
      </Field>
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
  const numberOf = (text: string): number | null => (text === '' ? null : Number(text));
  return (
    <Row title="How it behaves">
      <Field label="Sources at most" error={issues.get('most.sources')}>
        {(ids) => (
          <input
            {...ids}
            className="field key-num"
            inputMode="numeric"
            value={values.most?.sources ?? ''}
            onChange={(event) => patch({ most: { ...values.most, sources: numberOf(event.target.value) } })}
          />
        )}
      </Field>
      <Field label="Controllers at most" error={issues.get('most.controllers')}>
        {(ids) => (
          <input
            {...ids}
            className="field key-num"
            inputMode="numeric"
            value={values.most?.controllers ?? ''}
            onChange={(event) => patch({ most: { ...values.most, controllers: numberOf(event.target.value) } })}
          />
        )}
      </Field>
      <div className="col-span-2 grid grid-cols-2 content-start gap-x-3 gap-y-1 pt-4 text-[13px]">
        {flags.map(([key, label]) => (
          <label key={key} className="flex items-center gap-2">
            <input
              type="checkbox"
              className="checkbox checkbox-xs"
              checked={values[key] ?? false}
              onChange={(event) => patch({ [key]: event.target.checked })}
            />
            {label}
          </label>
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
