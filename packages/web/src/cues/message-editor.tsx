import { cues as cueRoom, type show as core } from '@deep-patch/core';
import { useState } from 'react';
import { Link } from 'react-router';
import type { DoOnBench } from '../bench/use-bench.ts';
import { useBenchPart } from '../live/bench-store.ts';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import { NumberField } from '../parts/kept-fields.tsx';
import { DeliveryWords } from '../surfaces/delivery-words.tsx';
import { useReached } from '../links/use-reached.ts';
import { MessageBytes } from './message-bytes.tsx';
import { Notations } from './notations.tsx';
import { Reference } from './reference.tsx';

interface Props {
  readonly controllerId: string;
  readonly message: core.CueMessage;
  readonly title: string;
  readonly act: DoOnBench;
  readonly onEdit: (message: core.CueMessage) => void;
  readonly onRemove: () => void;
}

/** One message: to whom, which command, its values, the same in every notation, its bytes, and a try of it. */
export function MessageEditor({ controllerId, message, title, act, onEdit, onRemove }: Props) {
  const show = useShow();
  const [more, setMore] = useState(false);
  const reached = useReached(controllerId, message.targetId, message.serviceKey);
  const aimed = cueRoom.aimedAt(show, message);
  const { target, service, command } = aimed;
  const send = () => {
    const found = command ? { command: command.key, args: [...aimed.args] } : { command: null, args: [] };
    const { targetId, serviceKey, typed } = message;
    void act({ act: 'send_message', controllerId, targetId, serviceKey, typed, ...found });
  };
  return (
    <section className="grid gap-2 rounded-sm border border-rule p-3" aria-label={title}>
      <div className="flex items-baseline gap-2">
        <h3 className="font-semibold">{target?.name ?? 'A unit that is gone'}</h3>
        <span className="text-xs text-mute">{service?.label}</span>
        <button type="button" className="link ml-auto shrink-0 text-xs text-mute" onClick={onRemove}>
          Take out
        </button>
      </div>
      {reached !== undefined && <p className="text-xs text-mute">reached at {reached}</p>}
      {service && <Reference {...{ service, message }} onEdit={onEdit} />}
      {command && <Values {...{ message, command, aimed }} onEdit={onEdit} />}
      {!command && <Typed message={message} onEdit={onEdit} />}
      <Checks aimed={aimed} />
      <div className="flex flex-wrap items-center gap-2">
        <NumberField
          label="seconds later"
          value={message.delayMs / 1000}
          onKeep={(seconds) => onEdit({ ...message, delayMs: Math.max(0, Math.round((seconds ?? 0) * 1000)) })}
        />
        <button type="button" className="act self-end" onClick={send}>
          Send once
        </button>
        {(command !== undefined || service?.protocol === 'osc') && (
          <button type="button" className="act-quiet self-end" aria-expanded={more} onClick={() => setMore(!more)}>
            As text and bytes
          </button>
        )}
      </div>
      <Tried targetId={message.targetId} />
      {more && (
        <>
          {service?.protocol === 'osc' && <Notations {...{ message, aimed }} onEdit={onEdit} />}
          <MessageBytes aimed={aimed} />
        </>
      )}
    </section>
  );
}

function Tried({ targetId }: { readonly targetId: string }) {
  const { showId } = useWorkspace();
  const tried = useBenchPart((known) => known?.tried);
  if (tried?.targetId !== targetId) return null;
  return (
    <p role="status" className="grid gap-0.5 text-[13px]">
      <code className="truncate">{tried.sent || 'not sent'}</code>
      <span className="flex gap-3">
        <DeliveryWords delivery={tried} />
        <Link to={`/shows/${showId}/bench/${targetId}`} className="link text-xs">
          See it in the tap
        </Link>
      </span>
      {tried.why && <span className="text-warning">{tried.why}</span>}
    </p>
  );
}

