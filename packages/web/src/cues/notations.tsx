import { cues as cueRoom, type show as core } from '@deep-patch/core';
import { useState } from 'react';

interface Props {
  readonly message: core.CueMessage;
  readonly aimed: cueRoom.Aimed;
  readonly onEdit: (message: core.CueMessage) => void;
}

const labels: Readonly<Record<cueRoom.Notation, string>> = {
  blanks: 'divided by blanks',
  quoted: 'texts in quotation marks',
  typed: 'with the types of its values',
};

/** The same message as different controllers have it typed; each may be pasted over, and is read back. */
export function Notations({ message, aimed, onEdit }: Props) {
  const osc = cueRoom.oscOf(aimed);
  return (
    <div className="grid gap-2">
      {cueRoom.notations.map((notation) => (
        <OneNotation
          key={`${notation} ${JSON.stringify(osc)}`}
          {...{ notation, message, aimed, onEdit }}
          written={osc && cueRoom.writtenOsc(osc, notation)}
        />
      ))}
    </div>
  );
}

function OneNotation({
  notation,
  written,
  message,
  aimed,
  onEdit,
}: Props & { readonly notation: cueRoom.Notation; readonly written: string | undefined }) {
  const [typed, setTyped] = useState<string>();
  const text = typed ?? written ?? '';
  const read = typed === undefined ? undefined : cueRoom.readOsc(typed, notation);
  const keep = () => {
    if (!read?.ok || !aimed.service) return;
    const found = cueRoom.commandOf(aimed.service, read.message);
    setTyped(undefined);
    if (found) onEdit({ ...message, command: found.command.key, args: found.args, typed: '' });
    else onEdit({ ...message, command: null, args: [], typed: text.slice(0, 200) });
  };
  return (
    <label className="grid gap-0.5 text-xs text-mute">
      {labels[notation]}
      <input
        className={`field key-num h-7 ${read && !read.ok ? 'border-error' : ''}`}
        value={text}
        placeholder={written === undefined ? 'this notation cannot say it' : ''}
        maxLength={200}
        onChange={(event) => setTyped(event.target.value)}
        onBlur={keep}
        onKeyDown={(event) => event.key === 'Enter' && keep()}
      />
      {read &&
        !read.ok &&
        read.faults.map((fault) => (
          <span key={`${fault.code} ${fault.at}`} className="text-error">
            <code>{`${text.slice(Math.max(0, fault.at - 6), fault.at)}▸${text.slice(fault.at, fault.at + 8)}`}</code>{' '}
            {cueRoom.notationWords(fault)}
          </span>
        ))}
    </label>
  );
}
