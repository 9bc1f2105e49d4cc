import type { show as core } from '@deep-patch/core';
import { Mark } from '../parts/mark.tsx';

/** The last messages that stand-ins took in, newest first. */
export function HeardList({ heard }: { heard: readonly core.HeardMessage[] }) {
  const last = heard.slice(-40).reverse();
  return (
    <section
      aria-label="Messages heard"
      className="h-44 shrink-0 overflow-auto border-t border-rule bg-base-200"
      tabIndex={0}
    >
      <h2 className="sticky top-0 border-b border-rule bg-base-200 px-4.5 py-1.5 text-[13px] font-semibold">
        Heard{' '}
        <span className="font-normal text-mute">
          {heard.length === 0 ? 'nothing yet: sound a link' : 'newest first'}
        </span>
      </h2>
      <ol>
        {last.map((message, at) => (
          <li
            key={`${message.at} ${last.length - at}`}
            className="grid grid-cols-[7.5rem_1fr_1fr_3.5rem_2fr] items-baseline gap-2 border-b border-rule px-4.5 py-1 text-[13px]"
          >
            <code className="text-mute">{timeOf(message.at)}</code>
            <span className="truncate">{message.from}</span>
            <span className="truncate">
              <span className="text-mute">to</span> {message.to}
            </span>
            <span className="text-xs text-primary">{message.protocol}</span>
            <code className={`truncate ${message.ok ? '' : 'text-error'}`} title={message.text}>
              {!message.ok && <Mark state="fail" size={11} />} {message.text}
            </code>
          </li>
        ))}
      </ol>
    </section>
  );
}

const timeOf = (at: number): string => new Date(at).toISOString().slice(11, 23);