/** Each value with its limits; the number in the address is another one than the number behind it. */
function Values({
  message,
  command,
  aimed,
  onEdit,
}: {
  readonly message: core.CueMessage;
  readonly command: core.Command;
  readonly aimed: cueRoom.Aimed;
  readonly onEdit: (message: core.CueMessage) => void;
}) {
  const names = useBenchPart((known) => known?.standins.find(({ deviceId }) => deviceId === message.targetId)?.lists);
  const show = useShow();
  const set = (at: number, value: core.CueMessage['args'][number]) =>
    onEdit({
      ...message,
      command: command.key,
      typed: '',
      args: command.args.map(({ example }, n) => (n === at ? value : (aimed.args[n] ?? example))),
    });
  return (
    <div className="grid grid-cols-2 gap-2">
      {cueRoom.placesOf(command).map(({ argument, inAddress }, at) => {
        const { name, unit, min, max, list } = argument;
        const value = aimed.args[at] ?? argument.example;
        const range = min !== undefined && max !== undefined ? `, ${min} to ${max}` : '';
        const label = `${name}${unit ? `, ${unit}` : ''}${range}${inAddress ? ' (in the address)' : ''}`;
        if (typeof value === 'number')
          return (
            <NumberField key={name} label={label} value={value} onKeep={(next) => next !== null && set(at, next)} />
          );
        if (typeof value === 'boolean')
          return (
            <label key={name} className="flex items-center gap-2 text-xs text-mute">
              <input
                type="checkbox"
                className="checkbox checkbox-sm"
                checked={value}
                onChange={(event) => set(at, event.target.checked)}
              />
              {label}
            </label>
          );
        const known =
          list === undefined ? undefined : (names?.[list] ?? cueRoom.knownNames(show)(message.targetId, list));
        return <TextValue key={name} {...{ label, value, known }} onKeep={(text) => set(at, text)} />;
      })}
    </div>
  );
}

/** A text; where the target keeps a list of names, picked from what is in it now, or typed exactly so. */
function TextValue({
  label,
  value,
  known,
  onKeep,
}: {
  readonly label: string;
  readonly value: string;
  readonly known: readonly string[] | undefined;
  readonly onKeep: (value: string) => void;
}) {
  const check = known && cueRoom.checkName(known, value);
  const id = `names-${label}`;
  return (
    <label className="col-span-2 grid gap-0.5 text-xs text-mute">
      {label}
      <input
        key={value}
        className={`field h-7 ${check && check.state !== 'exact' ? 'border-warning' : ''}`}
        list={id}
        defaultValue={value}
        maxLength={200}
        onBlur={(event) => event.target.value !== value && onKeep(event.target.value)}
      />
      {known && (
        <datalist id={id}>
          {[...new Set(known)].map((name) => (
            <option key={name} value={name} />
          ))}
        </datalist>
      )}
      {check?.state === 'unknown' && 'nearest' in check && (
        <span className="text-warning">
          Nobody is called so there.{' '}
          {check.nearest !== undefined && (
            <button type="button" className="link" onClick={() => onKeep(check.nearest ?? value)}>
              Use “{check.nearest}”
            </button>
          )}
        </span>
      )}
      {check?.state === 'doubled' && <span className="text-warning">Two are called so there.</span>}
    </label>
  );
}

function Typed({
  message,
  onEdit,
}: {
  readonly message: core.CueMessage;
  readonly onEdit: (message: core.CueMessage) => void;
}) {
  return (
    <label className="grid gap-0.5 text-xs text-mute">
      As it is typed
      <input
        key={message.typed}
        className="field key-num h-7"
        defaultValue={message.typed}
        maxLength={200}
        onBlur={(event) => event.target.value !== message.typed && onEdit({ ...message, typed: event.target.value })}
      />
    </label>
  );
}

function Checks({ aimed }: { readonly aimed: cueRoom.Aimed }) {
  const fault = cueRoom.faultOf(aimed);
  if (!aimed.command)
    return <p className="text-[13px] text-warning">No command of it reads so: it would arrive and mean nothing.</p>;
  if (fault) return <p className="text-[13px] text-warning">{faultWords(fault)}</p>;
  if (cueRoom.triggering(aimed) === 'does_not')
    return <p className="text-[13px] text-warning">This value means “off” to it: nothing is started.</p>;
  return null;
}

function faultWords(fault: NonNullable<ReturnType<typeof cueRoom.faultOf>>): string {
  switch (fault.code) {
    case 'argument_count':
      return `It takes ${fault.wanted} values, and ${fault.given} are given.`;
    case 'argument_type':
      return `“${fault.name}” is of another type.`;
    case 'argument_range':
      return `“${fault.name}” goes from ${fault.range}; ${fault.value} is beyond.`;
    case 'argument_spelling':
      return `“${fault.value}” cannot travel in “${fault.name}”.`;
  }
}
