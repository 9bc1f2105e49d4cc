import type { UnreadLine } from '@deep-patch/codecs';

export interface Unread {
  readonly lines: readonly UnreadLine[];
  /** How many there are beyond those. */
  readonly more: number;
}

/** What the reader made nothing of: lines with an address at once, the rest when asked. */
export function NotUnderstood({ lines, more }: Unread) {
  const strange = lines.filter(({ hasAddress }) => hasAddress);
  const others = lines.filter(({ hasAddress }) => !hasAddress);
  return (
    <div className="grid gap-2 text-[13px]">
      {strange.length > 0 && (
        <div role="alert" className="grid gap-1 border-l-3 border-warning bg-warning/10 px-3 py-2">
          <p>
            {strange.length === 1 ? 'One line holds an address' : `${strange.length} lines hold an address`} and could
            not be read to the end. Look whether a host is missing below.
          </p>
          <Lines of={strange} />
        </div>
      )}
      {others.length > 0 && (
        <details>
          <summary className="cursor-pointer text-mute">
            {others.length + more === 1 ? 'One other line says' : `${others.length + more} other lines say`} nothing of
            an address
          </summary>
          <Lines of={others} />
          {more > 0 && <p className="text-mute">… and {more} more.</p>}
        </details>
      )}
    </div>
  );
}

function Lines({ of }: { of: readonly UnreadLine[] }) {
  return (
    <ul className="max-h-40 overflow-y-auto" tabIndex={0} aria-label="Lines that were not understood">
      {of.map(({ line, text }) => (
        <li key={line} className="flex gap-3">
          <span className="w-10 shrink-0 text-right text-mute">{line}</span>
          <code className="break-all">{text}</code>
        </li>
      ))}
    </ul>
  );
}
