import { writeBlock } from '@deep-patch/codecs';
import { links as room } from '@deep-patch/core';
import { useMemo } from 'react';
import { TableHeads } from '../parts/table-heads.tsx';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import { Loading } from '../parts/empty.tsx';
import { Mark } from '../parts/mark.tsx';
import { saveFile } from '../parts/save-file.ts';
import { tableCsv } from '../parts/table-csv.ts';

const heads = ['Slot', 'Group', 'Name', 'Address', 'Port', 'Account', 'Speaks'] as const;

/** What to key into each controller, line by line, as it stands on its own screen. */
export function SheetsView() {
  const show = useShow();
  const { analysis, showId } = useWorkspace();
  const sheets = useMemo(
    () => analysis && room.registerSheets(show, room.linkFacts(show, analysis.addressing)),
    [show, analysis],
  );
  if (!sheets) return <Loading />;
  return (
    <div
      className="grid min-w-0 flex-1 auto-rows-max grid-cols-[minmax(0,1fr)] content-start gap-6 overflow-auto p-4.5"
      tabIndex={0}
      role="region"
      aria-label="Sheets"
    >
      {sheets.map((sheet) => (
        <Sheet key={sheet.controller.id} sheet={sheet} showId={showId} />
      ))}
    </div>
  );
}

const cellsOf = (line: room.RegisterLine): readonly string[] => [
  line.slot === null ? '' : String(line.slot),
  line.group,
  line.name,
  line.address ?? '',
  String(line.port),
  line.account ?? '',
  line.protocol,
];

function Sheet({
  sheet: { controller, lines },
  showId,
}: {
  readonly sheet: room.RegisterSheet;
  readonly showId: string;
}) {
  const doubled = lines.filter(({ isDoubled }) => isDoubled).length;
  const csv = () =>
    tableCsv(
      heads.map((header, at) => ({
        header,
        key: header,
        width: '',
        cell: () => null,
        text: (row: readonly string[]) => row[at] ?? '',
      })),
      lines.map(cellsOf),
    );
  return (
    <section aria-label={`Sheet of ${controller.name}`} className="overflow-x-auto">
      <div className="mb-1.5 flex flex-wrap items-center gap-3">
        <h2 className="text-[15px] font-bold">{controller.name}</h2>
        <span className="text-[13px] text-mute">{controller.place}</span>
        <button
          type="button"
          className="act-quiet btn-xs"
          aria-label={`Save as CSV: ${controller.name}`}
          onClick={() => saveFile(`${showId}-${controller.id}-sheet.csv`, csv(), 'text/csv')}
        >
          Save as CSV
        </button>
        <button
          type="button"
          className="act-quiet btn-xs"
          aria-label={`Copy: ${controller.name}`}
          onClick={() =>
            void navigator.clipboard.writeText(writeBlock([[...heads], ...lines.map(cellsOf).map((row) => [...row])]))
          }
        >
          Copy
        </button>
        {doubled > 0 && (
          <span className="text-[13px] text-error">
            <Mark state="fail" size={11} /> {doubled} lines share a slot
          </span>
        )}
      </div>
      <SheetTable lines={lines} />
    </section>
  );
}

function SheetTable({ lines }: { readonly lines: readonly room.RegisterLine[] }) {
  return (
    <table className="text-[13px]">
      <TableHeads of={heads} />
      <tbody>
        {lines.map((line) => (
          <tr key={line.link.id} className="border-b border-rule">
            {cellsOf(line).map((text, at) => (
              <td
                key={heads[at]}
                className={`px-2.5 py-1.5 ${at === 0 || at === 3 || at === 4 ? 'font-mono text-[15px]' : ''} ${at === 0 && line.isDoubled ? 'text-error' : ''}`}
              >
                {text || <span className="text-faint">{at === 3 ? 'no address yet' : ''}</span>}
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}
