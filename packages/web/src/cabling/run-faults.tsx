import type { cabling } from '@deep-patch/core';
import { runColumns } from './run-rows.ts';

const mostShown = 8;
const headerOf = (field: string): string => runColumns.find(({ key }) => key === field)?.header ?? field;

/** Everything that is wrong with what was written, line by line; nothing of it was taken. */
export function RunFaults({
  faults,
  lineWord,
  onClose,
}: {
  readonly faults: readonly cabling.RunFault[];
  /** What a line is called where it was written; nothing where there is only one. */
  readonly lineWord?: string;
  readonly onClose?: () => void;
}) {
  if (faults.length === 0) return null;
  return (
    <div role="alert" className="flex items-start gap-3 border-l-3 border-error bg-error/12 px-3 py-2 text-[13px]">
      <div className="min-w-0">
        <b>Nothing was changed.</b>
        <ul>
          {faults.slice(0, mostShown).map(({ line, field, text, message }) => (
            <li key={`${line} ${field}`}>
              {lineWord && `${lineWord} ${line}, `}
              {headerOf(field)}
              {text && `: “${text}”`}. {message}.
            </li>
          ))}
          {faults.length > mostShown && <li>and {faults.length - mostShown} more</li>}
        </ul>
      </div>
      {onClose && (
        <button type="button" className="act-quiet ml-auto" onClick={onClose}>
          Close
        </button>
      )}
    </div>
  );
}
