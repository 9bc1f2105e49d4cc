import type { ReactNode } from 'react';
import { HeadRow } from './head-row.tsx';

interface Props {
  readonly label: string;
  readonly heads: readonly string[];
  readonly rows: readonly { readonly id: string; readonly cells: readonly ReactNode[] }[];
  /** How many rows are drawn; the rest is counted. */
  readonly most?: number;
}

/** A table to read in a dialogue: it scrolls by itself and keeps its head. */
export function PlainTable({ label, heads, rows, most = 300 }: Props) {
  return (
    <div
      className="max-h-80 overflow-auto rounded-field border border-rule"
      tabIndex={0}
      role="region"
      aria-label={label}
    >
      <table className="w-full text-[13px]">
        <HeadRow heads={heads} sticks />
        <tbody>
          {rows.slice(0, most).map(({ id, cells }) => (
            <tr key={id} className="border-t border-rule">
              {cells.map((cell, at) => (
                <td key={heads[at]} className="px-2.5 py-1">
                  {cell}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
      {rows.length > most && <p className="px-2.5 py-2 text-mute">and {rows.length - most} more</p>}
    </div>
  );
}
