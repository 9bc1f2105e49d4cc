import { Empty } from './empty.tsx';

/** A filter that leaves nothing says so, and how to see all again. */
export function NoHits({
  filter,
  what,
  onClear,
}: {
  readonly filter: string;
  /** What stands in the rows, one of them. */
  readonly what: string;
  readonly onClear: () => void;
}) {
  return (
    <div className="flex-1">
      <Empty text={`No ${what} has “${filter.trim()}” in any column.`}>
        <button type="button" className="act-main" onClick={onClear}>
          Show all {what}s
        </button>
      </Empty>
    </div>
  );
}
