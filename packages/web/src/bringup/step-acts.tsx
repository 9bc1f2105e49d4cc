import { addressing, bringup, show as core, type Show } from '@deep-patch/core';
import { useEffect, useRef, useState } from 'react';
import { useWorkspace } from '../live/workspace.tsx';
import { TypedField } from '../parts/typed-fields.tsx';
import { NameStep } from './name-step.tsx';
import { ResetUnit } from './reset-unit.tsx';
import { SyncStep } from './sync-step.tsx';
import { isPossible, takenBy } from './steps-in-order.ts';
import type { Sheet } from './use-sheet.ts';

interface Props {
  readonly show: Show;
  readonly plan: bringup.BringUp;
  readonly step: bringup.BringUpStep;
  readonly sheet: Sheet;
  readonly benchIsOn: boolean;
  readonly name: string;
  readonly isNext: boolean;
  readonly onDone: () => void;
  readonly onLook: (by: number) => void;
}

/** What is asked opens below the buttons, where it may be out of sight. */
const showWhole = (panel: HTMLDivElement | null): void => panel?.scrollIntoView({ block: 'nearest' });

type Asking = 'other' | 'leave' | 'reset' | undefined;

/** What can be done with the step in front: Enter is done and next. */
export function StepActs({ show, plan, step, sheet, benchIsOn, name, isNext, onDone, onLook }: Props) {
  const [asking, setAsking] = useState<{ of: string; what: Asking }>();
  const asked = asking?.of === step.key ? asking.what : undefined;
  const ask = (what: Asking) => setAsking({ of: step.key, what: asked === what ? undefined : what });
  const possible = isPossible(plan, step);
  const isProgram = core.typeOf(show, show.devices[step.deviceId])?.form === 'program';
  const isAtOneUnit = !['computer', 'sync', 'name_endpoint'].includes(step.kind);
  const by = takenBy(show, step);
  const isShut = (by !== undefined && by !== name) || !possible || sheet.busy === step.key;
  return (
    <div className="mt-6 grid gap-3">
      {!possible && <p className="text-[13px] text-mute">Looking ahead: something else has to be done before this.</p>}
      <div className="flex flex-wrap gap-2">
        {step.kind === 'sync' ? (
          <SyncStep {...{ show, step, sheet, benchIsOn, isShut, onDone }} />
        ) : step.kind === 'name_endpoint' ? (
          <NameStep {...{ show, step, sheet, benchIsOn, isShut, onDone }} />
        ) : (
          <MainActs {...{ step, sheet, benchIsOn, isNext, isShut, onDone }} />
        )}
        <TakeAct {...{ show, step, sheet, name }} />
        {isAtOneUnit && (
          <button type="button" className="act-quiet" aria-expanded={asked === 'other'} onClick={() => ask('other')}>
            It shows something else …
          </button>
        )}
        {isAtOneUnit && !isProgram && (
          <button type="button" className="act-quiet" aria-expanded={asked === 'reset'} onClick={() => ask('reset')}>
            Reset it …
          </button>
        )}
        {step.kind !== 'computer' && (
          <button type="button" className="act-quiet" aria-expanded={asked === 'leave'} onClick={() => ask('leave')}>
            Leave it out …
          </button>
        )}
        <span className="flex gap-2 md:hidden">
          <button type="button" className="act" onClick={() => onLook(-1)}>
            Back
          </button>
          <button type="button" className="act" onClick={() => onLook(1)}>
            Look ahead
          </button>
        </span>
      </div>
      {asked && (
        <div key={asked} ref={showWhole}>
          {asked === 'other' && <ShowsOther show={show} step={step} name={name} onSaid={onDone} />}
          {asked === 'reset' && <ResetUnit {...{ show, benchIsOn, name }} deviceId={step.deviceId} onReset={onDone} />}
          {asked === 'leave' && (
            <LeaveOut
              kind={step.kind}
              onLeave={(why, note) => void sheet.leave(step, why, note).then((ok) => ok && onDone())}
            />
          )}
        </div>
      )}
    </div>
  );
}

