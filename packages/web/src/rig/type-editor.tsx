import { rig, show as core, type show } from '@deep-patch/core';
import { lazy, Suspense, useEffect, useMemo, useState } from 'react';
import { useShow, useSaving, useWorkspace } from '../live/workspace.tsx';
import { AroundIt } from './type-form/around-it.tsx';
import { BackPanel } from './type-form/back-panel.tsx';
import { ControlsPart } from './type-form/controls-part.tsx';
import { MediaPart } from './type-form/media-part.tsx';
import { ServicesPart } from './type-form/services-part.tsx';
import { SettingIt } from './type-form/setting-it.tsx';
import { VersionsPart } from './type-form/versions-part.tsx';
import { WallPart } from './type-form/wall-part.tsx';
import { AsController, FromItsBox, WhatItIs } from './type-form/what-it-is.tsx';

// an editor of that size is fetched by who wants to see the JSON
const TypeJson = lazy(() => import('./type-form/type-json.tsx'));

type TypeContent = show.Content<'types'>;

interface Props {
  readonly content: TypeContent;
  /** The saved row; none for a new type. */
  readonly type: show.DeviceType | undefined;
  readonly onSave: (content: TypeContent) => Promise<void>;
  readonly onRemoved: () => void;
  /** Is anything typed that is not saved yet? */
  readonly onDirty: (dirty: boolean) => void;
}

/**
 * One type as a form, or the whole of it as JSON, both on one draft. Faults appear as they are made, each with its
 * place; a draft with faults is not saved.
 */
export function TypeEditor({ content, type, onSave, onRemoved, onDirty }: Props) {
  const draft = useTypeDraft(content);
  const [view, setView] = useState<'form' | 'json'>('form');
  const { values, text, broken, issues, typeJson } = draft;
  const isTouched = text !== asText(content);
  const isDirty = isTouched || type === undefined;
  useEffect(() => {
    onDirty(isTouched);
    return () => onDirty(false);
  }, [isTouched, onDirty]);
  const canForm = broken === undefined && rig.isFormable({ ...values, id: content.id, libraryId: content.libraryId });
  return (
    <div className="grid content-start gap-3">
      <Head
        name={values.name}
        type={type}
        isReady={issues.size === 0 && broken === undefined && isDirty}
        onSave={() => onSave({ ...values, id: content.id, libraryId: content.libraryId })}
        onRemoved={onRemoved}
      />
      <div className="flex items-center gap-2">
        <div role="group" aria-label="How the type is shown" className="join">
          {(['form', 'json'] as const).map((each) => (
            <button
              key={each}
              type="button"
              className={`act join-item ${each === view ? 'font-bold text-primary shadow-[inset_0_-3px_0_var(--color-primary)]' : ''}`}
              aria-pressed={each === view}
              disabled={each === 'form' && !canForm}
              onClick={() => setView(each)}
            >
              {each === 'form' ? 'Form' : 'JSON'}
            </button>
          ))}
        </div>
        {!canForm && <span className="text-mute">Mend the JSON to see the form again.</span>}
      </div>
      {view === 'form' && canForm ? (
        <TypeForm draft={draft} isNew={type === undefined} />
      ) : (
        <Suspense fallback={<p className="text-mute">Opening the editor …</p>}>
          <TypeJson text={text} onType={typeJson} />
        </Suspense>
      )}
      <Faults broken={broken} issues={issues} />
    </div>
  );
}

function TypeForm({
  draft: { values, issues, patch },
  isNew,
}: {
  draft: ReturnType<typeof useTypeDraft>;
  isNew: boolean;
}) {
  const part = { values, issues, patch };
  return (
    <>
      <WhatItIs {...part} isNew={isNew} />
      {values.form === 'unit' && (
        <>
          <BackPanel {...part} />
          <FromItsBox {...part} />
        </>
      )}
      <ServicesPart {...part} />
      <ControlsPart {...part} />
      <MediaPart {...part} />
      <WallPart {...part} />
      <AsController {...part} />
      <SettingIt {...part} />
      <VersionsPart {...part} />
      <AroundIt {...part} />
    </>
  );
}

function Faults({
  broken,
  issues,
}: {
  readonly broken: string | undefined;
  readonly issues: ReadonlyMap<string, string>;
}) {
  const most = 8;
  return (
    <ul aria-live="polite" aria-label="Faults of the type" className="text-xs text-error empty:hidden">
      {broken !== undefined && <li>{broken}</li>}
      {[...issues].slice(0, most).map(([path, message]) => (
        <li key={path}>
          <code className="text-xs">{path || 'the whole'}</code> {message}
        </li>
      ))}
      {issues.size > most && <li>and {issues.size - most} more</li>}
    </ul>
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
