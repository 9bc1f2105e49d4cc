import { cues as cueRoom, type show as core } from '@deep-patch/core';
import { useState } from 'react';
import type { DoOnBench } from '../bench/use-bench.ts';
import { newId } from '../live/identity.ts';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import { FindingCard } from '../parts/finding-card.tsx';
import { NumberField } from '../parts/kept-fields.tsx';
import { MessageEditor } from './message-editor.tsx';
import { StartFields } from './start-fields.tsx';

interface Props {
  readonly cue: core.Cue;
  readonly controllers: readonly core.Device[];
  readonly act: DoOnBench;
}

/** One cue: its number and name, what starts it, and its messages. */
export function CuePanel({ cue, controllers, act }: Props) {
  const { save, analysis } = useWorkspace();
  const edit = (patch: Partial<core.Content<'cues'>>) => void save(cueRoom.planEditCue(cue, patch));
  const own = (analysis?.findings ?? []).filter(
    ({ room, subjects }) => room === 'cues' && subjects.some(({ id }) => id === cue.id),
  );
  return (
    <div className="grid gap-3">
      <div className="grid grid-cols-[5rem_1fr] gap-2">
        <NumberField
          label="Number"
          value={cue.number}
          onKeep={(number) => number !== null && number >= 0 && edit({ number: Math.round(number * 1000) / 1000 })}
        />
        <NameField key={cue.name} name={cue.name} onKeep={(name) => edit({ name })} />
      </div>
      {own.slice(0, 3).map((finding) => (
        <FindingCard key={finding.key} finding={finding} />
      ))}
      <StartFields {...{ cue, act }} onEdit={(starts) => edit({ starts })} />
      <label className="grid gap-0.5 text-xs text-mute">
        Sent by
        <select
          className="field-select h-8"
          value={cue.controllerId}
          onChange={(event) => edit({ controllerId: event.target.value })}
        >
          {controllers.map(({ id, name }) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </select>
      </label>
      {cue.messages.map((message, at) => (
        <MessageEditor
          key={at}
          controllerId={cue.controllerId}
          {...{ message, act }}
          title={`Message ${at + 1} of ${cue.messages.length}`}
          onEdit={(next) => edit({ messages: cue.messages.map((old, n) => (n === at ? next : old)) })}
          onRemove={() => edit({ messages: cue.messages.filter((_, n) => n !== at) })}
        />
      ))}
      <AddMessage cue={cue} onAdd={(message) => edit({ messages: [...cue.messages, message] })} />
      <Deeds {...{ cue, act }} onLeaveOut={() => edit({ enabled: !cue.enabled })} />
    </div>
  );
}

function Deeds({ cue, act, onLeaveOut }: Pick<Props, 'cue' | 'act'> & { readonly onLeaveOut: () => void }) {
  const show = useShow();
  const { save } = useWorkspace();
  return (
    <div className="flex flex-wrap gap-2 border-t border-rule pt-3">
      <button type="button" className="act-quiet" onClick={() => void act({ act: 'cues_from', cueId: cue.id })}>
        Go on from here
      </button>
      <button type="button" className="act-quiet" onClick={() => void save(cueRoom.planCopyCue(show, cue, newId()))}>
        Copy
      </button>
      <button type="button" className="act-quiet" aria-pressed={!cue.enabled} onClick={onLeaveOut}>
        {cue.enabled ? 'Leave out' : 'Take in again'}
      </button>
      <button type="button" className="act-quiet" onClick={() => void save(cueRoom.planRemoveCue(show, cue))}>
        Remove
      </button>
    </div>
  );
}

function NameField({ name, onKeep }: { readonly name: string; readonly onKeep: (name: string) => void }) {
  const [typed, setTyped] = useState(name);
  const keep = () => typed.trim() !== '' && typed !== name && onKeep(typed.trim());
  return (
    <label className="grid gap-0.5 text-xs text-mute">
      Name
      <input
        className="field h-7"
        maxLength={80}
        value={typed}
        onChange={(event) => setTyped(event.target.value)}
        onBlur={keep}
        onKeyDown={(event) => event.key === 'Enter' && keep()}
      />
    </label>
  );
}

/** A message for something that the cue's controller can drive: its first command with the values of an example. */
function AddMessage({ cue, onAdd }: { readonly cue: core.Cue; readonly onAdd: (message: core.CueMessage) => void }) {
  const show = useShow();
  const targets = cueRoom.targetsOf(show, cue.controllerId);
  if (targets.length === 0) return <p className="text-mute">Its sender drives nothing that is here.</p>;
  return (
    <select
      className="field-select h-8"
      aria-label="Add a message to"
      value=""
      onChange={(event) => {
        const found = targets.find(({ key }) => key === event.target.value);
        if (found) onAdd(cueRoom.firstMessage(found));
      }}
    >
      <option value="">Add a message to…</option>
      {targets.map(({ key, target, service, linked }) => (
        <option key={key} value={key}>
          {target.name}, {service.label}
          {linked ? '' : ' (no link yet)'}
        </option>
      ))}
    </select>
  );
}
