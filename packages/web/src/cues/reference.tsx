import { cues as cueRoom, type show as core } from '@deep-patch/core';
import { useState } from 'react';
import { hasWords } from '../parts/has-words.ts';

interface Props {
  readonly service: core.ServiceType;
  readonly message: core.CueMessage;
  readonly onEdit: (message: core.CueMessage) => void;
}

/** The target's own list of commands (need 8.8): searchable, with what each is called, takes and triggers on. */
export function Reference({ service, message, onEdit }: Props) {
  const [filter, setFilter] = useState<string>();
  const chosen = service.commands.find(({ key }) => key === message.command);
  const isMeant = hasWords(filter ?? '');
  if (filter === undefined)
    return (
      <button type="button" className="flex items-baseline gap-2 text-left" onClick={() => setFilter('')}>
        <b>{chosen?.label ?? 'Choose a command'}</b>
        <code className="truncate text-mute">{chosen?.address ?? message.typed}</code>
        <span className="link ml-auto shrink-0 text-xs">change</span>
      </button>
    );
  const shown = service.commands.filter(({ label, address, args }) =>
    isMeant(`${label} ${address} ${args.map(({ name }) => name).join(' ')}`),
  );
  return (
    <div className="grid gap-1">
      <input
        type="search"
        className="field h-8"
        autoFocus
        placeholder="Look a command up"
        aria-label="Look a command up"
        value={filter}
        onChange={(event) => setFilter(event.target.value)}
        onKeyDown={(event) => event.key === 'Escape' && setFilter(undefined)}
      />
      <ul className="max-h-52 overflow-auto rounded-sm border border-rule">
        {shown.map((command) => (
          <li key={command.key} className="border-b border-rule last:border-0">
            <button
              type="button"
              className="grid w-full gap-0.5 px-2 py-1.5 text-left"
              onClick={() => {
                onEdit({ ...cueRoom.messageWith(message.targetId, service.key, command), delayMs: message.delayMs });
                setFilter(undefined);
              }}
            >
              <span className="font-semibold">{command.label}</span>
              <code className="text-mute">{command.address}</code>
              <span className="text-xs text-faint">{takes(command)}</span>
            </button>
          </li>
        ))}
        {shown.length === 0 && <li className="p-2 text-mute">It has nothing that is called so.</li>}
      </ul>
    </div>
  );
}

const triggers = {
  any: 'any value triggers',
  true: 'only a true value triggers',
  rising: 'only a rising value triggers',
} as const;

function takes({ args, trigger, reply }: core.Command): string {
  const values = args.map(({ name, min, max, example }) =>
    min !== undefined && max !== undefined ? `${name} ${min} to ${max}` : `${name}, such as ${String(example)}`,
  );
  return [
    values.join(', ') || 'no values',
    triggers[trigger ?? 'any'],
    reply ? `answers ${reply.address}` : 'answers nothing',
  ].join(' · ');
}