/** Done, or done by the bench. */
function MainActs({
  step,
  sheet,
  benchIsOn,
  isNext,
  isShut,
  onDone,
}: Pick<Props, 'step' | 'sheet' | 'benchIsOn' | 'isNext' | 'onDone'> & { readonly isShut: boolean }) {
  const main = useRef<HTMLButtonElement>(null);
  useEffect(() => {
    if (isNext) main.current?.focus();
  }, [step.key, isNext]);
  const then = (did: Promise<boolean>) => void did.then((ok) => ok && onDone());
  return (
    <>
      <button ref={main} type="button" className="act-main" disabled={isShut} onClick={() => then(sheet.done(step))}>
        Done, next step
      </button>
      {benchIsOn && (
        <button type="button" className="act" disabled={isShut} onClick={() => then(sheet.onBench(step))}>
          {sheet.busy === step.key
            ? 'Doing it …'
            : step.kind === 'confirm'
              ? 'Ask it on the bench'
              : 'Do it for me on the bench'}
        </button>
      )}
    </>
  );
}

/** Who is on a step: two cannot take it. */
function TakeAct({ show, step, sheet, name }: Pick<Props, 'show' | 'step' | 'sheet' | 'name'>) {
  const by = takenBy(show, step);
  return by === undefined ? (
    <button type="button" className="act" onClick={() => void sheet.take(step)}>
      I am on it
    </button>
  ) : (
    <button type="button" className="act" onClick={() => void sheet.letGo(step)}>
      {by === name ? 'Let it go' : `Free it from ${by}`}
    </button>
  );
}

/** The unit is somewhere else than the sheet believes: the rest is worked out anew from there. */
function ShowsOther({
  show,
  step,
  name,
  onSaid,
}: Pick<Props, 'show' | 'step' | 'name'> & { readonly onSaid: () => void }) {
  const { save } = useWorkspace();
  const [text, setText] = useState('');
  const [fault, setFault] = useState<string>();
  const say = async () => {
    const said = { by: name, at: Date.now() };
    const entry = text.trim() === '' ? undefined : addressing.readIpEntry(text);
    if (entry && !entry.ok) {
      setFault(entry.text);
      return;
    }
    const place = entry?.ok ? { ip: entry.ip, prefix: entry.prefix ?? 24 } : null;
    if (await save(bringup.planShowsOther(show, step.deviceId, place, said))) onSaid();
  };
  return (
    <form
      className="grid max-w-md gap-2 rounded-box border border-line p-3"
      onSubmit={(event) => {
        event.preventDefault();
        void say();
      }}
    >
      <TypedField
        label="It shows the address"
        hint="with its mask, such as 172.27.5.20/24; empty where it shows none"
        value={text}
        onType={setText}
        error={fault}
        look="key"
      />
      <button type="submit" className="act justify-self-start">
        Work the rest out from there
      </button>
    </form>
  );
}

function LeaveOut({
  kind,
  onLeave,
}: {
  readonly kind: bringup.BringUpStep['kind'];
  readonly onLeave: (why: 'skipped' | 'failed', note: string) => void;
}) {
  const [note, setNote] = useState('');
  return (
    <div className="grid max-w-md gap-2 rounded-box border border-line p-3">
      {kind === 'join' && (
        <p className="text-[13px]">Leave it off, with its cable out: another unit may need its address meanwhile.</p>
      )}
      <TypedField label="What is the matter" hint="stays with the unit" value={note} onType={setNote} most={200} />
      <div className="flex gap-2">
        <button type="button" className="act" onClick={() => onLeave('skipped', note)}>
          Later
        </button>
        <button type="button" className="act" onClick={() => onLeave('failed', note)}>
          It failed
        </button>
      </div>
    </div>
  );
}
