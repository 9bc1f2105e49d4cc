import type { cues as cueRoom } from '@deep-patch/core';
import { partsOf, type MessagePart } from './message-parts.ts';

/** The bytes of a message, and what each of them stands for. */
export function MessageBytes({ aimed }: { readonly aimed: cueRoom.Aimed }) {
  const parts = partsOf(aimed);
  if (parts.length === 0) return <p className="text-xs text-mute">It cannot be written as it is.</p>;
  const count = parts.reduce((sum, { bytes }) => sum + bytes.length, 0);
  return (
    <dl className="grid grid-cols-[6.5rem_1fr] gap-x-2 gap-y-1 text-xs" aria-label={`${count} bytes`}>
      {parts.map((part, at) => (
        <div key={at} className="contents">
          <dt className="truncate text-mute" title={part.name}>
            {part.name}
          </dt>
          <dd className="font-mono break-words">{shown(part)}</dd>
        </div>
      ))}
    </dl>
  );
}

const shown = ({ bytes, isText }: MessagePart): string =>
  isText
    ? new TextDecoder().decode(bytes).replaceAll('\r\n', ' ␍␊ ').trim()
    : Array.from(bytes, (byte) => byte.toString(16).padStart(2, '0')).join(' ');
